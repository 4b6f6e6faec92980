import { intersect, subtract, union, type Interval } from '../time/intervals';
import { MINUTE, type Day, type Instant, type Zone } from '../time/zones';
import {
  bucketsOf,
  eachOf,
  eachPiece,
  ledgerDays,
  onceEach,
  piecesOf,
  type Bucket,
  type LedgerDays,
  type LedgerEach,
} from './counting';

/** Promised to others, planned for oneself, spent. */
export const MEASURES = ['promised', 'planned', 'spent'] as const;
export type Measure = (typeof MEASURES)[number];

/** By what time is told apart. */
export const LEDGER_BY = ['list', 'kind', 'tag', 'calendar', 'person', 'billable'] as const;
export type LedgerBy = (typeof LEDGER_BY)[number];

/** Minutes of each. */
export type Measured = Record<Measure, number>;

/** A stretch of time that is counted. */
export interface LedgerItem extends Interval {
  what: Measure;
  /** Under what it is counted; under nothing: by itself. */
  keys: readonly string[];
}

/** A task that was done, with what it was thought to take and what it took, in minutes. */
export interface LedgerTook {
  keys: readonly string[];
  estimate: number;
  spent: number;
}

export interface LedgerInput {
  from: Day;
  to: Day;
  zone: Zone;
  now: Instant;
  items: readonly LedgerItem[];
  took: readonly LedgerTook[];
  working: readonly Interval[];
  /** What else is not free: time that is kept beside events. */
  kept: readonly Interval[];
  /** Quiet time that was set aside. */
  quiet: readonly Interval[];
  /** Times in which a site that is held back was looked at all the same. */
  graces: readonly Interval[];
}

/** How far estimates were off. */
export interface OffBy {
  /** How many tasks with an estimate were done. */
  done: number;
  /** How many of them took longer. */
  longer: number;
  estimated: number;
  took: number;
}

export type LedgerTime = Bucket & Measured & { free: number };
export type LedgerRow = { key: string } & Measured & OffBy;

/** Everything in minutes. */
export interface LedgerTotal extends Measured, OffBy {
  working: number;
  /** Working time in which nothing stood. */
  free: number;
  /** Spent where no time was set aside for it. */
  unscheduled: number;
  /** Working time with others. */
  met: number;
  /** Quiet time until now, and how much of it nobody took, oneself included. */
  quiet: number;
  quietKept: number;
}

export interface Ledger {
  each: LedgerEach;
  times: LedgerTime[];
  /** The most first; what is under nothing is last, with an empty key. */
  rows: LedgerRow[];
  total: LedgerTotal;
}

/** Told of what counts of an item on one of the days. */
type Tell = (item: number, at: number, minutes: number) => void;

/**
 * Tells what of each item counts on which day. Of what is promised, and of what is planned, no moment counts twice; of what
 * was spent each entry counts as it stands.
 */
export function eachCount(items: readonly LedgerItem[], days: LedgerDays, tell: Tell): void {
  for (const what of ['promised', 'planned'] as const) {
    const own = items.flatMap((one, item) => (one.what === what ? [item] : []));
    const counted = onceEach(own.map((item) => items[item] as LedgerItem));
    for (const [place, item] of own.entries()) {
      const stretch = counted[place];
      if (stretch) eachPiece(stretch, days, (at, minutes) => tell(item, at, minutes));
    }
  }
  for (const [item, one] of items.entries())
    if (one.what === 'spent') eachPiece(one, days, (at, minutes) => tell(item, at, minutes));
}

const none = (): Measured => ({ promised: 0, planned: 0, spent: 0 });
const notOff = (): OffBy => ({ done: 0, longer: 0, estimated: 0, took: 0 });

