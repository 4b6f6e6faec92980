import type {
  Added,
  Captured,
  Done,
  Health,
  IncomingPage,
  SignInOptions,
  TagInfo,
  TaskChanged,
  TasksAdded,
  TokenInfo,
  TokenMade,
} from './answers';
import type { CalendarRoutes } from './calendar-routes';
import type { OthersRoutes } from './others-routes';
import type { OwnRoutes } from './own-routes';
import type { PassRoutes } from './passes';
import type { PlanningRoutes } from './planning';
import type { DataRoutes } from './data-routes';
import type { DecideInput } from './decide';
import type { DoingRoutes } from './doing';
import type { CheckInRoutes } from './check-ins';
import type { LookbackRoutes } from './lookback';
import type {
  AccountInput,
  CalendarChange,
  CalendarInput,
  CaptureInput,
  NoteChange,
  NoteInput,
  PasswordInput,
  SignInInput,
  TokenInput,
} from './inputs';
import type { ListChange, ListInput, ListsOrder, ViewChange, ViewInput } from './list-inputs';
import type {
  BeginningInput,
  BreakDownInput,
  FileNameInput,
  HandOverInput,
  HandOverQuery,
  NudgeInput,
  TaskChange,
  TasksChange,
  TasksInput,
  TasksOut,
} from './task-inputs';
import type { CalendarRemoval, FindQuery, IncomingQuery, ListRemoval, StreamQuery, TasksQuery } from './queries';
import type { ReplyInput, SettingsInput, SettleInput, SourceChange, SourceInput } from './source-inputs';
import type { NearPlace, OutboxInfo, SourceInfo, SourceLook } from './sources';
import type { Nudge, TaskFull, TaskInfo } from './tasks';
import type {
  CalendarInfo,
  DecisionAnswer,
  DecisionInfo,
  FindAnswer,
  ImportReport,
  IncomingFull,
  ListInfo,
  ProjectInfo,
  Me,
  NoteInfo,
  NoteLine,
  UndoAnswer,
  ViewInfo,
} from './things';

/**
 * Every route below `/api`, with what it takes and gives. The description in `/api/openapi.json` is made from this table
 * and from the rules of the input classes; a test compares it with the routes of the running server.
 * `open`: without being signed in. `status`: where it is not 200 (GET, PATCH, DELETE) or 201 (POST). `file`, `files`: the
 * field of a form that carries them. `bytes`: the media type of an answer that is no JSON. `errors`: besides those that
 * the shape of the request says (400, 401, 404 where there is an id, 409 where there is a version).
 */
