import { MINUTE, type Instant } from '../time/zones';
import { union, type Interval } from '../time/intervals';

/** Work that has to be done by a moment. */
export interface Demand {
  id: string;
  /** What is still to be done of it. */
  minutes: number;
  deadline: Instant;
}

export interface SafeStart {
  id: string;
  /** The last moment to begin; null where it is too late already. */
  lastSafeStart: Instant | null;
  /** Minutes of it that find no place any more. */
  lateMinutes: number;
  /** Free minutes before it that no other work with a deadline needs. */
  slackMinutes: number;
}

/** A deadline with less than this left is close; minutes. */
const CLOSE = 120;

/** Whether a deadline is at risk: too late, or so close that little may come between. */
export const isAtRisk = ({ lateMinutes, slackMinutes }: Pick<SafeStart, 'lateMinutes' | 'slackMinutes'>): boolean =>
  lateMinutes > 0 || slackMinutes < CLOSE;

/**
 * The last moment to begin each piece of work: all of it is laid out as late as possible, going back in time from the last
 * deadline through the free minutes; at each of them what has the latest deadline that is not passed yet in this direction,
 * ties by id. What would fall before the free time begins is late.
 * @param free free working time from now on, in any order
 * @returns in the order of the demands
 */
export function safeStarts(free: readonly Interval[], demands: readonly Demand[]): SafeStart[] {
  const gaps = union(free);
  const order = [...demands].sort((a, b) => b.deadline - a.deadline || (a.id < b.id ? -1 : 1));
  const found = new Map<string, SafeStart>();
  const placed: { id: string; start: Instant; minutes: number }[] = [];
  let [gap, at] = [gaps.length - 1, gaps.at(-1)?.end ?? 0];
  for (const { id, minutes, deadline } of order) {
    // Whatever was laid out before has a later deadline, so that the next one never has to wait for it.
    let left = minutes * MINUTE;
    let first: Instant | null = null;
    while (left > 0 && gap >= 0) {
      const { start } = gaps[gap] as Interval;
      const end = Math.min(at, deadline);
      if (end <= start) {
        gap -= 1;
        at = gaps[gap]?.end ?? 0;
        continue;
      }
      const took = Math.min(left, end - start);
      left -= took;
      at = end - took;
      first = at;
    }
    const done = minutes - left / MINUTE;
    if (first !== null) placed.push({ id, start: first, minutes: done });
    const lastSafeStart = left > 0 ? null : (first ?? deadline);
    found.set(id, { id, lastSafeStart, lateMinutes: Math.ceil(left / MINUTE), slackMinutes: 0 });
  }
  // Going forward: the free minutes before each, without what work with earlier deadlines takes of them.
  let [before, next, taken] = [0, 0, 0];
  for (const { id, start, minutes } of placed.reverse()) {
    while (next < gaps.length && (gaps[next] as Interval).end <= start) {
      before += (gaps[next] as Interval).end - (gaps[next] as Interval).start;
      next += 1;
    }
    const inside = next < gaps.length ? Math.max(0, start - (gaps[next] as Interval).start) : 0;
    const one = found.get(id) as SafeStart;
    if (one.lastSafeStart !== null) one.slackMinutes = Math.max(0, Math.round((before + inside) / MINUTE - taken));
    taken += minutes;
  }
  return demands.map(({ id }) => found.get(id) as SafeStart);
}
