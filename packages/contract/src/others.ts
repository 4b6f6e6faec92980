import type { TimeStretch } from './yes-cost';
import type { IsoTime } from './things';

/** How much of a calendar its secret address shows: that something is there, what it is called, or all but guests. */
export type ShareShows = 'busy' | 'titles' | 'all';

/** A calendar that is published at a secret address. */
export interface ShareInfo {
  id: string;
  /** Null: everything that takes time, as busy. */
  calendarId: string | null;
  shows: ShareShows;
  /** Path of the address; empty where it has to be renewed first. */
  path: string;
  created: IsoTime;
  version: number;
}

export interface MeetQuestion {
  label: string;
  required: boolean;
}

/** What holds for the free times of a page on which others choose one. */
export interface MeetRules {
  name: string;
  /** What it is for, as plain text. */
  about: string;
  place: string;
  /** Minutes; whoever books chooses one of them. */
  lengths: number[];
  /** By ISO weekday; null: the working hours. */
  hours: Record<string, string[]> | null;
  /** Minutes from now to the first time, and days to the last. */
  notice: number;
  horizon: number;
  /** Minutes that stay free before and after. */
  buffer: number;
  /** The most of them on one day; null: as many as there is room for. */
  perDay: number | null;
  /** Days between which it holds; null: without a first or last one. */
  from: string | null;
  to: string | null;
  /** Calendars that take time; null: those that count as busy. Own time always does. */
  calendars: string[] | null;
  questions: MeetQuestion[];
  /** It is agreed with the booking; else it stands tentatively until it is confirmed here. */
  firm: boolean;
  /** Whether it can be booked. */
  open: boolean;
}

export interface MeetPageInfo extends MeetRules {
  id: string;
  path: string;
  /** Bookings to come. */
  booked: { event: string; name: string; start: IsoTime }[];
  version: number;
}

export type OfferState = 'open' | 'taken' | 'expired';

/** Some times that are held until one of them is taken. */
export interface OfferInfo {
  id: string;
  title: string;
  place: string;
  path: string;
  state: OfferState;
  expires: IsoTime;
  /** Those that are still held; of one that was taken, that one. */
  slots: (TimeStretch & { event: string })[];
  takenBy: string;
  version: number;
}

/** Everything that others can see or choose. */
export interface OthersInfo {
  shares: ShareInfo[];
  pages: MeetPageInfo[];
  offers: OfferInfo[];
}

/** What a visitor of a meet-me page sees. Nothing else of the calendar does. */
export interface PublicMeet {
  name: string;
  about: string;
  host: string;
  place: string;
  zone: string;
  lengths: number[];
  questions: MeetQuestion[];
  firm: boolean;
  open: boolean;
  /** The length the times are for. */
  minutes: number;
  slots: TimeStretch[];
}

/** What whoever has booked sees of it. */
export interface PublicBooking {
  title: string;
  host: string;
  place: string;
  zone: string;
  start: IsoTime;
  end: IsoTime;
  state: 'booked' | 'cancelled';
  /** Whether whoever reads mail at its address has said that it is theirs. */
  confirmed: boolean;
  /** Times to which it can be moved. */
  slots: TimeStretch[];
}

export interface Booked {
  start: IsoTime;
  end: IsoTime;
  /** Path at which it can be moved or cancelled. */
  path: string;
}

/** What a visitor sees of offered times. */
export interface PublicOffer {
  title: string;
  host: string;
  place: string;
  zone: string;
  state: OfferState;
  expires: IsoTime;
  slots: TimeStretch[];
}
