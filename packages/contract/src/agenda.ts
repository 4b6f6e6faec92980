import type { BufferKind, DayLoad } from '@corvun/core';
import type { IsoTime } from './things';

/** Time that belongs to an event and stands beside it; empty where nothing of it fits. */
export interface BufferInfo {
  kind: BufferKind;
  start: IsoTime;
  end: IsoTime;
  minutes: number;
  /** Minutes it should have. */
  wanted: number;
  /** Of a way: the places it leads from and to. */
  from: string;
  to: string;
}

export interface AgendaEntry {
  kind: 'event' | 'block' | 'task';
  id: string;
  title: string;
  start: IsoTime | null;
  end: IsoTime | null;
  allDay: boolean;
  day: string;
  calendar: string | null;
  calendarId: string | null;
  listId: string | null;
  taskId: string | null;
  incomingId: string | null;
  status: string;
  showAs: 'busy' | 'free' | 'tentative';
  /** What own time is for; null where it is none. */
  blockKind: 'work' | 'quiet' | 'break' | 'prep' | 'follow-up' | 'travel' | null;
  category: string;
  /** How many others have to hear of a change. */
  guests: number;
  location: string;
  minutes: number | null;
  deadline: string | null;
  deadlineFixed: boolean;
  /** Of an occurrence of a repeating event: its original start (RECURRENCE-ID). */
  occurrence: string | null;
  /** Why it cannot be moved here, as a sentence; null where it can. */
  fixed: string | null;
  /** A copy of what stands in another calendar. */
  mirrored: boolean;
  /** Own time that planning does not move. */
  pinned: boolean;
  /** Of quiet time that says so itself: the sites that are held back in it. */
  sites: string[] | null;
  /** Of own time: the event it moves with. */
  beside: string | null;
  /** What belongs to an event, in order of time. */
  buffers: BufferInfo[];
  version: number;
}

export interface DayInfo {
  day: string;
  /** What this day off is called; null on all others. */
  off: string | null;
  load: DayLoad;
  working: { start: IsoTime; end: IsoTime }[];
  gaps: { start: IsoTime; end: IsoTime }[];
  /** Stretches that are taken only by what is hidden: hiding a calendar does not make its time free. */
  unseen: { start: IsoTime; end: IsoTime }[];
  /** How many events of calendars that are hidden stand on this day. */
  hidden: { calendarId: string; entries: number }[];
  entries: AgendaEntry[];
}
