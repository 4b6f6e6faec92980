import type { Interval } from '../../time/intervals';
import type { Day, Instant, Zone } from '../../time/zones';

/** Work to be placed. */
export interface PlanTask {
  id: string;
  /** What is still to be placed of it. */
  minutes: number;
  /** The least length of a part; null where it is done in one piece. */
  minChunk: number | null;
  priority: 'high' | 'normal' | 'low';
  /** What waiting, lateness and being left out are counted with; what its priority says where it is absent. */
  weight?: number;
  notBefore: Instant | null;
  deadline: Instant | null;
  /** Others set the deadline: nothing is placed after it. */
  fixed: boolean;
  concentration: 'deep' | 'medium' | 'light';
  /** Tasks that have to be done before it begins. */
  after: readonly string[];
  /** Where it is done, so that what is done in one place is done together. */
  place: string | null;
  /** Where the user has seen it: other times have a price. */
  seen: readonly Interval[];
}

/** Time set aside for a task that stays where it is. */
export interface KeptBlock extends Interval {
  task: string;
}

export interface PlanInput {
  zone: Zone;
  /** Nothing is placed before, and waiting is counted from here. */
  from: Instant;
  /** Working time of the stretch, as far as it goes. */
  working: readonly Interval[];
  busy: readonly Interval[];
  /** Hours that suit deep work. */
  deep: readonly Interval[];
  /** Blocks begin and end on full minutes of this, by the wall clock. */
  grid: number;
  /** Most minutes of blocks on one day; null for no limit. */
  dailyLimit: number | null;
  /** The same for single days; the lesser of both counts. */
  limits?: ReadonlyMap<Day, number>;
  kept: readonly KeptBlock[];
  tasks: readonly PlanTask[];
}

export interface PlanBlock extends Interval {
  task: string;
}

/** Why something finds no place. */
export type UnplacedWhy =
  | 'circle'
  | 'after-unknown'
  | 'after-unplaced'
  | 'passed'
  | 'no-time'
  | 'no-gap'
  | 'deadline'
  | 'limit'
  | 'taken'
  | 'crowded'
  | 'not-worth';

/** The smallest change that would let something in. */
export type Mend =
  | { kind: 'split'; minChunk: number }
  | { kind: 'shorten'; minutes: number }
  | { kind: 'deadline'; to: Instant }
  | { kind: 'limit'; minutes: number }
  | { kind: 'displace'; tasks: string[] }
  | { kind: 'after'; tasks: string[] }
  /** It fits, but so late that leaving it out costs less. */
  | { kind: 'anyway'; end: Instant }
  /** More days, or more working time. */
  | { kind: 'longer'; minutes: number };

export interface Unplaced {
  task: string;
  minutes: number;
  why: UnplacedWhy;
  mend: Mend | null;
}

export interface Plan {
  blocks: PlanBlock[];
  unplaced: Unplaced[];
  /** See `costOfPlan`; and the price of each way to a place. */
  cost: number;
}

/** What speaks against a plan, in one unit: see `costOfPlan`. */
export const PRICES = {
  /** Each day of waiting. */
  weight: { high: 9, normal: 3, low: 1 },
  /** What is not placed costs as many times more when others set its deadline. */
  fixed: 10,
  /** Each started day after a flexible deadline, times the weight. */
  lateDay: 10,
  /** Each part after the first. */
  part: 2,
  /** Each hour of deep work out of the deep hours, or of light work in them. */
  misplacedHour: 1,
  /** Each stretch of free time in which one goes to a place. */
  way: 2,
  /** Each hour of a task that is not where the user has seen it. */
  movedHour: 2,
  /** What has its place already costs as many times more when it loses it. */
  lost: 2,
} as const;

export const DAY_LENGTH = 86_400_000;
