import { intersect, minutesIn, subtract, type Interval } from '../time/intervals';

/** How much of a day's working time is promised, in minutes. */
export interface DayLoad {
  capacity: number;
  meetings: number;
  /** What belongs to them: before, after, on the way. */
  buffers: number;
  blocks: number;
  unplaced: number;
  left: number;
  over: number;
}

export interface LoadInput {
  working: readonly Interval[];
  /** Events that count as busy. */
  meetings: readonly Interval[];
  /** Time beside them that is kept free for them. */
  buffers: readonly Interval[];
  /** Own time: work, quiet, break, prep, follow-up, travel. */
  blocks: readonly Interval[];
  /** Minutes of tasks planned for the day without a time. */
  unplaced: number;
}

/**
 * Load of a day. Only what lies in working time counts; two meetings at once count once, but a block
 * under a meeting counts beside it, because its work still has to be done.
 */
export function loadOfDay({ working, meetings, buffers, blocks, unplaced }: LoadInput): DayLoad {
  const capacity = minutesIn(working);
  const met = minutesIn(intersect(meetings, working));
  const beside = minutesIn(intersect(subtract(buffers, meetings), working));
  const blocked = minutesIn(intersect(blocks, working));
  const promised = met + beside + blocked + unplaced;
  return {
    capacity,
    meetings: met,
    buffers: beside,
    blocks: blocked,
    unplaced,
    left: Math.max(0, capacity - promised),
    over: Math.max(0, promised - capacity),
  };
}
