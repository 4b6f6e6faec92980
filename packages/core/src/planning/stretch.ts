import { intersect, overlaps, subtract, type Interval } from '../time/intervals';
import {
  MINUTE,
  addDays,
  dayOf,
  endOfDay,
  instantOf,
  mondayOf,
  startOfDay,
  type Day,
  type Instant,
  type Zone,
} from '../time/zones';
import type { Priority } from '../capture/draft';
import { PRICES, type KeptBlock, type Plan, type PlanBlock, type PlanInput, type PlanTask } from './plan';
import { leewayOf } from './leeway';
import { isAtRisk, safeStarts } from './safeStart';

/** How days are planned. */
export interface PlanningRules {
  /** Hours that suit deep work, `HH:MM-HH:MM`. */
  deep: string[];
  /** Most minutes of own work on one day; null: no limit. */
  limit: number | null;
  /** Work that takes so long may be done in parts, none shorter than the least; minutes. */
  parts: { from: number; least: number };
  /** Tags that are places: what has the same one is done together. */
  places: string[];
  /** Percent of what is free on a day that plans set aside at most. */
  share: number;
  /** Whether plans leave pauses, and time for lunch. */
  pauses: boolean;
}

export const FIRST_PLANNING: PlanningRules = {
  deep: ['09:00-12:00'],
  limit: null,
  parts: { from: 120, least: 45 },
  places: [],
  share: 80,
  pauses: true,
};

/** A task as planning sees it. */
export interface OpenTask {
  id: string;
  parentId: string | null;
  position: number;
  /** Minutes it takes in all, and how many of them are behind it. */
  minutes: number;
  spent: number;
  priority: Priority;
  concentration: 'deep' | 'medium' | 'light';
  /** Day, or wall-clock time. */
  deadline: string | null;
  deadlineFixed: boolean;
  notBefore: Day | null;
  plannedDay: Day | null;
  plannedWeek: string | null;
  tags: readonly string[];
}

/** Time that is set aside. */
export interface SetAside extends Interval {
  id: string;
  taskId: string | null;
  pinned: boolean;
  /** Protected from others: work can lie in it. */
  quiet: boolean;
}

export interface Stretch {
  zone: Zone;
  now: Instant;
  /** First and last day. */
  from: Day;
  to: Day;
  working: readonly Interval[];
  /** What is promised to others, and what belongs to it. */
  busy: readonly Interval[];
  /** Deep hours of these days. */
  deep: readonly Interval[];
  grid: number;
  rules: PlanningRules;
  /** Everything that can be done now: open, not waiting for others, not handed over, not on the shelf. */
  tasks: readonly OpenTask[];
  /** All time that is set aside from now on, also after the stretch. */
  blocks: readonly SetAside[];
  /** What is for these days or due in them; that and what is due soon after; or all that is open. */
  what: 'these' | 'due' | 'all';
  /** Whether time that is set aside already may move. */
  again: boolean;
}

/** From the Monday of a week: what is for some day of it is for days that reach so far. */
const FRIDAY = 4;
/** Steps in steps that are looked at. */
const DEEPEST = 30;
/** Days after a stretch in which a deadline is near enough to plan for it. */
const SOON = 7;

/** A day is over at its end. */
export const deadlineAt = (deadline: string, zone: Zone): Instant =>
  deadline.length === 10 ? endOfDay(deadline, zone) : instantOf(deadline, zone);

/**
 * The planning problem of a stretch of days, and the time set aside that may move in it. What has begun stays, what is pinned
 * stays, and what is for no task stays; quiet time is as good for deep work as its hours.
 */
