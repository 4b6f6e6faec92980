import type { Board } from './board';
import type { Random } from './random';
import type { Window } from './room';
import type { Work } from './work';

/** How many works are laid anew at once. */
const ANEW = { fewest: 2, most: 8 };
/** How often any others are laid anew, wherever they lie. */
const ANYWHERE = 0.3;
/** How often one shall begin where a gap begins, end where one ends, begin late anywhere; else it shall end early. */
const HOW = { begin: 0.3, end: 0.6, late: 0.8 };
/** Above so many works a few of them are sorted, not picked from all. */
const MANY = 64;

/** A work, and where it shall lie for once. */
export interface Shift {
  index: number;
  within: Window;
}

/** One of some works, and a window in which it shall lie for once, whatever that costs: others may fit better then. */
export function shiftOf(board: Board, works: readonly number[], random: Random): Shift | null {
  const index = random.oneOf(works) as number;
  const { head, tail, size } = board.works[index] as Work;
  if (tail - head <= size) return null;
  const { run, runFrom } = board.cells;
  const cell = head + random.upTo(Math.min(tail, head + board.reach) - head);
  const from = runFrom[run[cell] as number] as number;
  const to = Math.min(tail, runFrom[(run[cell] as number) + 1] as number);
  const how = random.next();
  if (how < HOW.begin) return { index, within: { first: from, end: tail } };
  if (how < HOW.end) return { index, within: { first: Math.max(head, to - size), end: to } };
  return { index, within: how < HOW.late ? { first: cell, end: tail } : { first: head, end: cell } };
}

/** Works to lay anew, each after those it comes after: one, others near it, and all that comes after them. */
export function chosen(board: Board, seed: number, shift: Shift | null, random: Random): number[] {
  const { order, works, placed } = board;
  const wanted = ANEW.fewest + random.upTo(Math.min(ANEW.most, order.length) - ANEW.fewest + 1);
  const anew = new Set<number>();
  const add = (first: number) => {
    const more = [first];
    for (let index = more.pop(); index !== undefined; index = more.pop()) {
      if (anew.has(index)) continue;
      anew.add(index);
      more.push(...(works[index] as Work).next);
    }
  };
  add(seed);
  if (shift) {
    const middle = shift.within.first + ((works[seed] as Work).size >> 1);
    for (const index of board.near(middle, wanted - 1)) add(index);
  }
  if (random.once(ANYWHERE)) {
    while (anew.size < wanted) add(random.oneOf(order) as number);
  } else {
    const at = placed[seed]?.parts.at(-1)?.[0] ?? (works[seed] as Work).head;
    const near = board.near(at, wanted * 2 + 2);
    while (anew.size < wanted && near.length > 0) add(near.splice(random.upTo(near.length), 1)[0] as number);
  }
  return order.length > MANY
    ? [...anew].sort((a, b) => board.rankOf(a) - board.rankOf(b))
    : order.filter((index) => anew.has(index));
}
