import { isoInZone, type Interval, type OpenTask, type SetAside, type Settings } from '@corvun/core';
import { In, IsNull, MoreThan, type EntityManager } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { Breath } from '../base/breath';
import { Block } from '../blocks/block.entity';
import { settingsOf } from '../settings/settings-of';
import { Task } from '../tasks/task.entity';

/** Rows that are read at once. */
const PAGE = 500;

/** Open tasks that can be done now: not waiting for somebody, not handed over, not on the shelf. */
export async function doable(manager: EntityManager, user: User): Promise<Task[]> {
  const breath = new Breath();
  const found: Task[] = [];
  for (let last = ''; ;) {
    const rows = await manager.find(Task, {
      where: {
        ...{ ownerId: user.id, shelved: false, waitingOn: IsNull(), assignedTo: IsNull() },
        ...{ status: In(['NEEDS-ACTION', 'IN-PROCESS']), id: MoreThan(last) },
      },
      order: { id: 'ASC' },
      take: PAGE,
    });
    found.push(...rows);
    if (rows.length < PAGE) return found;
    last = rows.at(-1)?.id ?? '';
    await breath.take();
  }
}

/** There may be tens of thousands of tasks to one user as it was read for a request. */
const lengths = new WeakMap<User, Settings['lengths']>();

/** Minutes a task takes in all. */
export function minutesOf({ estimate, concentration }: Pick<Task, 'estimate' | 'concentration'>, user: User): number {
  if (estimate !== null) return estimate;
  const known = lengths.get(user) ?? settingsOf(user).lengths;
  lengths.set(user, known);
  return known[concentration];
}

export const openTask = (task: Task, user: User): OpenTask => ({
  ...{ id: task.id, parentId: task.parentId, position: task.position, minutes: minutesOf(task, user), spent: task.spent },
  ...{ priority: task.priority, concentration: task.concentration, deadline: task.deadline, deadlineFixed: task.deadlineFixed },
  ...{ notBefore: task.notBefore, plannedDay: task.plannedDay, plannedWeek: task.plannedWeek, tags: task.tags },
});

/** Time that is set aside and not over, but for what is done. */
export async function comingBlocks(manager: EntityManager, user: User, now: number): Promise<Block[]> {
  const where = { ownerId: user.id, endAt: MoreThan(now) };
  const blocks = await manager.find(Block, { where, order: { startAt: 'ASC', id: 'ASC' } });
  const over = await manager.find(Task, {
    where: {
      ...{ ownerId: user.id, status: In(['COMPLETED', 'CANCELLED']) },
      id: In(blocks.flatMap(({ taskId }) => taskId ?? [])),
    },
    select: { id: true },
  });
  const done = new Set(over.map(({ id }) => id));
  return blocks.filter(({ taskId }) => !done.has(taskId ?? ''));
}

export const setAside = ({ id, kind, taskId, startAt, endAt, pinned }: Block): SetAside => ({
  ...{ id, taskId, pinned, quiet: kind === 'quiet' },
  ...{ start: startAt, end: endAt },
});

export const stretchSaid = ({ start, end }: Interval, zone: string) => ({
  start: isoInZone(start, zone),
  end: isoInZone(end, zone),
});
