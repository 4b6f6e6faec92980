import type { StreamChange, TaskInfo } from '@corvun/contract';
import { get } from './api';
import { applyIncoming } from './inbox';
import { client } from './queries';
import { isPending, sorted } from './tasks';

type Ids = readonly string[];

/** What is done in this window when a kind changed. */
interface Applied {
  /** Answers that are asked for again. */
  again: readonly string[];
  /** Puts some of the kind into what is shown, so that the rest is not asked for again. */
  each?: (ids: Ids) => Promise<void>;
  /** What is asked for again where too many changed for that. */
  all?: readonly string[];
}

const APPLY: Record<StreamChange['kind'], Applied> = {
  incoming: { again: ['person', 'now', 'log', 'sources'], each: applyEachIncoming, all: ['inbox', 'incoming'] },
  task: {
    again: [
      'days',
      'outline',
      'projects',
      'rest',
      'task',
      'person',
      'event',
      'cost',
      'risks',
      'now',
      'fits',
      'ledger',
      'log',
      'weather',
    ],
    each: applyTasks,
    all: ['tasks'],
  },
  taskFile: { again: ['tasks', 'task'] },
  eventFile: { again: ['event'] },
  list: { again: ['lists', 'projects', 'ledger'] },
  view: { again: ['views'] },
  tag: { again: ['tags'] },
  calendar: { again: ['calendars', 'days', 'event', 'cost', 'risks', 'ledger', 'log'] },
  event: {
    again: [
      'days',
      'outline',
      'tasks',
      'task',
      'person',
      'event',
      'cost',
      'risks',
      'presence',
      'ledger',
      'log',
      'quiet',
      'weather',
    ],
  },
  block: {
    again: ['days', 'outline', 'tasks', 'task', 'cost', 'risks', 'now', 'fits', 'presence', 'ledger', 'log', 'quiet', 'weather'],
  },
  person: { again: ['people', 'person', 'incoming'] },
  note: { again: ['notes', 'note', 'event', 'log'] },
  source: { again: ['sources', 'presence'] },
  outbox: { again: ['outbox', 'sources', 'person', 'log'] },
  import: { again: ['imports'] },
  data: { again: ['data'] },
  settings: { again: ['me', 'days', 'outline', 'cost', 'risks', 'presence', 'ledger', 'log', 'quiet', 'weather'] },
  mailWay: { again: ['me', 'mailWay', 'outbox'] },
  reminder: { again: ['reminders', 'now'] },
  share: { again: ['others'] },
  meetPage: { again: ['others'] },
  booking: { again: ['others'] },
  offer: { again: ['others'] },
  mirror: { again: ['mirrors', 'days', 'risks'] },
  dayPlan: { again: ['passes', 'outline', 'presence', 'log'] },
  pass: { again: ['passes', 'log'] },
  shortlist: { again: ['passes', 'rest'] },
  timeEntry: { again: ['now', 'task', 'ledger', 'log'] },
  headsDown: { again: ['now', 'presence', 'quiet'] },
  presence: { again: ['presence'] },
  siteHold: { again: ['quiet', 'log'] },
  grace: { again: ['quiet', 'ledger', 'log'] },
  logLine: { again: ['log'] },
  checkIn: { again: ['checkIns', 'log'] },
  checkInAnswer: { again: ['checkIns', 'log'] },
};

/** Kinds whose changes are not in the log: after a break they are asked for again. */
const STATES = ['sources', 'outbox', 'imports', 'data'];
const MOST_AT_ONCE = 50;

/** An answer that is on its way for the first time is not asked for anew, and may have been read before this change. */
async function again(key: string): Promise<void> {
  const queryKey = [key];
  const first = client.isFetching({ queryKey, predicate: ({ state }) => state.data === undefined });
  await client.invalidateQueries({ queryKey });
  if (first) await client.invalidateQueries({ queryKey });
}

/** Brings what this window shows up to date with changes: each answer is asked for once, however many kinds ask for it. */
export function applyChanges(changes: readonly StreamChange[]): void {
  const ids = new Map<StreamChange['kind'], Set<string> | null>();
  for (const change of changes) {
    const known = ids.get(change.kind);
    if (known === null || !change.ids.length) ids.set(change.kind, null);
    else ids.set(change.kind, new Set([...(known ?? []), ...change.ids]));
  }
  const keys = new Set([...ids].flatMap(([kind, some]) => [...APPLY[kind].again, ...(some ? [] : (APPLY[kind].all ?? []))]));
  for (const key of keys) void again(key);
  for (const [kind, some] of ids) {
    const { each, all = [] } = APPLY[kind];
    // What is asked for as a whole holds these, too.
    if (some && each && !all.some((key) => keys.has(key))) void each([...some]);
  }
}

/** Loads everything that is shown anew. */
export function loadAnew(): void {
  void client.invalidateQueries({ predicate: ({ queryKey }) => queryKey[0] !== 'me' });
}

/** After a break: what is not in the log, and what could not be loaded meanwhile. */
export function catchUp(): void {
  for (const key of STATES) void again(key);
  void client.invalidateQueries({ predicate: ({ state, queryKey }) => state.status === 'error' && queryKey[0] !== 'me' });
}

async function applyEachIncoming(ids: Ids): Promise<void> {
  for (const id of ids) void client.invalidateQueries({ queryKey: ['incoming', id] });
  await applyIncoming(ids);
}

let asking: Promise<void> = Promise.resolve();

/** Changed tasks are put into what is shown, one question after the other: an older answer must not come after a newer one. */
function applyTasks(ids: Ids): Promise<void> {
  asking = asking.then(() => askTasks(ids));
  return asking;
}

async function askTasks(ids: Ids): Promise<void> {
  if (!client.getQueryData(['tasks'])) return;
  if (ids.length > MOST_AT_ONCE) return again('tasks');
  const fresh = await get('/tasks', { ids: ids.join(',') }).catch(() => null);
  // The server is away: everything is asked for again when it is back.
  if (!fresh) return;
  // What was changed again here meanwhile is told once more when that is answered.
  const told = ids.filter((id) => !isPending(id));
  const those = fresh.filter((task) => !isPending(task.id));
  client.setQueryData<TaskInfo[]>(['tasks'], (old) => (old ? withTasks(old, told, those) : old));
  // All of them, still on their way, may have been read before this change.
  if (client.isFetching({ queryKey: ['tasks'] })) void again('tasks');
}

/** Tasks with some of them as they are now; what is not among `fresh` is no longer shown. */
export function withTasks(old: readonly TaskInfo[], ids: Ids, fresh: readonly TaskInfo[]): TaskInfo[] {
  const gone = new Set(ids);
  return sorted([...old.filter((task) => !gone.has(task.id)), ...fresh]);
}
