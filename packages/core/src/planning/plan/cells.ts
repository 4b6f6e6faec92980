import { intersect, subtract, type Interval } from '../../time/intervals';
import { MINUTE, dayOf, wallOf, type Day, type Instant } from '../../time/zones';
import { DAY_LENGTH, PRICES, type PlanInput } from './problem';

/** Free time cut into pieces as long as the grid, in order. */
export interface Cells {
  count: number;
  /** Instants in milliseconds. */
  start: Float64Array;
  end: Float64Array;
  /** Days from the beginning of the stretch to the end of a cell, as a fraction. */
  wait: Float64Array;
  /** Cells that follow each other without a pause, on one day, have the same run. */
  run: Int32Array;
  runs: number;
  /** First cell of each run, and their count at the end. */
  runFrom: number[];
  /** Index of the day of a cell, counting days that have any. */
  day: Int32Array;
  /** First cell of each day, and their count at the end. */
  firstOf: number[];
  /** Most cells of blocks on each day, less what is kept there. */
  limit: Int32Array;
  /** What a cell costs deep and light work; nothing for other work. */
  price: { deep: Float64Array; light: Float64Array; medium: Float64Array };
}

/** Most minutes of blocks on a day. */
export const limitOf = ({ dailyLimit, limits }: Pick<PlanInput, 'dailyLimit' | 'limits'>, day: Day): number =>
  Math.min(dailyLimit ?? Infinity, limits?.get(day) ?? Infinity);

/** Cuts the free time of a stretch into cells: they begin and end on the grid by the wall clock, whatever the clock does. */
export function cellsOf(input: PlanInput): Cells {
  const { zone, from, grid, busy, kept } = input;
  const free = subtract(input.working, [...busy, ...kept]);
  const length = grid * MINUTE;
  const [starts, runs, days]: [number[], number[], number[]] = [[], [], []];
  const firstOf: number[] = [];
  const runFrom: number[] = [];
  const limits: number[] = [];
  let [run, today] = [-1, ''];
  for (const gap of free) {
    let last: Instant | null = null;
    for (let at = onGrid(Math.max(gap.start, from), input); at + length <= gap.end;) {
      // Where the clock changes inside a cell, it ends beside the grid.
      if (onGrid(at + length, input) !== at + length) {
        at = onGrid(at + MINUTE, input);
        continue;
      }
      const day = dayOf(at, zone);
      if (day !== today) {
        firstOf.push(starts.length);
        const limit = limitOf(input, day);
        limits.push(limit === Infinity ? Number.MAX_SAFE_INTEGER : limit - keptOn(day, input));
      }
      if (last !== at || day !== today) {
        run += 1;
        runFrom.push(starts.length);
      }
      today = day;
      starts.push(at);
      runs.push(run);
      days.push(firstOf.length - 1);
      last = at + length;
      at = last;
    }
  }
  const start = Float64Array.from(starts);
  const end = start.map((one) => one + length);
  firstOf.push(starts.length);
  runFrom.push(starts.length);
  return {
    count: starts.length,
    start,
    end,
    wait: end.map((one) => (one - from) / DAY_LENGTH),
    run: Int32Array.from(runs),
    runs: run + 1,
    runFrom,
    day: Int32Array.from(days),
    firstOf,
    limit: Int32Array.from(limits, (minutes) => Math.min(0x7fffffff, Math.max(0, Math.floor(minutes / grid)))),
    price: pricesOf(start, end, input),
  };
}

/** The first moment from `at` on that is on the grid. */
function onGrid(at: Instant, { zone, grid }: PlanInput): Instant {
  let moment = Math.ceil(at / MINUTE) * MINUTE;
  for (;;) {
    const wall = wallOf(moment, zone);
    const past = (Number(wall.slice(11, 13)) * 60 + Number(wall.slice(14, 16))) % grid;
    if (past === 0) return moment;
    // One minute at a time, lest a change of the clock is stepped over.
    moment += MINUTE;
  }
}

function keptOn(day: string, { kept, zone }: PlanInput): number {
  return kept.reduce((sum, { start, end }) => sum + (dayOf(start, zone) === day ? Math.round((end - start) / MINUTE) : 0), 0);
}

function pricesOf(start: Float64Array, end: Float64Array, { deep, grid }: PlanInput): Cells['price'] {
  const [outside, inside] = [new Float64Array(start.length), new Float64Array(start.length)];
  const hours = intersect(deep, deep);
  let next = 0;
  for (let cell = 0; cell < start.length; cell += 1) {
    const one: Interval = { start: start[cell] as number, end: end[cell] as number };
    while (next < hours.length && (hours[next] as Interval).end <= one.start) next += 1;
    let minutes = 0;
    for (let at = next; at < hours.length && (hours[at] as Interval).start < one.end; at += 1) {
      const hour = hours[at] as Interval;
      minutes += (Math.min(hour.end, one.end) - Math.max(hour.start, one.start)) / MINUTE;
    }
    outside[cell] = ((grid - minutes) / 60) * PRICES.misplacedHour;
    inside[cell] = (minutes / 60) * PRICES.misplacedHour;
  }
  return { deep: outside, light: inside, medium: new Float64Array(start.length) };
}

/** Index of the first cell that begins at or after a moment. */
export function cellFrom(cells: Cells, at: Instant): number {
  return firstWhere(cells.count, (cell) => (cells.start[cell] as number) >= at);
}

/** Index of the first cell that ends after a moment. */
export function cellPast(cells: Cells, at: Instant): number {
  return firstWhere(cells.count, (cell) => (cells.end[cell] as number) > at);
}

function firstWhere(count: number, holds: (cell: number) => boolean): number {
  let [low, high] = [0, count];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (holds(middle)) high = middle;
    else low = middle + 1;
  }
  return low;
}
