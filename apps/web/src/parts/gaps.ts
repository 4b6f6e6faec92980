import type { DayInfo } from '@corvun/contract';
import { MINUTE, type Gap } from '@corvun/core';

/** The gaps of some days, as instants. */
export const gapsOf = (days: readonly DayInfo[]): Gap[] =>
  days.flatMap((day) => day.gaps.map((gap) => ({ start: Date.parse(gap.start), end: Date.parse(gap.end) })));

/**
 * Minutes of a day that are still free. Of one that has begun only what lies ahead, and without what is to be done on it at no
 * time yet.
 */
export function stillFree({ gaps, load, working }: DayInfo, now: number): number {
  if (!working.some(({ start }) => Date.parse(start) < now)) return load.left;
  const ahead = gaps.reduce((sum, gap) => sum + Math.max(0, Date.parse(gap.end) - Math.max(now, Date.parse(gap.start))), 0);
  return Math.min(load.left, Math.max(0, Math.floor(ahead / MINUTE) - load.unplaced));
}
