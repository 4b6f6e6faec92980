import { instantOf, minutesBetween, type Instant, type Zone } from '../time/zones';

/** Minutes after which something that nobody looked at was missed. */
const MISSED = 15;

/**
 * Whether nobody looked at a reminder in time: what has begun can still be joined for a while, and a whole day is not over.
 * @param reminder when it was due, and from when to when that is which it reminds of: a day, or a time with its offset
 */
export function wasMissed({ at, start, end }: { at: string; start: string; end: string }, now: Instant, zone: Zone): boolean {
  const last = start.length === 10 ? instantOf(`${end}T00:00`, zone) : Date.parse(start);
  return minutesBetween(Math.max(Date.parse(at), last), now) > MISSED;
}
