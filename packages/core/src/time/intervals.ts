import { MINUTE, type Instant } from './zones';

/** A half-open stretch of time: `start` belongs to it, `end` does not. */
export interface Interval {
  start: Instant;
  end: Instant;
}

/** Intervals in order, with those that overlap or touch joined; empty ones are dropped. */
export function union(intervals: readonly Interval[]): Interval[] {
  const sorted = intervals.filter((one) => one.end > one.start).sort((a, b) => a.start - b.start);
  const joined: Interval[] = [];
  for (const { start, end } of sorted) {
    const last = joined.at(-1);
    if (last && start <= last.end) last.end = Math.max(last.end, end);
    else joined.push({ start, end });
  }
  return joined;
}

/** What is in `whole` and in no interval of `taken`. */
export function subtract(whole: readonly Interval[], taken: readonly Interval[]): Interval[] {
  const busy = union(taken);
  const left: Interval[] = [];
  let next = 0;
  for (const { start, end } of union(whole)) {
    while (next > 0 && (busy[next - 1]?.end ?? 0) > start) next -= 1;
    while (next < busy.length && (busy[next]?.end ?? 0) <= start) next += 1;
    let from = start;
    for (let at = next; at < busy.length; at += 1) {
      const hole = busy[at];
      if (!hole || hole.start >= end) break;
      if (hole.start > from) left.push({ start: from, end: hole.start });
      from = Math.max(from, hole.end);
    }
    if (from < end) left.push({ start: from, end });
  }
  return left;
}

/** What lies in both. */
export function intersect(one: readonly Interval[], other: readonly Interval[]): Interval[] {
  const a = union(one);
  const b = union(other);
  const both: Interval[] = [];
  for (let i = 0, j = 0; i < a.length && j < b.length;) {
    const left = a[i] as Interval;
    const right = b[j] as Interval;
    const start = Math.max(left.start, right.start);
    const end = Math.min(left.end, right.end);
    if (start < end) both.push({ start, end });
    if (left.end < right.end) i += 1;
    else j += 1;
  }
  return both;
}

/** Whole minutes covered; what is covered twice counts once. */
export function minutesIn(intervals: readonly Interval[]): number {
  return Math.round(union(intervals).reduce((sum, one) => sum + (one.end - one.start), 0) / MINUTE);
}

/** Whether two stretches share any moment. */
export function overlaps(a: Interval, b: Interval): boolean {
  return a.start < b.end && b.start < a.end;
}
