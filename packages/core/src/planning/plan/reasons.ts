import { MINUTE } from '../../time/zones';
import type { Board } from './board';
import { cheapest } from './place';
import type { Mend, PlanInput, Unplaced, UnplacedWhy } from './problem';
import type { Placed, Room } from './room';
import type { Work } from './work';

/** No part is proposed that is shorter; minutes. */
const SHORTEST_PART = 15;
/** How many other tasks are tried for making room, and for how many of those without a place. */
const TRIED = { others: 60, unplaced: 60 };

/** Why each task has no place, and the smallest change that would let it in while all others stay where they are. */
export function whyNot(input: PlanInput, board: Board): Unplaced[] {
  let asked = 0;
  return board.works.flatMap((work, index) => {
    if (board.placed[index]) return [];
    asked += 1;
    const { id, minutes } = work.task;
    return [{ task: id, minutes, ...reasonOf(input, board, index, asked <= TRIED.unplaced) }];
  });
}

function reasonOf(input: PlanInput, board: Board, index: number, searching: boolean): { why: UnplacedWhy; mend: Mend | null } {
  const work = board.works[index] as Work;
  const { task, before, blocked } = work;
  if (blocked === 'after-unknown') {
    const known = new Set([...input.tasks.map(({ id }) => id), ...input.kept.map((block) => block.task)]);
    return { why: blocked, mend: { kind: 'after', tasks: task.after.filter((id) => !known.has(id)) } };
  }
  const waiting = before.filter((one) => !board.placed[one]).map((one) => board.works[one]?.task.id ?? '');
  if (waiting.length > 0)
    return { why: blocked === 'circle' ? 'circle' : 'after-unplaced', mend: { kind: 'after', tasks: waiting } };
  const empty: Room = { ...board.room, taken: new Int32Array(board.cells.count), left: board.cells.limit };
  const free = { ...work, head: board.headOf(index) ?? work.head, tail: board.tailOf(index) };
  const passed = task.fixed && task.deadline !== null && task.deadline <= input.from;
  const why = passed
    ? 'passed'
    : fits(free, empty)
      ? fits(free, board.room)
        ? 'not-worth'
        : isOutdone(board, index)
          ? 'taken'
          : 'crowded'
      : whyNever(free, empty);
  return { why, mend: searching ? mendOf(input, board, free, why) : null };
}

/** Whether something that is placed counts for more by the minute, or is due sooner: only then is that said. */
function isOutdone({ works, placed }: Board, index: number): boolean {
  const own = works[index] as Work;
  const due = (work: Work) => work.task.deadline ?? Infinity;
  return works.some(
    (work, at) => placed[at] && at !== index && (work.out / work.size > own.out / own.size || due(work) < due(own)),
  );
}

/** Why it would not fit if nothing else had to be done. */
function whyNever(work: Work, empty: Room): UnplacedWhy {
  const { count } = empty.cells;
  if (work.head >= count) return 'no-time';
  if (work.tail < count && fits({ ...work, tail: count }, empty)) return 'deadline';
  if (fits(work, unlimited(empty))) return 'limit';
  return work.chunk >= work.size && fits({ ...work, chunk: 1 }, empty) ? 'no-gap' : 'no-time';
}

const fits = (work: Work, room: Room): Placed | null =>
  cheapest(work, room, { first: work.head, end: work.tail }, Number.MAX_VALUE);

const unlimited = (room: Room): Room => ({ ...room, left: room.left.map(() => 0x7fffffff) });

/** All that would let it in, with the minutes that each of them changes. */
function mendOf({ grid }: PlanInput, board: Board, work: Work, why: UnplacedWhy): Mend | null {
  const { room, cells } = board;
  const found: { mend: Mend; minutes: number }[] = [];
  const endOf = (placed: Placed): number => {
    const [at, length] = placed.parts.at(-1) as [number, number];
    return cells.end[at + length - 1] as number;
  };
  if (why === 'not-worth') {
    const placed = fits(work, room);
    return placed && { kind: 'anyway', end: endOf(placed) };
  }
  const inParts = splitOf(work, room, grid);
  if (inParts) found.push({ mend: { kind: 'split', minChunk: inParts * grid }, minutes: 0 });
  const shorter = largest(work.size - 1, (size) => fits({ ...work, size, chunk: Math.min(work.chunk, size) }, room) !== null);
  if (shorter > 0) found.push({ mend: { kind: 'shorten', minutes: shorter * grid }, minutes: (work.size - shorter) * grid });
  if (work.tail < cells.count) {
    const later = fits({ ...work, tail: cells.count }, room);
    if (later) {
      const to = endOf(later);
      found.push({ mend: { kind: 'deadline', to }, minutes: (to - (work.task.deadline ?? to)) / MINUTE });
    }
  }
  const more = work.size - largest(work.size, (less) => fits(work, raised(room, work.size - less)) !== null, -1);
  if (more > 0 && more <= work.size) found.push({ mend: { kind: 'limit', minutes: more * grid }, minutes: more * grid });
  const other = displaced(board, work);
  if (other) found.push({ mend: { kind: 'displace', tasks: [other.task.id] }, minutes: other.task.minutes });
  const least = found.sort((a, b) => a.minutes - b.minutes)[0];
  return least?.mend ?? { kind: 'longer', minutes: work.task.minutes };
}

const raised = (room: Room, by: number): Room => ({ ...room, left: room.left.map((left) => Math.min(0x7fffffff, left + by)) });

/** The longest least part, in cells, with which it fits; 0 where it does not, or is in such parts already. */
function splitOf(work: Work, room: Room, grid: number): number {
  const least = Math.max(1, Math.ceil(SHORTEST_PART / grid));
  for (let parts = 2; Math.floor(work.size / parts) >= least; parts += 1) {
    const chunk = Math.floor(work.size / parts);
    if (chunk < work.chunk && fits({ ...work, chunk }, room)) return chunk;
  }
  return 0;
}

/** The largest number up to `most` for which something holds that holds for all smaller ones; `none` where for none. */
function largest(most: number, holds: (number: number) => boolean, none = 0): number {
  let [low, high] = [none, most];
  while (low < high) {
    const middle = Math.ceil((low + high) / 2);
    if (holds(middle)) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** The cheapest other task whose place would do. */
function displaced(board: Board, work: Work): Work | null {
  const others = board.works
    .flatMap((one, index) =>
      board.placed[index] && one !== work && one.next.every((next) => !board.placed[next]) ? [index] : [],
    )
    .sort((a, b) => (board.works[a]?.out ?? 0) - (board.works[b]?.out ?? 0))
    .slice(0, TRIED.others);
  const before = new Set(work.before);
  for (const index of others) {
    const placed = board.placed[index] as Placed;
    if (before.has(index)) continue;
    board.take(index);
    const room = fits(work, board.room);
    board.lay(index, placed);
    if (room) return board.works[index] as Work;
  }
  return null;
}
