import type { Board, Prices } from './board';
import type { Random } from './random';
import type { Window } from './room';
import type { Work } from './work';

/** What asks first when works are laid one after the other: the lower number. */
type Rank = (work: Work) => number;

export const RANKS: readonly Rank[] = [
  // What costs most where it is left out, for the time it takes.
  ({ out, size }) => -out / size,
  // What costs most while it waits, for the time it takes (Smith's rule).
  ({ weight, size }) => -weight / size,
  // What is due first.
  ({ tail, lateFrom, size, weight }) => Math.min(tail, lateFrom) - size - weight,
  // The first, and the second among equals.
  ({ out, size, weight }) => -(out / size) * 1000 - weight / size,
];

/** How often the order is one of chance alone, and how often what is put elsewhere asks before all others. */
const CHANCE = { unranked: 0.4, first: 0.5 };
/** What a rank is multiplied with: from, and how much more at most. */
const BLUR = { from: 0.4, more: 1.6 };

/** Some works, and windows that are narrower than theirs. */
export type Elsewhere = ReadonlyMap<number, Window>;
export const NOWHERE_ELSE: Elsewhere = new Map();

/**
 * Lays works that lie nowhere, the lowest key first, each after those it comes after.
 * @param prices what cells are worth to all, where that shall count
 */
export function layAll(
  board: Board,
  works: readonly number[],
  key: readonly number[],
  elsewhere: Elsewhere,
  prices: Prices | null,
): void {
  const open = new Set(works);
  const byKey = [...works].sort((a, b) => (key[a] as number) - (key[b] as number) || a - b);
  for (const first of byKey) {
    const waiting = [first];
    for (let index = waiting.at(-1); index !== undefined; index = waiting.at(-1)) {
      const { before, out } = board.works[index] as Work;
      const sooner = before.filter((one) => open.has(one));
      if (open.has(index) && sooner.length > 0) {
        waiting.push(...sooner);
        continue;
      }
      waiting.pop();
      if (!open.delete(index)) continue;
      const most = out + board.follow(index);
      const within = elsewhere.get(index);
      if (!within || !board.put(index, most, within, null)) board.put(index, most, null, prices);
    }
  }
  // What was only laid for the sake of what follows it, and nothing follows.
  for (const index of [...works].reverse()) {
    const { out, next } = board.works[index] as Work;
    const placed = board.placed[index];
    if (placed && placed.cost > out && next.every((one) => !board.placed[one])) board.take(index);
  }
}

/** Lets each of them go where it costs less now that the others lie. */
export function settle(board: Board, works: readonly number[]): void {
  for (const index of works) {
    const placed = board.placed[index];
    if (!placed) {
      board.put(index, (board.works[index] as Work).out, null, null);
      continue;
    }
    board.take(index);
    if (!board.put(index, placed.cost, null, null)) board.lay(index, placed);
  }
}

/** In what order works ask: at random, or by one of the ranks, blurred. @param first the one that may ask before all others */
export function keysOf(board: Board, works: readonly number[], random: Random, first: number | null): number[] {
  const key: number[] = [];
  const rank = random.once(CHANCE.unranked) ? undefined : random.oneOf(RANKS);
  for (const index of works) {
    key[index] = rank ? rank(board.works[index] as Work) * (BLUR.from + BLUR.more * random.next()) : random.next();
  }
  if (first !== null && random.once(CHANCE.first)) key[first] = -Infinity;
  return key;
}