/** Where time went, over days, by what it was for; each row is the sum of what it is made of, and so is the whole. */
export function ledgerOf(input: LedgerInput): Ledger {
  const { from, to, zone, items, took } = input;
  const days = ledgerDays(from, to, zone);
  const each = eachOf(from, to);
  const buckets = bucketsOf(days.days, each);
  const times: LedgerTime[] = buckets.map((bucket) => ({ ...bucket, ...none(), free: 0 }));
  const bucketAt = bucketOfDays(days.days, buckets);
  const rows = new Map<string, LedgerRow>();
  const rowOf = (key: string) => {
    let found = rows.get(key);
    if (!found) rows.set(key, (found = { key, ...none(), ...notOff() }));
    return found;
  };
  const total = { ...none(), ...notOff() };
  eachCount(items, days, (item, at, minutes) => {
    const { what, keys } = items[item] as LedgerItem;
    total[what] += minutes;
    const time = times[bucketAt[at] ?? 0];
    if (time) time[what] += minutes;
    if (!keys.length) rowOf('')[what] += minutes;
    for (const key of keys) rowOf(key)[what] += minutes;
  });
  for (const { keys, estimate, spent } of took)
    for (const off of [total, ...(keys.length ? keys : ['']).map(rowOf)]) {
      off.done += 1;
      off.longer += spent > estimate ? 1 : 0;
      off.estimated += estimate;
      off.took += spent;
    }
  const of = (what: Measure) => items.filter((one) => one.what === what);
  const [promised, planned] = [union(of('promised')), union(of('planned'))];
  const whole = { start: days.starts[0] ?? 0, end: days.starts.at(-1) ?? 0 };
  const minutes = (intervals: readonly Interval[]) => minutesWithin(intervals, whole);
  for (const one of subtract(input.working, [...promised, ...planned, ...input.kept]))
    for (const { at, minutes: free } of piecesOf(one, days)) {
      const time = times[bucketAt[at] ?? 0];
      if (time) time.free += free;
    }
  const quiet = intersect(input.quiet, [{ start: 0, end: input.now }]);
  return {
    each,
    times,
    rows: [...rows.values()].sort(byMost),
    total: {
      ...total,
      working: minutes(union(input.working)),
      free: times.reduce((all, { free }) => all + free, 0),
      unscheduled: Math.round(of('spent').reduce((sum, one) => sum + outside(one, planned, whole), 0) / MINUTE),
      met: minutes(intersect(promised, input.working)),
      quiet: minutes(quiet),
      quietKept: minutes(subtract(quiet, [...promised, ...input.graces])),
    },
  };
}

/** Whole minutes of stretches that do not overlap, as far as they lie in a window. */
const minutesWithin = (stretches: readonly Interval[], { start, end }: Interval): number =>
  Math.round(stretches.reduce((sum, one) => sum + Math.max(0, Math.min(end, one.end) - Math.max(start, one.start)), 0) / MINUTE);

/** Milliseconds of a stretch in a window that lie in no other one. @param others in order, without overlaps */
function outside({ start, end }: Interval, others: readonly Interval[], window: Interval): number {
  const [from, to] = [Math.max(start, window.start), Math.min(end, window.end)];
  let left = Math.max(0, to - from);
  let [low, high] = [0, others.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((others[middle]?.end ?? 0) <= from) low = middle + 1;
    else high = middle;
  }
  for (let at = low; left > 0 && (others[at]?.start ?? to) < to; at += 1)
    left -= Math.min(to, others[at]?.end ?? to) - Math.max(from, others[at]?.start ?? to);
  return left;
}

const most = ({ promised, planned, spent }: Measured) => Math.max(promised + planned, promised + spent);

const byMost = (a: LedgerRow, b: LedgerRow): number =>
  Number(a.key === '') - Number(b.key === '') || most(b) - most(a) || (a.key < b.key ? -1 : 1);

/** Of each day, in which bar it lies. */
function bucketOfDays(days: readonly Day[], buckets: readonly Bucket[]): number[] {
  let bucket = 0;
  return days.map((day) => {
    while (day > (buckets[bucket]?.to ?? day)) bucket += 1;
    return bucket;
  });
}

/** By how much tasks took longer than they were thought to, as a share; less than nothing: shorter. Null where none was done. */
export const offBy = ({ done, estimated, took }: Pick<OffBy, 'done' | 'estimated' | 'took'>): number | null =>
  done && estimated ? took / estimated - 1 : null;
