import { intersect, minutesIn, subtract, union, type Interval } from '../../time/intervals';
import { MINUTE, dayOf, wallOf } from '../../time/zones';
import { limitOf } from './cells';
import { DAY_LENGTH, PRICES, type PlanBlock, type PlanInput } from './problem';
import { outCost, weightOf } from './work';

/**
 * What a plan costs, by its definition: for each task that is not placed its weight times its minutes (ten times that with a
 * fixed deadline); for each that is placed its weight times the days until its end, ten times its weight for each started
 * day after a flexible deadline, 2 for each part after the first, 1 for each hour of deep work outside the deep hours or of
 * light work inside. What was seen in a place already costs 2 for each hour elsewhere, and twice as much when it loses its place.
 */
export function costOfPlan(input: PlanInput, blocks: readonly PlanBlock[]): number {
  const { from, deep, tasks } = input;
  let cost = 0;
  const blocksOf = byTask(blocks);
  for (const task of tasks) {
    const own = union(blocksOf.get(task.id) ?? []);
    const last = own.at(-1);
    if (!last) {
      cost += outCost(task);
      continue;
    }
    const weight = weightOf(task);
    cost += (weight * (last.end - from)) / DAY_LENGTH + PRICES.part * (own.length - 1);
    if (task.deadline !== null && last.end > task.deadline) {
      cost += weight * PRICES.lateDay * Math.ceil((last.end - task.deadline) / DAY_LENGTH);
    }
    if (task.concentration === 'deep') cost += hours(subtract(own, deep)) * PRICES.misplacedHour;
    if (task.concentration === 'light') cost += hours(intersect(own, deep)) * PRICES.misplacedHour;
    if (task.seen.length > 0) cost += hours(subtract(own, task.seen)) * PRICES.movedHour;
  }
  return cost;
}

function byTask(blocks: readonly PlanBlock[]): Map<string, PlanBlock[]> {
  const found = new Map<string, PlanBlock[]>();
  for (const block of blocks) {
    const own = found.get(block.task);
    if (own) own.push(block);
    else found.set(block.task, [block]);
  }
  return found;
}

const hours = (intervals: readonly Interval[]): number => minutesIn(intervals) / 60;

/** A plan that breaks a rule, for whoever checks one: what is wrong, in words; null where nothing is. */
export function faultOf(input: PlanInput, blocks: readonly PlanBlock[]): string | null {
  const { working, busy, kept, grid, tasks, zone } = input;
  const free = subtract(working, [...busy, ...kept]);
  const known = new Map(tasks.map((task) => [task.id, task]));
  if (minutesIn(blocks) !== blocks.reduce((sum, { start, end }) => sum + (end - start) / MINUTE, 0)) return 'blocks overlap';
  if (subtract(blocks, free).length > 0) return 'a block is outside the free time';
  if (blocks.some(({ task }) => !known.has(task))) return 'a block is for no task';
  const planned = new Map<string, number>();
  for (const { start, end } of [...blocks, ...kept]) {
    const day = dayOf(start, zone);
    planned.set(day, (planned.get(day) ?? 0) + (end - start) / MINUTE);
  }
  const full = blocks.map(({ start }) => dayOf(start, zone)).find((day) => (planned.get(day) ?? 0) > limitOf(input, day));
  if (full) return `${full} has more than its limit`;
  const clock = (at: number) => Number(wallOf(at, zone).slice(11, 13)) * 60 + Number(wallOf(at, zone).slice(14));
  if (blocks.some(({ start, end }) => clock(start) % grid || clock(end) % grid)) return 'a block is beside the grid';
  const blocksOf = byTask(blocks);
  const partsOf = (id: string) => union(blocksOf.get(id) ?? []);
  for (const task of tasks) {
    const own = partsOf(task.id);
    const [first, last] = [own[0], own.at(-1)];
    if (!first || !last) continue;
    const minutes = minutesIn(own);
    if (minutes !== Math.ceil(task.minutes / grid) * grid) return `${task.id} has ${minutes} minutes`;
    if (own.length > 1 && (task.minChunk === null || own.some(({ start, end }) => end - start < (task.minChunk ?? 0) * MINUTE))) {
      return `${task.id} has too short a part`;
    }
    if (task.notBefore !== null && first.start < task.notBefore) return `${task.id} begins before its day`;
    if (task.fixed && task.deadline !== null && last.end > task.deadline) return `${task.id} ends after its fixed deadline`;
    for (const id of task.after) {
      const ends = [...partsOf(id), ...kept.filter((block) => block.task === id)].map(({ end }) => end);
      if (ends.length === 0 || (known.has(id) && partsOf(id).length === 0))
        return `${task.id} comes after ${id}, which has no place`;
      if (Math.max(...ends) > first.start) return `${task.id} begins before ${id} is over`;
    }
  }
  return null;
}
