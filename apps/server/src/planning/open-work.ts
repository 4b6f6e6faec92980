import { isoInZone, type Interval, type OpenTask, type SetAside, type Settings } from '@corvun/core';
import { In, IsNull, MoreThan, type EntityManager } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { Breath } from '../base/breath';
import { Block } from '../blocks/block.entity';
import { settingsOf } from '../settings/settings-of';
import { Task } from '../tasks/task.entity';

/** Rows that are read at once, in the order in which they are kept. */
const PAGE = 200;

/** Open tasks that can be done now: not waiting for somebody, not handed over, not on the shelf; in the order of their ids. */
export async function doable(manager: EntityManager, user: User): Promise<Task[]> {
  const breath = new Breath();
  const found: Task[] = [];
  for (let last: Task | undefined; ;) {
    const rows = await manager
      .createQueryBuilder(Task, 't')
      .where({ ownerId: user.id, shelved: false, waitingOn: IsNull(), assignedTo: IsNull() })
      .andWhere(`t.status IN ('NEEDS-ACTION', 'IN-PROCESS')`)
      .andWhere(last ? '(t.position, t.id) > (:position, :id)' : '1', { position: last?.position, id: last?.id })
      .orderBy({ 't.position': 'ASC', 't.id': 'ASC' })
      .limit(PAGE)
      .getMany();
    found.push(...rows);
    last = rows.at(-1);
    if (rows.length < PAGE) return found.sort((a, b) => (a.id < b.id ? -1 : 1));
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

const openTask = (task: Task, user: User): OpenTask => ({
  ...{ id: task.id, parentId: task.parentId, position: task.position, minutes: minutesOf(task, user), spent: task.spent },
  ...{ priority: task.priority, concentration: task.concentration, deadline: task.deadline, deadlineFixed: task.deadlineFixed },
  ...{ notBefore: task.notBefore, plannedDay: task.plannedDay, plannedWeek: task.plannedWeek, tags: task.tags },
});

/** Tasks as planning sees them; there may be very many. */
export async function openTasks(tasks: readonly Task[], user: User): Promise<OpenTask[]> {
  const breath = new Breath();
  const open: OpenTask[] = [];
  for (const [at, task] of tasks.entries()) {
    open.push(openTask(task, user));
    if (at % PAGE === 0) await breath.take();
  }
  return open;
}

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
