import type { BetterEstimate, LeftWhy, Priority } from '@corvun/core';
import type { AttachmentInfo, IncomingKind, IsoTime, MadeThing, NamedAddress } from './things';

/** A file of a task; its `own` can be renamed, the others are those of its message. */
export interface TaskFileInfo extends AttachmentInfo {
  own: boolean;
}

/** Something that happened to a thing. */
export interface HistoryLine {
  at: IsoTime;
  /** Who did it: the user, a source by its name, or Corvun. */
  by: string;
  /** What was done, in words: `due Mon 31 Aug, fixed, was Fri 28 Aug`. */
  what: string;
}

/** How it is known that time was spent. */
export type SpentBy = 'timer' | 'block' | 'heads-down' | 'hand';

/** Time that was spent on a task. */
export interface TimeEntryInfo {
  id: string;
  start: IsoTime;
  /** Null: it runs. */
  end: IsoTime | null;
  minutes: number;
  by: SpentBy;
  /** What has to be known of it: that the clock was set while it ran; empty where nothing has. */
  note: string;
  version: number;
}

/** A task with everything that belongs to it. */
export interface TaskFull extends TaskInfo {
  /** Its steps and theirs, each right after the one before. */
  steps: TaskInfo[];
  /** The task it is a step of. */
  parent: { id: string; title: string } | null;
  /** All its blocks by start, those that are over, too. */
  allBlocks: { id: string; start: IsoTime; end: IsoTime; version: number }[];
  /** The time that was spent on it, by when it began. */
  time: TimeEntryInfo[];
  /** Events before or after which it is done. */
  beside: { id: string; occurrence: string | null; title: string; at: 'prep' | 'follow-up' }[];
  /** The next five days on which it comes, where it repeats. */
  nextDays: string[];
  /** The message it came from, in one line. */
  origin: { id: string; subject: string; sender: NamedAddress; received: IsoTime; kind: IncomingKind } | null;
  /** What else came of that message. */
  besides: MadeThing[];
  /** What tasks like it took, where that is another figure than its own. */
  better: BetterEstimate | null;
  history: HistoryLine[];
}

/** A mail that asks whom a task waits on once more. */
export interface Nudge {
  to: NamedAddress;
  subject: string;
  text: string;
  /** Message-ID of the message it answers (RFC 5322, 3.6.4); null: it begins a thread. */
  inReplyTo: string | null;
}

export interface TaskInfo {
  id: string;
  title: string;
  notes: string;
  listId: string | null;
  parentId: string | null;
  position: number;
  tags: string[];
  priority: Priority;
  estimate: number | null;
  spent: number;
  status: 'NEEDS-ACTION' | 'IN-PROCESS' | 'COMPLETED' | 'CANCELLED';
  completed: IsoTime | null;
  plannedDay: string | null;
  plannedWeek: string | null;
  deadline: string | null;
  deadlineFixed: boolean;
  repeat: string | null;
  shelved: boolean;
  lookAgain: string | null;
  /** Why it was not finished in its time, as it was said last. */
  leftOpen: LeftWhy | null;
  waitingOn: string | null;
  waitingSince: IsoTime | null;
  incomingId: string | null;
  created: IsoTime;
  /** Who wrote the message it came from, and what that was: mail, chat, card …; empty where it came from none. */
  sender: string;
  source: string;
  billable: boolean;
  concentration: 'deep' | 'medium' | 'light';
  notBefore: string | null;
  repeatFrom: 'schedule' | 'completion';
  /** The day of its schedule that a repeating one stands for, wherever it was moved; null: its own day. */
  repeatOn: string | null;
  waitingUntil: string | null;
  /** When whoever it waits on was last asked again. */
  nudged: IsoTime | null;
  /** The incoming that answered what it waited for. */
  answeredBy: string | null;
  assignedTo: string | null;
  reminder: string | null;
  links: { url: string; title: string }[];
  /** What it carries along from the message it came from, and its own. */
  attachmentList: TaskFileInfo[];
  /** Minutes of all its blocks, those that are over, too. */
  placed: number;
  /** The connected source its message came from; null: none. */
  sourceId: string | null;
  /** Blocks of the task that are not over, by start. */
  blocks: { id: string; start: IsoTime; end: IsoTime }[];
  version: number;
}
