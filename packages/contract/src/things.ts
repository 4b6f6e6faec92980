import type { Destination, Find, MessageFacts, ProjectProgress, Settings, Suggestion } from '@corvun/core';

/** Instants are ISO 8601 with an offset, in the user's zone; days are `YYYY-MM-DD`; durations whole minutes. */
export type IsoTime = string;

export type IncomingKind = 'mail' | 'chat' | 'invitation' | 'card' | 'note-line' | 'feed-entry' | 'typed' | 'clipped' | 'file';

export interface NamedAddress {
  name: string;
  address: string;
}

/** What of the facts a line of the stack shows. */
export interface FactsSummary {
  asks: number;
  deadline: string | null;
  deadlineFixed: boolean;
  minutes: number | null;
}

export interface IncomingLine {
  id: string;
  source: string;
  kind: IncomingKind;
  sender: NamedAddress;
  subject: string;
  received: IsoTime;
  state: 'waiting' | 'decided';
  summary: FactsSummary;
  attachments: number;
  bulk: boolean;
  suggestion: Suggestion | null;
  /** What a connected source is called; empty for mail sent to the capture address and typed lines. */
  sourceName: string;
  /** What is special about it, in a few words: what an update changed. */
  note: string;
  /** It says that something was changed here and there: which of both to keep is said by settling it. */
  twoVersions: boolean;
  version: number;
}

export interface AttachmentInfo {
  id: string;
  name: string;
  type: string;
  size: number;
  url: string;
}

/** A message beside the one that came in, for context. */
export interface ContextLine {
  who: string;
  at: IsoTime;
  text: string;
  /** The message that came in itself. */
  itself: boolean;
}

/** What an invitation asks, and how things stand (RFC 5546). */
export interface InvitationInfo {
  method: 'REQUEST' | 'CANCEL' | 'REPLY' | 'COUNTER' | 'DECLINECOUNTER' | 'ADD' | 'REFRESH' | 'PUBLISH';
  uid: string;
  sequence: number;
  /** The occurrence it is about, as wall-clock time or day; null for the whole event. */
  recurrenceId: string | null;
  title: string;
  /** ISO 8601 in the user's zone, or a day. */
  start: string;
  end: string;
  allDay: boolean;
  repeats: boolean;
  location: string;
  organizer: NamedAddress;
  guests: { name: string; address: string; partstat: string }[];
  comment: string;
  /** The event in the calendar it is about; null when there is none (any more). */
  eventId: string | null;
  /** What the message changed: "moved from Tue 4 Aug 10:00 to Wed 5 Aug 14:00". */
  changes: string[];
  /** Whether a decision can answer it. */
  answerable: boolean;
  /** The answer given, if one was. */
  answered: 'yes' | 'maybe' | 'no' | null;
  /** What else stands in the calendar at that time. */
  overlaps: string[];
}

/** One field that was changed differently here and in the source. */
export interface ConflictInfo {
  /** The task it is about; empty: an event. */
  taskId: string;
  fields: ConflictField[];
}

/** A field as it was when both sides agreed, and as each side has it now. */
export interface ConflictField {
  field: string;
  /** What it is called, where `field` alone does not say it. */
  name?: string;
  base: string | number | boolean | null;
  here: string | number | boolean | null;
  there: string | number | boolean | null;
}

export interface MadeThing {
  kind: 'task' | 'block' | 'event' | 'person' | 'reference' | 'note';
  id: string;
  title: string;
}

export interface IncomingFull extends IncomingLine {
  to: NamedAddress[];
  written: IsoTime | null;
  text: string;
  html: string | null;
  heldBack: string;
  problems: string[];
  facts: MessageFacts;
  attachmentList: AttachmentInfo[];
  /** The other messages of its conversation, the newest first. */
  thread: {
    id: string;
    subject: string;
    /** Its own words, without what it quotes. */
    text: string;
    received: IsoTime;
    sender: NamedAddress;
    state: 'waiting' | 'decided';
    made: MadeThing[];
  }[];
  /** The same matter from other places, each with its own original. */
  joined: {
    id: string;
    kind: IncomingKind;
    source: string;
    subject: string;
    sender: NamedAddress;
    received: IsoTime;
    text: string;
  }[];
  /** This one was joined to another, which stands for both. */
  joinedTo: string | null;
  /** Tasks that waited for it. */
  answers: { id: string; title: string }[];
  /** Address of the original in its source, if it has one. */
  link: string;
  context: ContextLine[];
  invitation: InvitationInfo | null;
  conflict: ConflictInfo | null;
  /** The source takes a reply, or a mark, when this is decided. */
  canReply: boolean;
  originalSize: number;
  /** The sender's card, where the sender is known. */
  person: PersonInfo | null;
  outcome: Destination | null;
  made: MadeThing[];
}

