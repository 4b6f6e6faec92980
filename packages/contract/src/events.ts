import type { Alarm, EventBuffers, SeriesReach } from '@corvun/core';
import type { HistoryLine } from './tasks';
import type { AttachmentInfo, IncomingKind, IsoTime, NamedAddress } from './things';

/** Somebody who is invited, and what they said. */
export interface Guest extends NamedAddress {
  partstat: 'NEEDS-ACTION' | 'ACCEPTED' | 'DECLINED' | 'TENTATIVE' | 'DELEGATED';
  /** The user themselves. */
  you: boolean;
}

/** An event, or one date of it, with everything that belongs to it. */
export interface EventFull {
  id: string;
  /** The row that is changed: of a date that was changed by hand its own, else the same as `id`. */
  seriesId: string;
  title: string;
  calendarId: string;
  /** With an offset in the user's zone, or a day. */
  start: IsoTime;
  /** Exclusive. */
  end: IsoTime;
  allDay: boolean;
  minutes: number;
  /** Null: read in whatever zone one is in. */
  zone: string | null;
  /** The zone its end is said in, where that is another. */
  endZone: string | null;
  /** RRULE without its prefix; several are parted by line breaks. */
  repeat: string | null;
  /** The date that is meant, by its original start; null where there is only one. */
  occurrence: string | null;
  /** Its next five starts from this date on, where it repeats: wall-clock times in the user's zone, or days. */
  nextDates: string[];
  /** How many dates a change reaches: this one and all after it, or all. */
  reach: { following: SeriesReach; all: SeriesReach };
  location: string;
  meetingLink: string;
  description: string;
  category: string;
  showAs: 'busy' | 'free' | 'tentative';
  private: boolean;
  /** Null: reminded of as of every other event. */
  alarms: Alarm[] | null;
  /** What it says itself of the time beside it; null: what is so for its like. */
  buffers: EventBuffers | null;
  /** The tasks that are done in that time. */
  carried: { id: string; title: string; at: 'prep' | 'follow-up'; minutes: number; done: boolean; version: number }[];
  status: 'CONFIRMED' | 'TENTATIVE' | 'CANCELLED';
  organizer: string;
  guests: Guest[];
  /** Whether there is somebody to tell of a change. */
  others: boolean;
  /** Why it cannot be changed here, as a sentence; null where it can. */
  fixed: string | null;
  /** It is somebody else's meeting: what only we see of it can be changed. */
  guest: boolean;
  /** Address of the event in its source. */
  link: string;
  files: AttachmentInfo[];
  /** Its page of notes: of a series, that of this date; null: none was begun. */
  page: { id: string; text: string; version: number } | null;
  origin: { id: string; subject: string; sender: NamedAddress; received: IsoTime; kind: IncomingKind } | null;
  history: HistoryLine[];
  version: number;
}