export function problemOf(stretch: Stretch): { input: PlanInput; movable: SetAside[] } {
  const { zone, now, from, to, working, busy, deep, grid, rules, blocks, again } = stretch;
  const whole = { start: Math.max(now, startOfDay(from, zone)), end: endOfDay(to, zone) };
  const coming = blocks.filter(({ end }) => end > now);
  const mayMove = (block: SetAside) =>
    again && block.taskId !== null && !block.pinned && block.start > now && overlaps(block, whole);
  const planned = tasksToPlan(stretch);
  const known = new Set(planned.map(({ id }) => id));
  const movable = coming.filter((block) => mayMove(block) && known.has(block.taskId ?? ''));
  const moves = new Set(movable);
  const stays = coming.filter((block) => !moves.has(block));
  const kept = stays.flatMap(({ taskId, start, end }): KeptBlock[] => (taskId === null ? [] : [{ task: taskId, start, end }]));
  const taken = stays.filter(({ taskId, quiet }) => taskId === null && !quiet);
  const quiet = stays.filter((block) => block.quiet);
  const placed = new Map<string, number>();
  for (const block of kept) placed.set(block.task, (placed.get(block.task) ?? 0) + aheadOf(block, now));
  const among = amongOf(stretch.tasks, movable);
  const tasks = planned.flatMap((task): PlanTask[] => {
    const minutes = task.minutes - task.spent - (placed.get(task.id) ?? 0);
    return minutes > 0 ? [planTask(task, minutes, stretch, among)] : [];
  });
  const start = Math.ceil(whole.start / MINUTE) * MINUTE;
  const days = { zone, grid, kept, working: intersect(working, [{ start, end: whole.end }]), busy: [...busy, ...taken] };
  const { pauses, limits } = leewayOf({ ...days, movable, share: rules.share / 100, withPauses: rules.pauses });
  const input: PlanInput = {
    ...{ ...days, from: start, tasks, dailyLimit: rules.limit, limits, deep: [...deep, ...quiet] },
    busy: [...days.busy, ...pauses],
  };
  return { input: { ...input, tasks: weighed(input, whole.end) }, movable };
}

/** How many times more counts what is due in the stretch; then a low priority outweighs a high one that is not. */
const DUE = 10;
/** How many times more counts what can hardly be done in time any more. */
const RISKY = 2;
const DAY = 1440 * MINUTE;

/**
 * Tasks with what they count: what is due by the end of the stretch outweighs what is not, whatever their priorities, the
 * nearer the more, and most of all what is at risk; what is due soon after counts the more the sooner.
 */
function weighed({ from, working, busy, kept, tasks }: PlanInput, end: Instant): PlanTask[] {
  const free = subtract(working, [...busy, ...kept]);
  const due = tasks.flatMap(({ id, minutes, deadline }) =>
    deadline !== null && deadline <= end ? [{ id, minutes, deadline }] : [],
  );
  const risky = new Set(safeStarts(free, due).flatMap((one) => (isAtRisk(one) ? one.id : [])));
  return tasks.map((task) => {
    const { id, priority, deadline } = task;
    if (deadline === null || deadline > end + SOON * DAY) return task;
    const days = (moment: Instant) => Math.max(0, deadline - moment) / DAY;
    const times =
      deadline <= end ? DUE * (1 + 1 / (1 + days(from))) * (risky.has(id) ? RISKY : 1) : 1 + (DUE - 1) / (1 + days(end));
    return { ...task, weight: PRICES.weight[priority] * times };
  });
}

/** What a task stands among, looked up once for all of them. */
interface Among {
  byId: ReadonlyMap<string, OpenTask>;
  /** The step before each, by its id. */
  before: ReadonlyMap<string, string>;
  seen: ReadonlyMap<string, Interval[]>;
}

function amongOf(tasks: readonly OpenTask[], movable: readonly SetAside[]): Among {
  const steps = new Map<string, OpenTask[]>();
  for (const task of tasks) if (task.parentId !== null) pushTo(steps, task.parentId, task);
  const before = new Map<string, string>();
  for (const own of steps.values()) {
    own.sort((a, b) => a.position - b.position || (a.id < b.id ? -1 : 1));
    // Steps are done in their order: each after the one before it.
    own.forEach(({ id }, at) => {
      const last = own[at - 1];
      if (last) before.set(id, last.id);
    });
  }
  const seen = new Map<string, Interval[]>();
  for (const { taskId, start, end } of movable) if (taskId !== null) pushTo(seen, taskId, { start, end });
  return { byId: new Map(tasks.map((task) => [task.id, task])), before, seen };
}

function pushTo<T>(map: Map<string, T[]>, key: string, value: T): void {
  const known = map.get(key);
  if (known) known.push(value);
  else map.set(key, [value]);
}

