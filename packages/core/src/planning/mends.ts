import { MINUTE, type Instant } from '../time/zones';
import { union, type Interval } from '../time/intervals';
import { safeStarts, type Demand } from './safeStart';
import type { SetAside } from './stretch';

/** What would let late work fit before its deadline, each by itself. */
export interface Mends {
  /** Minutes less of it. */
  shorten: number;
  /** The first end of a free stretch by which it would fit; null where none is in sight. */
  later: Instant | null;
  /** Own time before the deadline that would do if it went elsewhere; empty where all of it would not. */
  moves: SetAside[];
}

/** How many later deadlines are tried. */
const TRIED = 60;

/**
 * What would mend work that is late.
 * @param free free working time from now on
 * @param demands all work with a deadline, the late one among them
 * @param own time set aside for other things from now on
 */
export function mendsOf(id: string, free: readonly Interval[], demands: readonly Demand[], own: readonly SetAside[]): Mends {
  const late = lateness(id, free, demands);
  const deadline = demands.find((one) => one.id === id)?.deadline ?? 0;
  const later = union(free)
    .map(({ end }) => end)
    .filter((end) => end > deadline)
    .slice(0, TRIED)
    .find(
      (end) =>
        lateness(
          id,
          free,
          demands.map((one) => (one.id === id ? { ...one, deadline: end } : one)),
        ) === 0,
    );
  return { shorten: late, later: later ?? null, moves: movesFor(late, deadline, own) };
}

const lateness = (id: string, free: readonly Interval[], demands: readonly Demand[]): number =>
  safeStarts(free, demands).find((one) => one.id === id)?.lateMinutes ?? 0;

const minutesOf = ({ start, end }: Interval): number => Math.round((end - start) / MINUTE);

/** The shortest block that is long enough; else the longest ones, until they are. */
function movesFor(minutes: number, before: Instant, own: readonly SetAside[]): SetAside[] {
  const may = own
    .filter(({ end, pinned }) => end <= before && !pinned)
    .sort((a, b) => minutesOf(a) - minutesOf(b) || a.start - b.start);
  const one = may.find((block) => minutesOf(block) >= minutes);
  if (one) return [one];
  const moves: SetAside[] = [];
  for (let left = minutes; left > 0;) {
    const next = may.pop();
    if (!next) return [];
    moves.push(next);
    left -= minutesOf(next);
  }
  return moves.sort((a, b) => a.start - b.start);
}
