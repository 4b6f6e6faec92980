import type { BlockMove } from '@corvun/contract';
import { count, dayOf, parseIso } from '@corvun/core';
import type { User } from '../accounts/user.entity';
import { badField } from '../base/errors';
import type { Work } from '../kernel/work';
import type { Task } from '../tasks/task.entity';

/** A task that was planned for the day of a block that moves goes with it. */
export async function followBlock(work: Work, { zone }: User, task: Task | null, from: number, to: number): Promise<void> {
  const day = dayOf(to, zone);
  if (task && task.plannedDay === dayOf(from, zone) && task.plannedDay !== day)
    await work.update('task', task, { plannedDay: day });
}

/** Lets own time give way, each as long as it was. Gives what is said of it. @throws Refusal 404, 422 */
export async function moveBlocks(work: Work, user: User, moves: readonly BlockMove[]): Promise<string> {
  for (const { block: id, start } of moves) {
    const block = await work.find('block', id);
    const startAt = parseIso(start, user.zone);
    if (Number.isNaN(startAt)) throw badField('moves', `${start} is not a time.`);
    await work.update('block', block, { startAt, endAt: startAt + block.endAt - block.startAt });
    const task = block.taskId ? await work.find('task', block.taskId) : null;
    await followBlock(work, user, task, block.startAt, startAt);
  }
  return moves.length ? `; ${count(moves.length, 'block')} moved` : '';
}
