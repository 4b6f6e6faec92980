import type { IsoTime } from './things';

export type SourceKind = 'mailbox' | 'chat' | 'tracker' | 'notes' | 'feed' | 'account';
export type OutboxKind = 'mail' | 'card' | 'time' | 'reply' | 'mark' | 'line' | 'folder' | 'entry' | 'presence';

/** A board and what its statuses mean. */
export interface BoardChoice {
  id: string;
  name: string;
  /** Statuses that mean: ready to be done. */
  ready: string[];
  /** The status that means done. */
  done: string;
  /** The status a card goes back to when it is reopened here. */
  reopen: string;
}

/** A calendar or task list of an account, and where its things are here. */
export interface CollectionChoice {
  /** `events:` or `tasks:` and its path there; `free:` for when somebody is busy. */
  id: string;
  name: string;
  /** Of events: the calendar they stand in; null until it is made. */
  calendarId?: string | null;
  /** What is changed here cannot go there. */
  readOnly?: boolean;
  /** Of tasks: the id of the list they are on; null: a list of the same name is made. */
  listId?: string | null;
  /** Of when somebody is busy: the mail address of whose time it is. */
  address?: string;
}

/** What to bring in and how things map; only the fields of the source's kind are set. */
export interface SourceSettings {
  /** Mailbox: folders that are read. */
  folders?: string[];
  unreadOnly?: boolean;
  /** Mailbox: only mail of the last so many days. */
  days?: number;
  /** Mailbox: folder that decided mail is moved to; null leaves it where it is. */
  moveTo?: string | null;
  /** Chat: reaction with which the user marks a message for themselves. */
  mark?: string;
  /** Chat: direct messages come in. */
  direct?: boolean;
  /** Chat: a message with one of these words comes in. Tracker: only cards with one of them; all when empty. */
  words?: string[];
  /** Tracker: only cards with one of these labels; all when empty. */
  labels?: string[];
  /** Chat: channels the words are looked for in; all when empty. */
  channels?: string[];
  /** Chat: reaction that is set when a message was decided; empty for none. */
  decidedMark?: string;
  /** Chat: shows how one is, and its messages wait in quiet time. */
  presence?: boolean;
  boards?: BoardChoice[];
  /** Tracker: how its due dates are taken. */
  due?: 'fixed' | 'flexible' | 'none';
  /** Tracker: minutes spent are written back. */
  writeTime?: boolean;
  /** Notes: only lines with this tag; null for all. */
  tag?: string | null;
  /** Notes: folders left out. */
  leaveOut?: string[];
  /** Notes: files not changed for so many days are left out; null for none. */
  untouchedDays?: number | null;
  /** Tracker and notes: list that new tasks go to. */
  list?: string | null;
  /** Feed: counts as busy. */
  busy?: boolean;
  /** Account: the calendars and task lists that are connected. */
  collections?: CollectionChoice[];
}

export interface SourceInfo {
  id: string;
  kind: SourceKind;
  name: string;
  address: string;
  account: string;
  hasSecret: boolean;
  settings: SourceSettings;
  state: 'active' | 'paused';
  calendarId: string | null;
  every: number;
  lastTry: IsoTime | null;
  lastSuccess: IsoTime | null;
  nextTry: IsoTime | null;
  /** What went wrong last, as a sentence; empty when nothing did. */
  problem: string;
  /** What of it is not here, and why, as a sentence; empty when everything is. */
  left: string;
  /** A look that is going on. */
  progress: { done: number; total: number | null } | null;
  /** What came of it so far. */
  held: { waiting: number; decided: number; tasks: number; events: number };
  /** What waits to go back, and how much of it failed at least once. */
  outbox: { waiting: number; failed: number };
  version: number;
}

/** A place of the demo's outside world that can be connected. */
export interface NearPlace {
  kind: SourceKind;
  name: string;
  address: string;
  account?: string;
  secret?: string;
}

/** What a source offers, and what the present choice would bring in. */
export interface SourceLook {
  choices: {
    id: string;
    name: string;
    count: number | null;
    chosen: boolean;
    /** Of an account: whether what is changed here can go there. */
    writable?: boolean;
    /** Of when somebody is busy: the mail address, where it is known. */
    address?: string;
    statuses?: { id: string; name: string; count: number }[];
  }[];
  /** Of a tracker: the labels of the boards that are chosen, the most used first. */
  labels?: { id: string; name: string; count: number; chosen: boolean }[];
  total: number;
  matching: number;
  /** "34 of 212 cards: yours and ready". */
  sentence: string;
  /** The first few that would come. */
  sample: string[];
  /** Settings filled in where the source's own answers allow a good guess. */
  settings: SourceSettings;
}

export interface OutboxInfo {
  id: string;
  sourceId: string | null;
  sourceName: string;
  kind: OutboxKind;
  what: string;
  state: 'waiting' | 'sent' | 'given-up';
  attempts: number;
  nextTry: IsoTime | null;
  problem: string;
  created: IsoTime;
  sentAt: IsoTime | null;
}

/** A file being taken in, or its report. */
export interface ImportInfo {
  id: string;
  name: string;
  kind: string;
  size: number;
  /** `columns`: a table waits for its column mapping. */
  state: 'columns' | 'running' | 'stopped' | 'done' | 'failed';
  done: number;
  total: number;
  taken: number;
  updated: number;
  known: number;
  refusedCount: number;
  refused: { file: string; at: string; reason: string }[];
  problem: string;
  created: IsoTime;
  table: { columns: string[]; rows: string[][]; guess: string[] } | null;
}