/** Someone known by address, and how much came from there. */
export interface PersonInfo {
  id: string;
  name: string;
  address: string;
  organisation: string;
  phone: string;
  note: string;
  messages: number;
}

/** A page of notes, without its text. */
export interface NoteLine {
  id: string;
  title: string;
  changed: IsoTime;
  origins: number;
  version: number;
}

export interface NoteInfo extends NoteLine {
  /** Markdown. */
  text: string;
  /** The meeting it is the page of. */
  meeting: { id: string; occurrence: string | null; title: string; start: IsoTime } | null;
  /** The messages it was written from. */
  from: { id: string; subject: string; sender: NamedAddress; received: IsoTime; attachmentList: AttachmentInfo[] }[];
}

/** How far a project is. */
export interface ProjectInfo extends ProjectProgress {
  listId: string;
  /** Why it does not move, in a sentence; empty where it does. */
  stalled: string;
}

export interface ListInfo {
  id: string;
  name: string;
  code: string;
  hue: number;
  group: string;
  position: number;
  project: boolean;
  outcome: string;
  ends: string | null;
  /** Put away, with everything on it. */
  archived: boolean;
  /** New tasks on it get this tag. */
  defaultTag: string | null;
  concentration: 'deep' | 'medium' | 'light';
  /** New tasks on it are billed. */
  billable: boolean;
  open: number;
  version: number;
}

/** A view of tasks that is kept under a name. */
export interface ViewInfo {
  id: string;
  name: string;
  /** What stands behind the question mark of its address. */
  query: string;
  version: number;
}

export interface CalendarInfo {
  id: string;
  name: string;
  code: string;
  hue: number;
  origin: 'own' | 'feed' | 'connected';
  main: boolean;
  shown: boolean;
  busy: boolean;
  version: number;
}

export interface Me {
  id: string;
  name: string;
  email: string;
  captureAddress: string;
  zone: string;
  now: IsoTime;
  demo: boolean;
  /** Whether mail has a way out. */
  mailOut: boolean;
  /** Working time by ISO weekday: `{"1": ["09:00-12:00", "13:00-17:30"]}`. */
  hours: Record<string, string[]>;
  settings: Settings;
  /** The number of the last entry in the log: the stream goes on from here. */
  revision: number;
}

export interface DecisionInfo {
  id: string;
  sentence: string;
  action: string;
  at: IsoTime;
  incoming: string[];
  undone: boolean;
}

export interface DecisionAnswer {
  decision: string;
  sentence: string;
  made: MadeThing[];
}

export interface UndoAnswer {
  decision: string;
  sentence: string;
  undone: boolean;
  incoming: string[];
}

export interface ImportReport {
  taken: number;
  updated: number;
  known: number;
  refused: { file: string; at: string; reason: string }[];
}

export interface ApiError {
  error: { code: string; message: string; fields?: Record<string, string>; present?: unknown };
}

/** Something that was found. Title and snippet are text and hits in turn: text, hit, text, … */
export interface Found {
  id: string;
  thing: 'incoming' | 'task' | 'event' | 'note' | 'file' | 'person' | 'log';
  /** What a file lies with: the message it came with, or the task it was put to. */
  of: { thing: 'incoming' | 'task'; id: string; title: string } | null;
  kind: string;
  title: string[];
  snippet: string[];
  who: string;
  at: IsoTime;
  list: string | null;
  waiting: boolean;
  /** In the log of which day it stands; null: it is no part of one. */
  day: string | null;
}

export interface FindAnswer {
  find: Find;
  found: Found[];
  more: boolean;
}
