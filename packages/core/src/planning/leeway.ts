import { intersect, minutesIn, subtract, union, type Interval } from '../time/intervals';
import { MINUTE, dayOf, instantOf, type Day, type Instant, type Zone } from '../time/zones';

/** What a plan leaves free of its days. */
export interface Leeway {
  /** Pauses, and time for lunch: nothing is planned over them. */
  pauses: Interval[];
  /** Most minutes of own work on each day. */
  limits: ReadonlyMap<Day, number>;
}

interface Days {
  zone: Zone;
  /** Working time. */
  working: readonly Interval[];
  /** What is promised. */
  busy: readonly Interval[];
  /** Own time that stays where it is. */
  kept: readonly Interval[];
  grid: number;
  /** Of the free time of a day, what may be planned: a share of one. */
  share: number;
  withPauses: boolean;
  /** Own time that may move: a day that holds it already may hold as much. */
  movable: readonly Interval[];
}

/** When people eat, and about when most do. */
const LUNCH = { from: '11:30', to: '14:00', about: '12:15' };
/** Minutes for it, or at least. */
const LUNCH_LENGTHS = [45, 30];
/** Working hours that leave so much of that time free have their pause already; minutes. */
const HAS_LUNCH = 30;
/** Free time without a pause is at most so long, and so long is a pause; minutes. */
const LONGEST = 150;
const PAUSE = 15;

/** The room that is left in some days: pauses in long free stretches, time for lunch, and a share of each day. */
export function leewayOf({ zone, working, busy, kept, movable, grid, share, withPauses }: Days): Leeway {
  const days = new Map<Day, Interval[]>();
  for (const one of working) days.set(dayOf(one.start, zone), [...(days.get(dayOf(one.start, zone)) ?? []), one]);
  const pauses: Interval[] = [];
  const limits = new Map<Day, number>();
  for (const [day, hours] of days) {
    const open = subtract(hours, busy);
    const own = withPauses ? pausesOf(day, hours, subtract(open, kept), zone, grid) : [];
    pauses.push(...own);
    const there = minutesIn([...kept, ...movable].filter(({ start }) => dayOf(start, zone) === day));
    if (share < 1) limits.set(day, Math.max(there, Math.floor(minutesIn(subtract(open, own)) * share)));
  }
  return { pauses, limits };
}

function pausesOf(day: Day, hours: readonly Interval[], free: readonly Interval[], zone: Zone, grid: number): Interval[] {
  const lunch = lunchOf(day, hours, free, zone, grid);
  const length = Math.ceil(PAUSE / grid) * grid * MINUTE;
  const step = grid * MINUTE;
  const between = subtract(free, lunch).flatMap(({ start, end }): Interval[] => {
    const parts = Math.ceil((end - start) / (LONGEST * MINUTE));
    return Array.from({ length: parts - 1 }, (_, at) => {
      const from = start + Math.round(((end - start) * (at + 1)) / parts / step) * step;
      return { start: from, end: from + length };
    });
  });
  return union([...lunch, ...between]);
}

/** Time for lunch, as near as can be to when most people eat; none where working hours or what is promised leave none. */
function lunchOf(day: Day, hours: readonly Interval[], free: readonly Interval[], zone: Zone, grid: number): Interval[] {
  const at = (clock: string): Instant => instantOf(`${day}T${clock}`, zone);
  const window = { start: at(LUNCH.from), end: at(LUNCH.to) };
  const inHours = minutesIn(intersect(hours, [window]));
  if (minutesIn([window]) - inHours >= HAS_LUNCH) return [];
  const step = grid * MINUTE;
  for (const minutes of LUNCH_LENGTHS) {
    const length = Math.ceil(minutes / grid) * step;
    const starts = intersect(free, [window]).flatMap(({ start, end }) => {
      const last = end - length;
      const near = start + Math.round((Math.min(last, Math.max(start, at(LUNCH.about))) - start) / step) * step;
      return last < start ? [] : [Math.min(near, last)];
    });
    const [start] = starts.sort((a, b) => Math.abs(a - at(LUNCH.about)) - Math.abs(b - at(LUNCH.about)));
    if (start !== undefined) return [{ start, end: start + length }];
  }
  return [];
}
