import type { Board, Prices } from './board';
import { NOWHERE_ELSE, RANKS, keysOf, layAll, settle } from './lay';
import { chosen, shiftOf, type Shift } from './near';
import { pricedBy, pricesOf } from './prices';
import { randomFrom, type Random } from './random';
import type { Placed } from './room';
import type { Work } from './work';

/** Steps of computing a search may take: with few tasks, with some, for each of many, and at most. */
const EFFORT = { few: 5_000_000, some: 1_800_000, perTask: 50_000, most: 60_000_000 };
/** Up to so many tasks are few: nearly everything can be tried, and the search begins anew some times. */
const FEW = { tasks: 12, begun: 16 };
/** From so many on each of them counts. */
const SOME = 20;
/** A turn takes so many steps beside what it lays. */
const TURN = 50;
/** How often the prices of the cells are moved. */
const ROUNDS = 30;
/** How often what has no place is laid anew, one is put elsewhere, and one more; and how often the prices count. */
const CHANCE = { out: 0.5, elsewhere: 0.5, more: 0.5, prices: 0.3 };
/** How much worse than the best a plan may be for a while, in what a task costs. */
const WORSE = 0.1;

/**
 * Fills an empty board, then lays a few works anew again and again, and keeps what costs less.
 * @param share of the usual computing; 1 is all of it
 */
export function search(board: Board, share = 1): void {
  let best = cheaper(board, shotOf(board), null);
  const { order, room } = board;
  if (order.length < 2 || best.cost <= leastOf(board) + 1e-9) return;
  const random = randomFrom(1);
  const { of } = pricesOf(board.works, board.cells, ROUNDS, best.cost);
  const prices: Prices = { of, priced: pricedBy(board.works, of) };
  best = cheaper(board, best, prices);
  const few = order.length <= FEW.tasks;
  const many = Math.max(EFFORT.some, EFFORT.perTask * (order.length - SOME));
  const effort = share * (few ? EFFORT.few : Math.min(EFFORT.most, many));
  const scale = board.placed.reduce((sum, one) => sum + (one?.cost ?? 0), 0) / order.length;
  const start = room.looked;
  let [begun, floor] = [1, best.cost];
  while (room.looked - start < effort) {
    room.looked += TURN;
    const over = (room.looked - start) / effort;
    if (few && over * FEW.begun > begun) {
      begun += 1;
      clear(board);
      layAll(board, order, keysOf(board, order, random, null), NOWHERE_ELSE, null);
      floor = board.cost;
    }
    const before = board.cost;
    const was = turn(board, random, prices, scale);
    if (board.cost > before + 1e-9 && board.cost > floor + scale * WORSE * (1 - over) * random.next()) {
      for (const [index] of [...was].reverse()) board.take(index);
      for (const [index, placed] of was) if (placed) board.lay(index, placed);
      board.cost = before;
      continue;
    }
    floor = Math.min(floor, board.cost);
    if (board.cost < best.cost - 1e-9) best = shotOf(board);
  }
  restore(board, best);
}

/** Lays a few works anew. Gives where they lay before, each after those it comes after. */
function turn(board: Board, random: Random, prices: Prices, scale: number): (readonly [number, Placed | null])[] {
  const { order, placed } = board;
  const before = board.cost;
  const out = random.once(CHANCE.out) ? random.oneOf(order.filter((index) => !placed[index])) : undefined;
  const shift = random.once(CHANCE.elsewhere) ? shiftOf(board, out === undefined ? order : [out], random) : null;
  const seed = shift?.index ?? out ?? random.oneOf(order) ?? 0;
  const anew = chosen(board, seed, shift, random);
  const was = anew.map((index) => [index, placed[index] ?? null] as const);
  for (const index of [...anew].reverse()) board.take(index);
  const shifts: Shift[] = shift ? [shift] : [];
  while (random.once(CHANCE.more)) shifts.push(...[shiftOf(board, anew, random)].filter((one) => one !== null));
  const elsewhere = new Map(shifts.reverse().map(({ index, within }) => [index, within]));
  const keys = keysOf(board, anew, random, shift?.index ?? null);
  layAll(board, anew, keys, elsewhere, random.once(CHANCE.prices) ? prices : null);
  if (board.cost < before + scale) settle(board, anew);
  return was;
}

interface Shot {
  cost: number;
  placed: (Placed | null)[];
}

const shotOf = (board: Board): Shot => ({ cost: board.cost, placed: [...board.placed] });

function clear(board: Board): void {
  for (const index of [...board.order].reverse()) board.take(index);
}

function restore(board: Board, shot: Shot): void {
  clear(board);
  for (const index of board.order) {
    const placed = shot.placed[index];
    if (placed) board.lay(index, placed);
  }
  board.cost = shot.cost;
}

/** The cheapest of a plan and those that each rank gives. */
function cheaper(board: Board, shot: Shot, prices: Prices | null): Shot {
  let best = shot;
  for (const rank of RANKS) {
    clear(board);
    layAll(board, board.order, board.works.map(rank), NOWHERE_ELSE, prices);
    if (prices) settle(board, board.order);
    if (board.cost < best.cost - 1e-9) best = shotOf(board);
  }
  restore(board, best);
  return best;
}

/** No plan costs less than each work at its own best. */
function leastOf(board: Board): number {
  return board.works.reduce((sum, { out }: Work, index) => sum + Math.min(out, board.alone(index)), 0);
}
