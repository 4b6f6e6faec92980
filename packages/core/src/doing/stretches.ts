import { MINUTE, dayOf, endOfDay, type Day, type Instant, type Zone } from '../time/zones';

/** Time that was spent on something; what still runs has no end. */
export interface SpentStretch {
  id: string;
  start: Instant;
  end: Instant | null;
}

/** Milliseconds that were spent until `now`; a clock that stands before the beginning makes nothing of it, and never less. */
export const ranFor = ({ start, end }: Pick<SpentStretch, 'start' | 'end'>, now: Instant): number =>
  Math.max(0, (end ?? now) - start);

/** Whole minutes of all stretches that are over: the sum is rounded, not each of them. */
export function minutesSpent(stretches: readonly SpentStretch[]): number {
  const over = stretches.filter(({ end }) => end !== null);
  return Math.round(over.reduce((sum, one) => sum + ranFor(one, one.start), 0) / MINUTE);
}

/** What has to become of stretches so that they come to a sum that was said. */
export interface Corrections {
  /** Shorter ones, with their new ends. */
  ends: { id: string; end: Instant }[];
  /** Those of which nothing is left. */
  gone: string[];
  /** One that is added; null: none is. */
  added: { start: Instant; end: Instant } | null;
}

/**
 * Makes stretches come to so many minutes: what is missing is added as one that ends at `until`, what is too much is taken
 * from the latest ones. What still runs is left alone.
 */
export function correctedTo(stretches: readonly SpentStretch[], minutes: number, until: Instant): Corrections {
  const over = stretches.filter(({ end }) => end !== null).sort((a, b) => b.start - a.start || (a.id < b.id ? 1 : -1));
  let tooMuch = over.reduce((sum, one) => sum + ranFor(one, one.start), 0) - minutes * MINUTE;
  const made: Corrections = { ends: [], gone: [], added: null };
  // As whole minutes it is what was said already.
  if (minutesSpent(stretches) === minutes) return made;
  if (tooMuch < 0) return { ...made, added: { start: until + tooMuch, end: until } };
  for (const one of over) {
    if (tooMuch <= 0) break;
    const own = ranFor(one, one.start);
    if (own <= tooMuch) made.gone.push(one.id);
    else made.ends.push({ id: one.id, end: one.start + own - tooMuch });
    tooMuch -= own;
  }
  return made;
}

/** A stretch as the days it lies on, each with its part; days of 23 and 25 hours are as long as they are. */
export function byDay(start: Instant, end: Instant, zone: Zone): { day: Day; start: Instant; end: Instant }[] {
  const parts: { day: Day; start: Instant; end: Instant }[] = [];
  for (let at = start; at < end;) {
    const day = dayOf(at, zone);
    const until = Math.min(end, endOfDay(day, zone));
    parts.push({ day, start: at, end: until });
    at = until;
  }
  return parts;
}

/** What a clock showed, and how long the machine had been up, in milliseconds; sleep counts, setting the clock does not. */
export interface ClockReading {
  wall: Instant;
  up: number;
}

/** Smaller steps are corrections that nobody notices. Milliseconds. */
const STEP = 1500;

/** By how much a clock was set between two readings, forward or back; 0 where it only went on, through sleep, too. */
export function setBy(before: ClockReading, after: ClockReading): number {
  const by = after.wall - before.wall - (after.up - before.up);
  return Math.abs(by) < STEP ? 0 : by;
}
