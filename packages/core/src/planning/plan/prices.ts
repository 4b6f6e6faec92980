import type { Cells } from './cells';
import { cheapest } from './place';
import type { Room } from './room';
import type { Work } from './work';

export interface CellPrices {
  /** What each cell is worth, by how many want it. */
  of: Float64Array;
  /** What no plan can cost less than. */
  least: number;
}

/** After so many rounds without a better bound prices move half as far. */
const PATIENCE = 8;

/**
 * Prices of cells by a relaxation: order and daily limits are left out, and what is taken twice is not forbidden but has a
 * price for each cell (Lagrange). Every task for itself at its best, less what the prices bring in, is never more than the
 * best plan costs; prices rise where too much lies and fall where nothing does (subgradient).
 * @param known the cost of a plan there is: how far the prices are moved depends on it
 */
export function pricesOf(works: readonly Work[], cells: Cells, rounds: number, known: number): CellPrices {
  const free = cells.limit.map(() => 0x7fffffff);
  const room: Room = { cells, taken: new Int32Array(cells.count), left: free, way: () => 0, looked: 0 };
  const { count } = cells;
  const [prices, best, used] = [new Float64Array(count), new Float64Array(count), new Float64Array(count)];
  let [least, pace, idle] = [-Infinity, 1, 0];
  for (let round = 0; round < rounds; round += 1) {
    used.fill(0);
    let sum = 0;
    const priced = pricedBy(works, prices);
    works.forEach((work, index) => {
      const window = { first: work.head, end: work.tail };
      const placed = work.blocked ? null : cheapest(work, room, window, work.out, priced[index]);
      sum += placed ? placed.cost : work.out;
      for (const [at, length] of placed?.parts ?? [])
        for (let cell = at; cell < at + length; cell += 1) used[cell] = (used[cell] as number) + 1;
    });
    for (const price of prices) sum -= price;
    if (sum > least + 1e-9) {
      [least, idle] = [sum, 0];
      best.set(prices);
    } else if ((idle += 1) >= PATIENCE) [pace, idle] = [pace / 2, 0];
    let length = 0;
    for (let cell = 0; cell < count; cell += 1) {
      const step = used[cell] === 0 && prices[cell] === 0 ? 0 : (used[cell] as number) - 1;
      used[cell] = step;
      length += step * step;
    }
    if (length === 0) break;
    const stride = (pace * Math.max(known - sum, known * 1e-4)) / length;
    for (let cell = 0; cell < count; cell += 1)
      prices[cell] = Math.max(0, (prices[cell] as number) + stride * (used[cell] as number));
  }
  return { of: best, least };
}

/** What each cell costs each work, with its price; works that are alike share one array. */
export function pricedBy(works: readonly Work[], prices: Float64Array): Float64Array[] {
  const known = new Map<Float64Array, Float64Array>();
  return works.map(({ price }) => {
    let sum = known.get(price);
    if (!sum) {
      sum = price.map((one, cell) => one + (prices[cell] as number));
      known.set(price, sum);
    }
    return sum;
  });
}
