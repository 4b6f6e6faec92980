import { PRICES } from './problem';
import { TINY, type Placed, type Room, type Window } from './room';
import { endCost, type Work } from './work';

/** Sums of the same numbers in another order are the same up to this. */
const SAME = 1e-6;

/** Memory of one call, kept for the next: a search makes many thousands. */
let memory = new Float64Array(1 << 16);
let used = 0;

/** Room for some numbers, all of them endless; gives where it begins. */
function claim(count: number): number {
  const from = used;
  used += count;
  if (used > memory.length) {
    const more = new Float64Array(used * 2);
    more.set(memory.subarray(0, from));
    memory = more;
  }
  memory.fill(Infinity, from, used);
  return from;
}

/** A day: what the cheapest parts of each length cost on it by itself, every part with its price. */
interface Day {
  first: number;
  end: number;
  /** One more than the cells it bears. */
  wide: number;
  /** Row by row, after each cell: what so many cells cost in parts that are over. */
  table: number;
  /** The same where the work ends on this day, with what its end costs, and on which cell it ends. */
  ending: number;
  endsOn: number;
  /** What so many cells cost on the days before. */
  before: number;
}

/**
 * The cheapest place of a work in parts: first the days by themselves, then what they are together. The price of the first
 * part is taken off at the end.
 */
export function inParts(work: Work, room: Room, window: Window, most: number, price: Float64Array): Placed | null {
  const { cells, left } = room;
  const { size, chunk } = work;
  used = 0;
  const days: Day[] = [];
  let before = claim(size + 1);
  memory[before] = 0;
  let [bound, at, last] = [most, -1, 0];
  for (let first = window.first; first < window.end;) {
    const day = cells.day[first] as number;
    const end = Math.min(window.end, cells.firstOf[day + 1] as number);
    if (endCost(work, cells, first) >= bound) break;
    const bears = Math.min(size, left[day] as number, end - first);
    if (bears >= chunk) {
      const one = dayAlone(work, room, first, end, bears, before, price);
      days.push(one);
      for (let put = chunk; put <= bears; put += 1) {
        const cost = (memory[before + size - put] as number) + (memory[one.ending + put] as number) - PRICES.part;
        if (cost < bound - TINY) [bound, at, last] = [cost, days.length - 1, put];
      }
      before = joined(one, before, size, chunk);
    }
    first = end;
  }
  if (at < 0) return null;
  const parts: [number, number][] = [];
  let had = size - last;
  trace(work, room, days[at] as Day, last, true, price, parts);
  for (at -= 1; at >= 0; at -= 1) {
    const [one, next] = [days[at] as Day, days[at + 1] as Day];
    const target = memory[next.before + had] as number;
    if (had === 0 || (memory[one.before + had] as number) === target) continue;
    const alone = one.table + (one.end - one.first) * one.wide;
    let put = chunk;
    while (put < had && (memory[one.before + had - put] as number) + (memory[alone + put] as number) !== target) put += 1;
    trace(work, room, one, put, false, price, parts);
    had -= put;
  }
  return { parts: parts.reverse(), cost: bound };
}

/** What so many cells cost on a day and those before it. */
function joined(day: Day, before: number, size: number, chunk: number): number {
  const after = claim(size + 1);
  memory.copyWithin(after, before, before + size + 1);
  const alone = day.table + (day.end - day.first) * day.wide;
  for (let put = chunk; put < day.wide; put += 1) {
    const cost = memory[alone + put] as number;
    for (let had = 0; had + put < size; had += 1) {
      const sum = (memory[before + had] as number) + cost;
      if (sum < (memory[after + had + put] as number)) memory[after + had + put] = sum;
    }
  }
  return after;
}

function dayAlone(work: Work, room: Room, first: number, end: number, bears: number, before: number, price: Float64Array): Day {
  const { cells, taken } = room;
  const { chunk } = work;
  const wide = bears + 1;
  room.looked += ((end - first) * wide) / 2 + 60;
  const [table, ending, endsOn, open] = [claim((end - first + 1) * wide), claim(wide), claim(wide), claim(wide)];
  memory[table] = 0;
  let [run, part, streak, sum] = [-1, 0, 0, 0];
  for (let cell = first; cell < end; cell += 1) {
    const row = table + (cell - first) * wide;
    memory.copyWithin(row + wide, row, row + wide);
    if (taken[cell] !== 0 || cells.run[cell] !== run) {
      if (streak >= chunk) memory.fill(Infinity, open, open + wide);
      [streak, sum] = [0, 0];
      if (taken[cell] !== 0) continue;
      run = cells.run[cell] as number;
      part = PRICES.part + (work.place < 0 ? 0 : room.way(work, run));
    }
    streak += 1;
    sum += price[cell] as number;
    if (streak > chunk) sum -= price[cell - chunk] as number;
    if (streak < chunk) continue;
    const late = endCost(work, cells, cell);
    const begun = row + wide - chunk * wide - chunk;
    for (let put = bears; put >= chunk; put -= 1) {
      const cost = Math.min(
        (memory[begun + put] as number) + part + sum,
        (memory[open + put - 1] as number) + (price[cell] as number),
      );
      memory[open + put] = cost;
      if (cost < (memory[row + wide + put] as number)) memory[row + wide + put] = cost;
      if (cost + late < (memory[ending + put] as number)) {
        memory[ending + put] = cost + late;
        memory[endsOn + put] = cell;
      }
    }
  }
  return { first, end, wide, table, ending, endsOn, before };
}

/** Finds the parts of a day again, the last one first. */
function trace(
  work: Work,
  room: Room,
  day: Day,
  count: number,
  last: boolean,
  price: Float64Array,
  parts: [number, number][],
): void {
  const { first, wide, table } = day;
  let put = count;
  let row = day.end - first;
  let cost = memory[table + row * wide + put] as number;
  if (last) {
    const cell = memory[day.endsOn + put] as number;
    row = cell - first + 1;
    cost = (memory[day.ending + put] as number) - endCost(work, room.cells, cell);
  }
  for (let ends = last; put > 0 && row > 0; ends = false) {
    if (!ends && memory[table + (row - 1) * wide + put] === cost) {
      row -= 1;
      continue;
    }
    const length = lengthOf(work, room, day, row, put, cost, price);
    if (length === 0) return;
    parts.push([first + row - length, length]);
    row -= length;
    put -= length;
    cost = memory[table + row * wide + put] as number;
  }
}

/** How long the part is that ends before a row, by what it costs. */
function lengthOf(
  work: Work,
  room: Room,
  { first, wide, table }: Day,
  row: number,
  put: number,
  cost: number,
  price: Float64Array,
): number {
  const run = room.cells.run[first + row - 1] as number;
  let sum = PRICES.part + (work.place < 0 ? 0 : room.way(work, run));
  for (let length = 1; length <= put && length <= row; length += 1) {
    sum += price[first + row - length] as number;
    const before = memory[table + (row - length) * wide + put - length] as number;
    if (length >= work.chunk && Math.abs(before + sum - cost) < SAME) return length;
  }
  return 0;
}
