import { cellFrom, cellPast, type Cells } from './cells';
import { DAY_LENGTH, PRICES, type PlanInput, type PlanTask, type UnplacedWhy } from './problem';

/** A task as the search sees it, in cells. */
export interface Work {
  task: PlanTask;
  /** How many cells it takes. */
  size: number;
  /** The least of them in a part; as many as it takes where it stays in one piece. */
  chunk: number;
  weight: number;
  /** What it costs to leave it out. */
  out: number;
  /** First cell it may begin in, and the cell before which it has to be over. */
  head: number;
  tail: number;
  /** The cell before which it has to be over if all that comes after it is to be in time. */
  wish: number;
  /** First cell that ends after its flexible deadline. */
  lateFrom: number;
  /** What each cell costs it beside waiting. */
  price: Float64Array;
  /** What has to be over before it begins, and what begins after it; places in the list of works. */
  before: number[];
  next: number[];
  /** Number of the place where it is done, or -1. */
  place: number;
  /** It cannot be placed, whatever the others do. */
  blocked: UnplacedWhy | null;
}

/** Cost of a task whose last cell is this one: waiting, and lateness; see `costOfPlan`. */
export function endCost(work: Work, cells: Cells, last: number): number {
  const waited = work.weight * (cells.wait[last] as number);
  if (last < work.lateFrom) return waited;
  const late = (cells.end[last] as number) - (work.task.deadline as number);
  return waited + work.weight * PRICES.lateDay * Math.ceil(late / DAY_LENGTH);
}

/** What waiting for a task costs a day. */
export const weightOf = ({ weight, priority }: Pick<PlanTask, 'weight' | 'priority'>): number =>
  weight ?? PRICES.weight[priority];

/** Cost of leaving a task out. */
export const outCost = ({ priority, weight, minutes, deadline, fixed, seen }: PlanTask): number =>
  (weight ?? PRICES.weight[priority]) *
  minutes *
  (deadline !== null && fixed ? PRICES.fixed : 1) *
  (seen.length > 0 ? PRICES.lost : 1);

/** The tasks in order of their ids, as works. */
export function worksOf(input: PlanInput, cells: Cells): Work[] {
  const tasks = [...input.tasks].sort((a, b) => (a.id < b.id ? -1 : 1));
  const at = new Map(tasks.map(({ id }, index) => [id, index]));
  const places = [...new Set(tasks.flatMap(({ place }) => (place === null ? [] : [place])))];
  const keptUntil = new Map<string, number>();
  for (const { task, end } of input.kept) keptUntil.set(task, Math.max(end, keptUntil.get(task) ?? 0));
  const works = tasks.map((task): Work => {
    const { minutes, minChunk, deadline, fixed, after } = task;
    const size = Math.ceil(minutes / input.grid);
    const chunk = minChunk === null ? size : Math.min(size, Math.ceil(minChunk / input.grid));
    const begin = Math.max(task.notBefore ?? 0, ...after.map((id) => keptUntil.get(id) ?? 0));
    return {
      task,
      size,
      // Two parts would be longer than all of it.
      chunk: chunk * 2 > size ? size : chunk,
      weight: weightOf(task),
      out: outCost(task),
      head: cellFrom(cells, begin),
      tail: deadline !== null && fixed ? cellPast(cells, deadline) : cells.count,
      wish: cells.count,
      lateFrom: deadline !== null && !fixed ? cellPast(cells, deadline) : cells.count,
      price: priceOf(task, cells, input.grid),
      before: after.flatMap((id) => at.get(id) ?? []),
      next: [],
      place: task.place === null ? -1 : places.indexOf(task.place),
      blocked: after.some((id) => !at.has(id) && !keptUntil.has(id)) ? 'after-unknown' : null,
    };
  });
  works.forEach(({ before }, index) => {
    for (const one of before) works[one]?.next.push(index);
  });
  blockCircles(works);
  for (const index of inOrder(works).reverse()) {
    const work = works[index] as Work;
    const later = work.next.map((next) => works[next] as Work).filter(({ blocked }) => blocked === null);
    work.wish = Math.min(work.tail, ...later.map((one) => latestStart(one, cells)));
  }
  return works;
}

/** The last cell in which a work can begin if it is over before its wish, and nothing is in the way. */
function latestStart({ size, chunk, head, wish }: Work, cells: Cells): number {
  let at = wish - size;
  if (chunk >= size) while (at > head && cells.run[at] !== cells.run[at + size - 1]) at -= 1;
  return at;
}

/** What a cell costs a task: hours that do not suit it, and hours where the user has not seen it. */
function priceOf({ concentration, seen }: PlanTask, cells: Cells, grid: number): Float64Array {
  const price = cells.price[concentration];
  if (seen.length === 0) return price;
  const moved = (grid / 60) * PRICES.movedHour;
  return price.map((one, cell) => {
    const [start, end] = [cells.start[cell] as number, cells.end[cell] as number];
    return one + (seen.some((was) => was.start <= start && was.end >= end) ? 0 : moved);
  });
}

/** Every work after all it comes after; without those that wait for themselves. */
export function inOrder(works: readonly Work[]): number[] {
  const open = works.map(({ before }) => before.length);
  const order = open.flatMap((count, index) => (count === 0 ? [index] : []));
  for (let at = 0; at < order.length; at += 1) {
    for (const next of works[order[at] as number]?.next ?? []) {
      open[next] = (open[next] as number) - 1;
      if (open[next] === 0) order.push(next);
    }
  }
  return order;
}

/** Names what can never be placed: tasks that wait for each other, and all that comes after such tasks. */
function blockCircles(works: Work[]): void {
  const order = inOrder(works);
  const placed = new Set(order);
  const circle = new Set(works.keys());
  for (const one of order) circle.delete(one);
  // What only comes after a circle is not part of it.
  for (let shrunk = true; shrunk;) {
    shrunk = false;
    for (const one of circle) {
      if (works[one]?.next.some((next) => circle.has(next))) continue;
      circle.delete(one);
      shrunk = true;
    }
  }
  works.forEach((work, index) => {
    if (circle.has(index)) work.blocked = 'circle';
    else if (!placed.has(index)) work.blocked ??= 'after-unplaced';
  });
  for (const one of order) {
    const work = works[one] as Work;
    if (work.before.some((before) => works[before]?.blocked)) work.blocked ??= 'after-unplaced';
  }
}
