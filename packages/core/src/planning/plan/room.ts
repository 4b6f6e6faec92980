import type { Cells } from './cells';
import type { Work } from './work';

/** Less is no difference: sums of the same numbers in another order. */
export const TINY = 1e-9;

/** What of the free time can be used. */
export interface Room {
  cells: Cells;
  /** 0 where a cell is free, else the cell after the part that takes it. */
  taken: Int32Array;
  /** Cells of blocks that each day still bears. */
  left: Int32Array;
  /** What going to the place of a work costs in a run. */
  way: (work: Work, run: number) => number;
  /** Steps of computing so far: a search ends by them and not by the clock, so that it ends the same everywhere. */
  looked: number;
}

/** Where a work goes: first cell and length of each part, and what that costs without the way there. */
export interface Placed {
  parts: [number, number][];
  cost: number;
}

/** The window in which a work may lie: cells from `first` on, before `end`. */
export interface Window {
  first: number;
  end: number;
}
