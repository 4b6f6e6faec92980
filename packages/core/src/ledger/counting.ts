import type { Interval } from '../time/intervals';
import {
  MINUTE,
  addDays,
  daysBetween,
  daysFrom,
  endOfDay,
  startOfDay,
  weekOf,
  weekdayOf,
  type Day,
  type Instant,
  type Zone,
} from '../time/zones';

/** Days, each with where it begins; the last instant is where the last one ends. */
export interface LedgerDays {
  days: Day[];
  starts: Instant[];
}

/** Whole minutes of one day. */
export interface Piece {
  /** Which of the days. */
  at: number;
  minutes: number;
}

/** The days from one to another, both included; days of 23 and 25 hours are as long as they are. */
export function ledgerDays(from: Day, to: Day, zone: Zone): LedgerDays {
  const days = daysFrom(from, daysBetween(from, to) + 1);
  return { days, starts: [...days.map((day) => startOfDay(day, zone)), endOfDay(to, zone)] };
}

/**
 * A stretch in whole minutes by the days it lies on; those of all its days come to its whole length, rounded once. What lies
 * outside the days is left out.
 */
export function piecesOf(stretch: Interval, days: LedgerDays): Piece[] {
  const pieces: Piece[] = [];
  eachPiece(stretch, days, (at, minutes) => pieces.push({ at, minutes }));
  return pieces;
}

/** The same, told one after the other: there may be tens of thousands of stretches. */
export function eachPiece(
  { start, end }: Interval,
  { days, starts }: LedgerDays,
  tell: (at: number, minutes: number) => void,
): void {
  const first = Math.max(0, lastBefore(starts, start));
  // Most lie within one day.
  if (start >= (starts[first] ?? 0) && end <= (starts[first + 1] ?? 0)) {
    const minutes = Math.round((end - start) / MINUTE);
    if (minutes > 0) tell(first, minutes);
    return;
  }
  const until = (instant: Instant) => Math.round((Math.min(instant, end) - start) / MINUTE);
  for (let at = first; at < days.length && (starts[at] ?? 0) < end; at += 1) {
    const [begin = 0, over = 0] = [starts[at], starts[at + 1]];
    const minutes = over <= start ? 0 : until(over) - until(Math.max(begin, start));
    if (minutes > 0) tell(at, minutes);
  }
}

/** The place of the last instant that is not after another one; -1 where all are. */
function lastBefore(starts: readonly Instant[], instant: Instant): number {
  let [low, high] = [0, starts.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((starts[middle] ?? 0) <= instant) low = middle + 1;
    else high = middle;
  }
  return low - 1;
}

/**
 * What of each stretch counts where no moment counts twice: it belongs to the one that began first, and of those that began
 * together to the one that came first.
 * @returns in the order given; null: all of it is in others
 */
export function onceEach(stretches: readonly Interval[]): (Interval | null)[] {
  const order = stretches.map((_, at) => at).sort((a, b) => (stretches[a]?.start ?? 0) - (stretches[b]?.start ?? 0) || a - b);
  const counted: (Interval | null)[] = stretches.map(() => null);
  let taken = Number.NEGATIVE_INFINITY;
  for (const at of order) {
    const { start, end } = stretches[at] as Interval;
    const from = Math.max(start, taken);
    if (end > from) counted[at] = { start: from, end };
    taken = Math.max(taken, end);
  }
  return counted;
}

/** How finely time is told apart. */
export type LedgerEach = 'day' | 'week' | 'month';

/** Days up to which each has its own bar, and up to which each week has. */
const BY_DAY = 35;
const BY_WEEK = 190;

/** How finely so many days are told apart, so that the eye can still compare. */
export function eachOf(from: Day, to: Day): LedgerEach {
  const days = daysBetween(from, to) + 1;
  return days <= BY_DAY ? 'day' : days <= BY_WEEK ? 'week' : 'month';
}

/** One bar: its name (`2026-08-03`, `2026-W32`, `2026-08`) and its days. */
export interface Bucket {
  key: string;
  from: Day;
  to: Day;
}

/** The bars of some days, in order, cut where the days end. */
export function bucketsOf(days: readonly Day[], each: LedgerEach): Bucket[] {
  const buckets: Bucket[] = [];
  for (const day of days) {
    const last = buckets.at(-1);
    // A week is asked for only where a new one can begin: it is the dearest of them.
    const key =
      each === 'day'
        ? day
        : each === 'month'
          ? day.slice(0, 7)
          : last && day < addDays(mondayBefore(last), 7)
            ? last.key
            : weekOf(day);
    if (last?.key === key) last.to = day;
    else buckets.push({ key, from: day, to: day });
  }
  return buckets;
}

const mondayBefore = ({ from }: Bucket): Day => addDays(from, 1 - weekdayOf(from));