export interface Routes
  extends
    OwnRoutes,
    CalendarRoutes,
    OthersRoutes,
    PassRoutes,
    PlanningRoutes,
    DoingRoutes,
    LookbackRoutes,
    CheckInRoutes,
    DataRoutes {
  /** All tasks that are not over, and those done lately. */
  'GET /tasks': { query: TasksQuery; answer: TaskInfo[] };
  /** One task. */
  'GET /tasks/:id': { answer: TaskFull };
  /** Makes tasks, or steps of one, a line each. */
  'POST /tasks': { body: TasksInput; answer: TasksAdded; errors: 'bad-field' | 'not-found' };
  /** Changes a task, or puts it elsewhere. */
  'PATCH /tasks/:id': { body: TaskChange; answer: TaskChanged; errors: 'bad-field' };
  /** Passes over one date of a repeating task: it comes on the next one instead. */
  'POST /tasks/:id/skipping': { status: 200; answer: Done; errors: 'no-next-date' };
  /** Breaks a task into steps with estimates; the first may get its time. */
  'POST /tasks/:id/steps': { status: 200; body: BreakDownInput; answer: Done; errors: 'bad-field' };
  /** Begins a task now: it is under way, and has the next minutes as its time. */
  'POST /tasks/:id/beginning': { status: 200; body: BeginningInput; answer: Done; errors: 'bad-field' };
  /** The mail that would ask whom a task waits on once more. */
  'GET /tasks/:id/nudge': { answer: Nudge; errors: 'waits-for-nobody' | 'no-address' };
  /** Asks them once more, by mail. */
  'POST /tasks/:id/nudge': {
    status: 200;
    body: NudgeInput;
    answer: Done;
    errors: 'waits-for-nobody' | 'no-address' | 'no-way-out';
  };
  /** The mail that would ask somebody to take a task over. */
  'GET /tasks/:id/handing-over': { query: HandOverQuery; answer: Nudge; errors: 'no-address' | 'bad-field' };
  /** Hands a task over: it waits on them, and time to come that was set aside for it is free again. */
  'POST /tasks/:id/handing-over': {
    status: 200;
    body: HandOverInput;
    answer: Done;
    errors: 'no-address' | 'bad-field' | 'no-way-out';
  };
  /** Changes many tasks together. */
  'POST /tasks/change': { status: 200; body: TasksChange; answer: Done; errors: 'bad-field' | 'not-found' };
  /** Tasks as a table, a calendar of tasks, a Markdown list or plain text. */
  'POST /tasks/out': { status: 200; body: TasksOut; answer: null; bytes: 'text/plain' };
  /** Puts files to a task. */
  'POST /tasks/:id/files': { files: 'files'; answer: Done; errors: 'no-file' | 'too-much' };
  /** Puts files to an event. */
  'POST /events/:id/files': { files: 'files'; answer: Done; errors: 'no-file' | 'too-much' };
  /** The bytes of a file of a task. */
  'GET /files/:id': { answer: null; bytes: 'application/octet-stream'; errors: 'file-missing' };
  /** Calls a file otherwise. */
  'PATCH /files/:id': { body: FileNameInput; answer: Done };
  /** Takes a file away from its task. */
  'DELETE /files/:id': { answer: Done };

  /** What waits or was decided, page by page. */
  'GET /incoming': { query: IncomingQuery; answer: IncomingPage; errors: 'bad-cursor' | 'bad-limit' };
  /** One incoming with its text, facts, attachments, thread, and what became of it. */
  'GET /incoming/:id': { answer: IncomingFull };
  /** The original, byte for byte. */
  'GET /incoming/:id/original': { answer: null; bytes: 'application/octet-stream'; errors: 'file-missing' };
  /** The bytes of an attachment. */
  'GET /attachments/:id': { answer: null; bytes: 'application/octet-stream'; errors: 'file-missing' };
  /** Keeps one side where a field was changed differently here and in the source. */
  'POST /incoming/:id/settle': { status: 200; body: SettleInput; answer: Done; errors: 'no-conflict' };
  /** Puts what was decided back into the inbox; what came of it stays. */
  'POST /incoming/:id/reopen': { status: 200; answer: Done; errors: 'not-decided' };
  /** Replies to a mail or a chat message. */
  'POST /incoming/:id/reply': { status: 200; body: ReplyInput; answer: Done; errors: 'no-reply' | 'no-address' | 'no-way-out' };

  /** Takes a typed line in, as what it says it is. */
  'POST /captures': { body: CaptureInput; answer: Captured; errors: 'taken-before' | 'bad-field' };

  /** Decides one or many incoming things; each destination has its own input. */
  'POST /decisions': {
    status: 200;
    body: DecideInput;
    answer: DecisionAnswer;
    errors:
      | 'not-found'
      | 'decided-already'
      | 'two-versions'
      | 'bad-field'
      | 'no-invitation'
      | 'event-gone'
      | 'no-address'
      | 'no-way-out';
  };
  /** Takes the latest doing back that can be taken back. */
  'POST /decisions/undo': { status: 200; answer: UndoAnswer; errors: 'nothing-to-undo' | 'changed-since' };
  /** Does again what was taken back last. */
  'POST /decisions/redo': { status: 200; answer: UndoAnswer; errors: 'nothing-to-redo' | 'changed-since' };
  /** The latest doings, newest first. */
  'GET /decisions': { answer: DecisionInfo[] };

  /** All lists, with how much on each is open. */
  'GET /lists': { answer: ListInfo[] };
  /** How far each project is, what comes next in it, and whether it moves. */
  'GET /projects': { answer: ProjectInfo[] };
  /** Makes a list. */
  'POST /lists': { body: ListInput; answer: { id: string }; errors: 'bad-field' };
  /** Puts lists in another order or in other groups. */
  'POST /lists/order': { status: 200; body: ListsOrder; answer: Done; errors: 'bad-field' };
  /** Changes a list, or puts it away. */
  'PATCH /lists/:id': { body: ListChange; answer: Done; errors: 'bad-field' };
  /** Takes a list away; what becomes of its tasks is said. */
  'DELETE /lists/:id': { query: ListRemoval; answer: Done; errors: 'bad-field' };
  /** Views of tasks that are kept under a name. */
  'GET /views': { answer: ViewInfo[] };
  /** Keeps a view. */
  'POST /views': { body: ViewInput; answer: Added; errors: 'bad-field' };
  /** Changes a kept view. */
  'PATCH /views/:id': { body: ViewChange; answer: Done; errors: 'bad-field' };
  /** Takes a kept view away. */
  'DELETE /views/:id': { answer: Done };
  /** All tags. */
  'GET /tags': { answer: TagInfo[] };
  /** All pages of notes, without their text. */
  'GET /notes': { answer: NoteLine[] };
  /** One page of notes. */
  'GET /notes/:id': { answer: NoteInfo };
  /** Begins a page. */
  'POST /notes': { body: NoteInput; answer: Added; errors: 'bad-field' };
  /** Changes a page. */
  'PATCH /notes/:id': { body: NoteChange; answer: Done; errors: 'bad-field' };
  /** Removes a page; what it was written from stays. */
  'DELETE /notes/:id': { answer: Done };

  /** What came in and what was made of it, best first. */
  'GET /find': { query: FindQuery; answer: FindAnswer };

  /** All calendars. */
  'GET /calendars': { answer: CalendarInfo[] };
  /** All calendars, and all tasks, as one file. */
  'GET /calendars/file': { answer: null; bytes: 'text/calendar' };
  /** One calendar as a file. */
  'GET /calendars/:id/file': { answer: null; bytes: 'text/calendar' };
  /** Shows or hides a calendar, and says whether it takes time. */
  'POST /calendars': { body: CalendarInput; answer: Added; errors: 'bad-field' };
  /** Changes how a calendar is called, shown and counted. */
  'PATCH /calendars/:id': { body: CalendarChange; answer: Done };
  /** Takes a calendar of one's own away; what becomes of its events is said. */
  'DELETE /calendars/:id': { query: CalendarRemoval; answer: Done; errors: 'still-needed' | 'bad-field' };

  /** All sources, and how they are. */
  'GET /sources': { answer: SourceInfo[] };
  /** Places of the demo's outside world that can be connected. */
  'GET /sources/near': { answer: NearPlace[] };
  /** Looks at a source before it is connected: what it offers and what would come. */
  'POST /sources/look': { status: 200; body: SourceInput; answer: SourceLook; errors: 'bad-field' | 'source-failed' };
  /** Connects a source. */
  'POST /sources': { body: SourceInput; answer: SourceInfo; errors: 'bad-field' | 'source-failed' | 'too-much' };
  /** One source. */
  'GET /sources/:id': { answer: SourceInfo };
  /** Looks at a connected source with other settings. */
  'POST /sources/:id/look': { status: 200; body: SettingsInput; answer: SourceLook; errors: 'bad-field' | 'source-failed' };
  /** Changes a source. */
  'PATCH /sources/:id': { body: SourceChange; answer: SourceInfo; errors: 'bad-field' | 'source-failed' };
  /** Looks for news now. */
  'POST /sources/:id/run': { status: 200; answer: SourceInfo; errors: 'paused' };
  /** Stops a look that is going on. */
  'POST /sources/:id/stop': { status: 200; answer: SourceInfo };
  /** Disconnects a source; what came of it stays, but for the events of a feed. */
  'DELETE /sources/:id': { answer: { sentence: string } };
  /** What waits to go out, and what went lately. */
  'GET /outbox': { answer: OutboxInfo[] };
  /** Tries to send it now. */
  'POST /outbox/:id/now': { status: 204; answer: null; errors: 'not-waiting' };
  /** Gives it up. */
  'POST /outbox/:id/give-up': { status: 204; answer: null; errors: 'not-waiting' };

  /** Takes files in and answers when all is taken. */
  'POST /import': { status: 200; files: 'files'; answer: ImportReport; errors: 'no-file' };

  /** What can be done without being signed in. */
  'GET /session': { open: true; answer: SignInOptions };
  /** Signs in; the session is a cookie. */
  'POST /session': { open: true; status: 204; body: SignInInput; answer: null; errors: 'wrong-password' | 'too-many' };
  /** Signs in to the demo. */
  'POST /session/demo': { open: true; status: 204; answer: null; errors: 'not-allowed' };
  /** Signs out. */
  'DELETE /session': { status: 204; answer: null };
  /** Ends every other session. */
  'POST /session/everywhere': { status: 200; answer: { ended: number } };
  /** Makes the first account. */
  'POST /account': { open: true; status: 204; body: AccountInput; answer: null; errors: 'not-allowed' | 'bad-field' };
  /** Changes the password, and ends every other session. */
  'POST /password': {
    status: 204;
    body: PasswordInput;
    answer: null;
    errors: 'not-allowed' | 'wrong-password' | 'bad-field' | 'too-many';
  };
  /** Who is signed in. */
  'GET /me': { answer: Me };
  /** Tokens of programs. */
  'GET /tokens': { answer: TokenInfo[] };
  /** Makes a token, shown this once. */
  'POST /tokens': { body: TokenInput; answer: TokenMade };
  /** Withdraws a token. */
  'DELETE /tokens/:id': { status: 204; answer: null };

  /**
   * What changes, as server-sent events: `change` with a list of {kind, ids} and the revision as its id, `behind` where
   * too much happened since, and `beat`. It begins after `since` or after the header Last-Event-ID.
   */
  'GET /stream': { query: StreamQuery; answer: null; bytes: 'text/event-stream' };
  /** Whether the server answers and can write. */
  'GET /health': { open: true; answer: Health };
}

export type Route = keyof Routes;
export type Answer<R extends Route> = Routes[R]['answer'];
export type Body<R extends Route> = Routes[R] extends { body: infer B } ? B : undefined;
export type QueryOf<R extends Route> = Routes[R] extends { query: infer Q } ? Q : object;

/** The names in a path that stand for something: `id` in `/tasks/:id`. */
export type Named<P extends string> = P extends `${string}:${infer N}/${infer Rest}`
  ? N | Named<`/${Rest}`>
  : P extends `${string}:${infer N}`
    ? N
    : never;

/** What fills a path, and what goes behind its question mark. */
export type Place<R extends Route> = { [N in Named<R>]: string } & QueryOf<R>;
