import type { DayLoad } from '@corvun/core';
import type { IsoTime } from './things';

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
  location: string;
  minutes: number | null;
  deadline: string | null;
  deadlineFixed: boolean;
  /** Of an occurrence of a repeating event: its original start (RECURRENCE-ID). */
  occurrence: string | null;
  /** Why it cannot be moved here, as a sentence; null where it can. */
  fixed: string | null;
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
  entries: AgendaEntry[];
}
