import { addDays, dayOf, instantOf, weekdayOf, type Day, type Instant, type Zone } from '../time/zones';

/** When a check-in asks. */
export interface Asks {
  /** ISO weekdays. */
  weekdays: readonly number[];
  /** `HH:MM`. */
  time: string;
}

/** Days within which each weekday comes. */
const WEEK = 7;

const asksOn = (day: Day, { weekdays }: Asks) => weekdays.includes(weekdayOf(day));

/** When it asks on a day; the day need not be one of its own. */
export const askedAt = (day: Day, { time }: Pick<Asks, 'time'>, zone: Zone): Instant => instantOf(`${day}T${time}`, zone);

/** The last day on which it asked, not before it was made; null: it never did. */
export function lastAsked(asks: Asks, now: Instant, since: Instant, zone: Zone): Day | null {
  const today = dayOf(now, zone);
  for (let back = 0; back <= WEEK; back += 1) {
    const day = addDays(today, -back);
    const at = askedAt(day, asks, zone);
    if (asksOn(day, asks) && at <= now) return at >= since ? day : null;
  }
  return null;
}

/** When it asks next; null: on no day. */
export function nextAsked(asks: Asks, now: Instant, zone: Zone): Instant | null {
  const today = dayOf(now, zone);
  for (let ahead = 0; ahead <= WEEK; ahead += 1) {
    const day = addDays(today, ahead);
    const at = askedAt(day, asks, zone);
    if (asksOn(day, asks) && at > now) return at;
  }
  return null;
}
