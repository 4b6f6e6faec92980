import { MINUTE, type Instant } from '../time/zones';
import { subtract, type Interval } from '../time/intervals';

/** Free time between commitments: a maximal stretch of working time in which nothing is promised. */
export type Gap = Interval;

/**
 * Every maximal gap of at least `minutes` in the working time.
 * @param working working time, see `workingTime`
 * @param busy everything that counts as taken, in any order, may overlap
 */
export function freeGaps(working: readonly Interval[], busy: readonly Interval[], minutes: number): Gap[] {
  return subtract(working, busy).filter((gap) => gap.end - gap.start >= minutes * MINUTE);
}

/** A gap with the number under which it is offered (1 to 9) and where a block in it would begin. */
export interface NumberedGap extends Gap {
  number: number;
  slot: Interval;
}

/**
 * The first nine gaps that fit `minutes`, numbered in order of time.
 * A gap that has begun is entered at the next full `grid` minutes from `now`.
 */
export function numberedGaps(gaps: readonly Gap[], minutes: number, now: Instant, grid = 5): NumberedGap[] {
  const step = grid * MINUTE;
  const fitting: NumberedGap[] = [];
  for (const gap of gaps) {
    const start = gap.start >= now ? gap.start : Math.ceil(now / step) * step;
    const slot = { start, end: start + minutes * MINUTE };
    if (slot.end > gap.end) continue;
    fitting.push({ ...gap, slot, number: fitting.length + 1 });
    if (fitting.length === 9) break;
  }
  return fitting;
}

/** The first slot of that length from `now` on, or null. */
export function soonestSlot(gaps: readonly Gap[], minutes: number, now: Instant): Interval | null {
  return numberedGaps(gaps, minutes, now)[0]?.slot ?? null;
}
