import { placedAfter } from '@corvun/core';
import { In, IsNull } from 'typeorm';
import { badField } from '../base/errors';
import type { Work } from '../kernel/work';
import { stepsOf } from './change-task';
import { Task } from './task.entity';

/** How deep steps go: a step has steps, those have none. */
const DEEPEST = 2;

/** @throws Refusal when a task cannot be a step of another: a circle, or steps too deep. @param task null: a new one */
export async function placedUnder(work: Work, task: Task | null, above: Task): Promise<void> {
  const own = task ? await stepsOf(work, [task.id]) : [];
  if (task && (above.id === task.id || own.some(({ id }) => id === above.id)))
    throw badField('parent', 'A task cannot be a step of itself.');
  const below = own.length === 0 ? 0 : own.some(({ parentId }) => parentId !== task?.id) ? 2 : 1;
  if ((await depthOf(work, above)) + 1 + below > DEEPEST)
    throw badField('parent', 'Steps have steps, and those have none: it would be too deep there.');
}

async function depthOf(work: Work, task: Task): Promise<number> {
  let depth = 0;
  for (let id = task.parentId; id && depth <= DEEPEST; depth += 1)
    id = (await work.manager.findOneBy(Task, { ownerId: work.ownerId, id }))?.parentId ?? null;
  return depth;
}

/**
 * Puts tasks of one list, or steps of one task, in their order right after one of their siblings.
 * @param after null: before all others; empty: after all others
 */
export async function put(work: Work, tasks: readonly Task[], after: string | null): Promise<void> {
  const [first] = tasks;
  if (!first) return;
  const { parentId, listId } = first;
  const among = parentId ? { parentId } : { parentId: IsNull(), listId: listId ?? IsNull() };
  const open = parentId ? {} : { status: In(['NEEDS-ACTION', 'IN-PROCESS']) };
  const siblings = await work.manager.find(Task, {
    where: { ownerId: work.ownerId, ...among, ...open },
    order: { position: 'ASC', id: 'ASC' },
  });
  const rows = new Map([...tasks, ...siblings].map((row) => [row.id, row]));
  if (after && !rows.has(after)) throw badField('after', 'That task is not in the same place.');
  for (const [id, position] of placedAfter(
    siblings,
    tasks.map((task) => task.id),
    after,
  )) {
    const row = rows.get(id);
    if (row && row.position !== position) await work.update('task', row, { position });
  }
}
