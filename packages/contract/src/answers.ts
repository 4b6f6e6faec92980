import type { MAY } from './inputs';
import type { IncomingLine, IsoTime, MadeThing, NamedAddress } from './things';
import type { TaskInfo } from './tasks';

/** What was done: the doing by which it is taken back, and a sentence on it. */
/** A change of an event, and under which id and date it is found from now on. */
export interface EventChanged extends Done {
  id: string;
  /** Null where it does not repeat. */
  occurrence: string | null;
}

export interface Done {
  decision: string;
  sentence: string;
}

/** Something new, and what was done. */
export interface Added extends Done {
  id: string;
}

/** The task as it is now. */
export interface TaskChanged extends Done {
  task: TaskInfo;
}

export interface TasksAdded extends Done {
  /** In the order of the lines. */
  ids: string[];
}

/** What a typed line became. */
export interface Captured extends Done {
  kind: 'incoming' | 'task' | 'event' | 'block';
  id: string;
  title: string;
  made: MadeThing[];
}

export interface IncomingPage {
  /** How many there are in all. */
  total: number;
  items: IncomingLine[];
  /** Cursor of the next page; null after the last. */
  next: string | null;
}

export interface TagInfo {
  name: string;
  hue: number;
}

/** What a token may do: look only, what its owner may with things, that in calendar programs alone, or the account’s own matters, too. */
export type May = (typeof MAY)[number];

export interface TokenInfo {
  id: string;
  name: string;
  may: May;
  created: IsoTime;
}

/** Where somebody is signed in. */
export interface SessionInfo {
  id: string;
  /** In words: a browser, and on what. */
  name: string;
  created: IsoTime;
  /** Whether it is the one that asks. */
  present: boolean;
}

/** A token, shown this once. */
export interface TokenMade {
  id: string;
  token: string;
  name: string;
  may: May;
}

export interface PersonLine extends NamedAddress {
  id: string;
  /** Further addresses. */
  addresses: string[];
  organisation: string;
}

/** What can be done without being signed in. */
export interface SignInOptions {
  /** The demo, which can be entered without a password. */
  demo: boolean;
  /** There is no account yet: the first visit makes it. */
  firstAccount: boolean;
}

export interface Health {
  ok: true;
  /** What is sent now can be kept. */
  canWrite: boolean;
}
