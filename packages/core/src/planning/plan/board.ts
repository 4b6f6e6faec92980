import { cellFrom, type Cells } from './cells';
import { cheapest } from './place';
import { PRICES } from './problem';
import type { Placed, Room, Window } from './room';
import { inOrder, type Work } from './work';

/** What cells are worth, and what they cost each work with that. */
export interface Prices {
  of: Float64Array;
  priced: readonly Float64Array[];
}

/** A plan while it is searched: which work lies where, and what that costs. */
export class Board {
  readonly room: Room;
  readonly placed: (Placed | null)[];
  /** Every work after those it comes after; what can never be placed is not in it. */
  readonly order: number[];
  cost = 0;
  /** How far from its head a work is likely to lie, in cells: as far as all of them together take. */
  readonly reach: number;
  /** Which work lies on a cell, or -1. */
  private readonly owner: Int32Array;
  private readonly ranks: number[] = [];
  private readonly alones: number[];
  private readonly follows: number[];
  /** How many works of each place lie in each run. */
  private readonly there = new Map<number, number>();

  constructor(
    readonly works: readonly Work[],
    readonly cells: Cells,
  ) {
    this.room = {
      cells,
      taken: new Int32Array(cells.count),
      left: cells.limit.slice(),
      looked: 0,
      way: ({ place }, run) => (this.there.get(place * cells.runs + run) ? 0 : PRICES.way),
    };
    this.placed = works.map(() => null);
    this.reach = 2 * works.reduce((sum, { size }) => sum + size, 0) + 16;
    this.owner = new Int32Array(cells.count).fill(-1);
    this.order = inOrder(works).filter((index) => works[index]?.blocked === null);
    this.order.forEach((index, at) => (this.ranks[index] = at));
    this.alones = works.map((work) =>
      work.blocked ? Infinity : (cheapest(work, this.room, { first: work.head, end: work.tail }, Infinity)?.cost ?? Infinity),
    );
    this.follows = works.map(({ next }) => next.reduce((sum, one) => sum + (works[one]?.out ?? 0), 0));
    this.cost = works.reduce((sum, { out }) => sum + out, 0);
  }

  /** What a work costs at its best if it has everything to itself, without ways; Infinity where it fits nowhere. */
  alone(index: number): number {
    return this.alones[index] as number;
  }

  /** What it costs to leave out what comes right after a work. */
  follow(index: number): number {
    return this.follows[index] as number;
  }

  /** The place of a work in the order. */
  rankOf(index: number): number {
    return this.ranks[index] as number;
  }

  /** Up to so many works that lie nearest to a cell. */
  near(cell: number, count: number): number[] {
    const found = new Set<number>();
    for (let away = 0; found.size < count && (cell - away >= 0 || cell + away < this.cells.count); away += 1) {
      for (const at of [cell - away, cell + away]) {
        const one = this.owner[at] ?? -1;
        if (one >= 0) found.add(one);
      }
    }
    return [...found];
  }

  /** First cell a work may begin in as the others lie now; null where one it comes after has no place. */
  headOf(index: number): number | null {
    const work = this.works[index] as Work;
    let { head } = work;
    for (const before of work.before) {
      const one = this.placed[before];
      if (!one) return null;
      head = Math.max(head, this.pastEnd(one));
    }
    return head;
  }

  /** The first cell that begins when a work is over. */
  private pastEnd({ parts }: Placed): number {
    const [at, length] = parts[parts.length - 1] as [number, number];
    return cellFrom(this.cells, this.cells.end[at + length - 1] as number);
  }

  /** The cell before which a work has to be over as the others lie now. */
  tailOf(index: number): number {
    const work = this.works[index] as Work;
    let { tail } = work;
    for (const next of work.next) {
      const [first] = this.placed[next]?.parts ?? [];
      if (first) tail = Math.min(tail, first[0]);
    }
    return tail;
  }

  /**
   * Puts a work where it costs least, if that costs less than `most`.
   * @param within a narrower window than it has
   * @param prices what cells are worth to the others: it stays away where they need them more
   */
  put(index: number, most: number, within: Window | null, prices: Prices | null): boolean {
    const work = this.works[index] as Work;
    const head = this.headOf(index);
    if (head === null) return false;
    const window = {
      first: Math.max(head, within?.first ?? 0),
      end: Math.min(this.tailOf(index), within?.end ?? this.cells.count),
    };
    // Where it makes room for what comes after it; else anywhere.
    const price = prices ? prices.priced[index] : work.price;
    const early = work.wish < window.end ? cheapest(work, this.room, { ...window, end: work.wish }, most, price) : null;
    const found = early ?? cheapest(work, this.room, window, most, price);
    if (!found) return false;
    if (prices) {
      for (const [at, length] of found.parts)
        for (let cell = at; cell < at + length; cell += 1) found.cost -= prices.of[cell] as number;
    }
    this.lay(index, found);
    return true;
  }

  lay(index: number, found: Placed): void {
    const work = this.works[index] as Work;
    this.placed[index] = found;
    this.mark(found, index);
    this.cost += found.cost - work.out;
    if (work.place >= 0) this.count(work, found, 1);
  }

  /** Takes a work away; what comes after it must be taken away before. */
  take(index: number): void {
    const work = this.works[index] as Work;
    const found = this.placed[index];
    if (!found) return;
    this.placed[index] = null;
    this.mark(found, -1);
    this.cost += work.out - found.cost;
    if (work.place >= 0) this.count(work, found, -1);
  }

  private mark({ parts }: Placed, owner: number): void {
    const { taken, left } = this.room;
    for (const [at, length] of parts) {
      taken.fill(owner < 0 ? 0 : at + length, at, at + length);
      this.owner.fill(owner, at, at + length);
      const day = this.cells.day[at] as number;
      left[day] = (left[day] as number) + (owner < 0 ? length : -length);
    }
  }

  /** How many ways to places there are. */
  ways(): number {
    return [...this.there.values()].filter((count) => count > 0).length;
  }

  /** The first to go to a place in a run pays the way, the last to leave takes the price along. */
  private count({ place }: Work, { parts }: Placed, by: 1 | -1): void {
    for (const run of new Set(parts.map(([at]) => this.cells.run[at] as number))) {
      const key = place * this.cells.runs + run;
      const now = (this.there.get(key) ?? 0) + by;
      this.there.set(key, now);
      if (now === (by === 1 ? 1 : 0)) this.cost += by * PRICES.way;
    }
  }
}
