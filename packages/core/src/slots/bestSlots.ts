import { MINUTE, dayOf, instantOf, wallOf, type Instant, type Zone } from '../time/zones';
import type { Interval } from '../time/intervals';
import type { Gap } from './gaps';

/** A slot for a task, and what speaks for it in a few words. */
export interface BestSlot {
  slot: Interval;
  reasons: string[];
}

export interface SlotWish {
  minutes: number;
  concentration: 'deep' | 'medium' | 'light';
  /** When it must be done; later slots are offered only where there is no earlier one. */
  deadline: Instant | null;
  now: Instant;
  zone: Zone;
  /** Hours kept for deep work, `HH:MM-HH:MM` by the clock; the morning where they are left out. */
  deep?: readonly string[];
  /** Slots begin on full minutes of this grid. */
  grid?: number;
}

const DEEP: readonly string[] = ['09:00-12:00'];
/** From this length on a gap is a long one, worth keeping whole for what needs it; minutes. */
const LONG = 90;
const DAY = 24 * 60 * MINUTE;
/** What speaks against a slot, in days of waiting that it is worth. */
const COST = { misplaced: 1.5, broken: 1, late: 1000 };
const SNUG = 0.25;

/**
 * The best slots for a task, best first, one in a gap: soon, in the hours that suit its concentration, before its deadline,
 * and not out of the middle of the last long gap of a day when it is short.
 */
export function bestSlots(gaps: readonly Gap[], wish: SlotWish, count = 3): BestSlot[] {
  const { now, minutes, grid = 5 } = wish;
  const length = minutes * MINUTE;
  const rated = gaps.flatMap((gap) => {
    const from = gap.start >= now ? gap.start : Math.ceil(now / (grid * MINUTE)) * grid * MINUTE;
    if (from + length > gap.end) return [];
    const inHours = wish.concentration === 'deep' ? hoursIn(gap, wish) : [];
    const starts = [...new Set([from, ...inHours.filter((at) => at >= from && at + length <= gap.end), gap.end - length])];
    const options = starts.map((start) => rate({ start, end: start + length }, { start: from, end: gap.end }, wish));
    return options.sort((a, b) => a.cost - b.cost).slice(0, 1);
  });
  const soonest = Math.min(...rated.map((one) => one.slot.start));
  return rated
    .sort((a, b) => a.cost - b.cost || a.slot.start - b.slot.start)
    .slice(0, count)
    .map(({ slot, reasons }) => ({ slot, reasons: slot.start === soonest ? ['soonest', ...reasons] : reasons }));
}

/** When hours for deep work begin on the day of a gap. */
const hoursIn = ({ start }: Interval, { zone, deep = DEEP }: SlotWish): Instant[] =>
  deep.map((one) => instantOf(`${dayOf(start, zone)}T${one.slice(0, 5)}`, zone));

function rate(slot: Interval, gap: Interval, wish: SlotWish): BestSlot & { cost: number } {
  const { concentration, deadline, now, zone, deep = DEEP } = wish;
  const reasons: string[] = [];
  let cost = (slot.start - now) / DAY;
  const clock = (instant: Instant) => wallOf(instant, zone).slice(11);
  const inDeep = deep.some((one) => clock(slot.start) >= one.slice(0, 5) && clock(slot.end) <= one.slice(6));
  if (concentration === 'deep') {
    if (inDeep) reasons.push('in deep hours');
    else cost += COST.misplaced;
  }
  if (concentration === 'light') {
    if (inDeep) cost += COST.misplaced;
    else reasons.push('spares deep hours');
  }
  const left = (gap.end - gap.start - (slot.end - slot.start)) / MINUTE;
  if (left === 0) {
    cost -= SNUG;
    reasons.push('fills the gap');
  } else if (wish.minutes < LONG && left + wish.minutes >= LONG && left < LONG) {
    cost += COST.broken;
    reasons.push('breaks a long gap');
  }
  if (deadline !== null && slot.end > deadline) {
    cost += COST.late;
    reasons.push('after the deadline');
  }
  return { slot, reasons, cost };
}
