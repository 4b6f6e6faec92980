import { cellsOf } from './cells';
import { pricesOf } from './prices';
import type { PlanInput } from './problem';
import { worksOf } from './work';

/**
 * What no plan can cost less than; see `pricesOf`.
 * @param rounds how often the prices are changed; more come closer
 * @param known the cost of a plan there is
 */
export function leastCost(input: PlanInput, rounds: number, known: number): number {
  const cells = cellsOf(input);
  return pricesOf(worksOf(input, cells), cells, rounds, known).least;
}