/** Minutes of a block that are still to come. */
const aheadOf = ({ start, end }: Interval, now: Instant): number => Math.round((end - Math.max(start, now)) / MINUTE);

/** Tasks that are planned for a stretch. A task with open steps is done by them. */
function tasksToPlan({ tasks, zone, now, to, what, blocks }: Stretch): OpenTask[] {
  const parents = new Set(tasks.map(({ parentId }) => parentId));
  const withTime = new Set(blocks.filter(({ end }) => end > now).map(({ taskId }) => taskId));
  const byId = new Map(tasks.map((task) => [task.id, task]));
  const soon = what === 'these' ? to : addDays(to, SOON);
  const isDue = (task: OpenTask, depth = 0): boolean => {
    const { plannedDay, plannedWeek, deadline, parentId } = task;
    if (plannedDay !== null && plannedDay <= to) return true;
    if (plannedWeek !== null && addDays(mondayOf(plannedWeek), what === 'these' ? FRIDAY : 0) <= to) return true;
    if (deadline !== null && dayOf(deadlineAt(deadline, zone) - 1, zone) <= soon) return true;
    if (what !== 'these' && withTime.has(task.id)) return true;
    const parent = byId.get(parentId ?? '');
    return parent !== undefined && depth < DEEPEST && isDue(parent, depth + 1);
  };
  return tasks.filter((task) => {
    if (parents.has(task.id) || (task.notBefore !== null && task.notBefore > to)) return false;
    return what === 'all' ? (task.plannedDay ?? to) <= to : isDue(task);
  });
}

function planTask(task: OpenTask, minutes: number, stretch: Stretch, { byId, before, seen }: Among): PlanTask {
  const { zone, rules } = stretch;
  const days = [task.notBefore, task.plannedDay, task.plannedWeek && mondayOf(task.plannedWeek)];
  const first = days
    .filter((day) => day !== null)
    .sort()
    .at(-1);
  const parent = byId.get(task.parentId ?? '');
  const last = before.get(task.id);
  const deadline = task.deadline ?? parent?.deadline ?? null;
  const fixed = task.deadline === null ? (parent?.deadlineFixed ?? false) : task.deadlineFixed;
  return {
    ...{ id: task.id, minutes, priority: task.priority, concentration: task.concentration },
    minChunk: minutes >= rules.parts.from ? Math.min(rules.parts.least, minutes) : null,
    notBefore: first ? startOfDay(first, zone) : null,
    // A wish that has passed makes no later day worse than it is: what is late is done soon.
    deadline: deadline === null ? null : Math.max(deadlineAt(deadline, zone), fixed ? 0 : stretch.now),
    fixed,
    after: last ? [last] : [],
    place: task.tags.find((tag) => rules.places.includes(tag)) ?? null,
    seen: seen.get(task.id) ?? [],
  };
}

/** Time that a plan sets aside: new, or instead of where it was. */
export interface Placing extends PlanBlock {
  /** The block that goes there; null for a new one. */
  block: string | null;
  was: Interval | null;
}

export interface PlanChanges {
  placings: Placing[];
  /** Time that would be given back. */
  gone: SetAside[];
  /** How many blocks that might have moved stay where they are. */
  stays: number;
}

/** What a plan changes: blocks that stay as they are are left out, and those that move keep their name. */
export function changesOf({ blocks }: Pick<Plan, 'blocks'>, movable: readonly SetAside[]): PlanChanges {
  const left = new Set(movable);
  const take = (fits: (one: SetAside) => boolean) => {
    const found = [...left].find(fits);
    if (found) left.delete(found);
    return found;
  };
  const anew = blocks.filter(
    ({ task, start, end }) => !take((one) => one.taskId === task && one.start === start && one.end === end),
  );
  const stays = movable.length - left.size;
  const placings = anew.map(({ task, start, end }): Placing => {
    const length = end - start;
    const old = take((one) => one.taskId === task && one.end - one.start === length) ?? take((one) => one.taskId === task);
    return { task, start, end, block: old?.id ?? null, was: old ? { start: old.start, end: old.end } : null };
  });
  return { placings, gone: [...left], stays };
}
