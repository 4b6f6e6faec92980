import type { Event } from '../events/event.entity';

/** What a scheduling message did to the calendar. */
export interface Effect {
  event: Event | null;
  changes: string[];
  /** It is older than what is known, or not from whom it must be: nothing was changed. */
  ignored: string;
  answerable: boolean;
  /** Sentences on what of it could not be kept as it was sent. */
  problems: string[];
}

export const nothing = (ignored = ''): Effect => ({ event: null, changes: [], ignored, answerable: false, problems: [] });
