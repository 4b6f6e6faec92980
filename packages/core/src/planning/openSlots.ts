import { freeGaps } from '../slots/gaps';
import type { Interval } from '../time/intervals';
import { MINUTE, dayOf, startOfDay, type Instant, type Zone } from '../time/zones';

export interface OpenSlotsInput {
  now: Instant;
  zone: Zone;
  /** Hours in which times are offered. */
  hours: readonly Interval[];
  busy: readonly Interval[];
  /** How long it takes. */
  minutes: number;
  /** Minutes from now to the first time. */
  notice: number;
  /** Minutes that stay free before and after. */
  buffer: number;
  /** The most on one day, and the starts of those there are; null: as many as there is room for. */
  perDay: number | null;
  booked: readonly Instant[];
}

/** Times begin at full and half hours, or at quarters where they are shorter. */
const stepOf = (minutes: number) => (minutes % 30 === 0 ? 30 : 15);

/**
 * Free times others can choose from, in order: only the times themselves, on a grid by the clock of the zone, so that what
 * stands beside them cannot be told from where they begin.
 */
export function openSlots(input: OpenSlotsInput): Interval[] {
  const { now, zone, hours, busy, minutes, notice, buffer, perDay, booked } = input;
  const first = now + notice * MINUTE;
  // What takes no time keeps none free beside it, either.
  const wide = busy
    .filter(({ start, end }) => end > start)
    .map(({ start, end }) => ({ start: start - buffer * MINUTE, end: end + buffer * MINUTE }));
  const full = new Map<string, number>();
  for (const at of booked) full.set(dayOf(at, zone), (full.get(dayOf(at, zone)) ?? 0) + 1);
  const step = stepOf(minutes) * MINUTE;
  const length = minutes * MINUTE;
  const slots: Interval[] = [];
  for (const gap of freeGaps(hours, wide, minutes)) {
    const day = dayOf(gap.start, zone);
    if (perDay !== null && (full.get(day) ?? 0) >= perDay) continue;
    const midnight = startOfDay(day, zone);
    const from = Math.max(gap.start, first);
    for (let at = midnight + Math.ceil((from - midnight) / step) * step; at + length <= gap.end; at += step)
      slots.push({ start: at, end: at + length });
  }
  return slots;
}
