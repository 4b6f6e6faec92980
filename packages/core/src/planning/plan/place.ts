import { inParts } from './parts';
import { TINY, type Placed, type Room, type Window } from './room';
import { endCost, type Work } from './work';

/**
 * The cheapest place of a work in what is free, the earliest of equally cheap ones.
 * @param most a place that costs as much, or more, is of no use
 * @param price what each cell costs it beside waiting
 */
export function cheapest(work: Work, room: Room, window: Window, most: number, price: Float64Array = work.price): Placed | null {
  const whole = work.chunk >= work.size;
  const found = whole ? inOnePiece(work, room, window, most, price) : inParts(work, room, window, most, price);
  if (found && work.place >= 0) {
    for (const [at] of found.parts) found.cost -= room.way(work, room.cells.run[at] as number);
  }
  return found;
}

function inOnePiece(work: Work, room: Room, { first, end }: Window, most: number, price: Float64Array): Placed | null {
  const { cells, taken, left } = room;
  const { size } = work;
  const { day: dayOf, run: runOf } = cells;
  let [best, at] = [most, -1];
  let [length, sum, run, way] = [0, 0, -1, 0];
  let looked = 100;
  let cell = first;
  for (; cell < end; cell += 1) {
    const day = dayOf[cell] as number;
    if ((left[day] as number) < size) {
      // The whole day bears no more of it.
      cell = (cells.firstOf[day + 1] as number) - 1;
      length = 0;
      continue;
    }
    if (taken[cell] !== 0) {
      cell = (taken[cell] as number) - 1;
      length = 0;
      looked += 1;
      continue;
    }
    if (runOf[cell] !== run) {
      run = runOf[cell] as number;
      length = 0;
      way = work.place < 0 ? 0 : room.way(work, run);
    }
    if (length === 0) sum = 0;
    length += 1;
    looked += 1;
    sum += price[cell] as number;
    if (length > size) sum -= price[cell - size] as number;
    if (length < size) continue;
    const ending = endCost(work, cells, cell);
    if (ending >= best) break;
    const cost = ending + sum + way;
    if (cost < best - TINY) {
      best = cost;
      at = cell + 1 - size;
    }
  }
  room.looked += looked;
  return at < 0 ? null : { parts: [[at, size]], cost: best };
}
