import { MINUTE } from '../../time/zones';
import { Board } from './board';
import { cellsOf } from './cells';
import { costOfPlan } from './cost';
import { PRICES, type Plan, type PlanBlock, type PlanInput } from './problem';
import { whyNot } from './reasons';
import { search } from './search';
import { worksOf } from './work';

/**
 * Plans a stretch of days: lays tasks into free time at the least cost (see `costOfPlan`), valid always, and the same for the
 * same input. What finds no place says why, and the smallest change that would let it in.
 * @param share of the usual computing, where a worse plan will do; 1 is all of it
 */
export function planStretch(input: PlanInput, share = 1): Plan {
  const cells = cellsOf(input);
  const works = worksOf(input, cells);
  const board = new Board(works, cells);
  search(board, share);
  const blocks: PlanBlock[] = works
    .flatMap(({ task }, index) =>
      (board.placed[index]?.parts ?? []).map(([at, length]) => {
        const start = cells.start[at] as number;
        return { task: task.id, start, end: start + length * input.grid * MINUTE };
      }),
    )
    .sort((a, b) => a.start - b.start);
  return { blocks, unplaced: whyNot(input, board), cost: costOfPlan(input, blocks) + PRICES.way * board.ways() };
}
