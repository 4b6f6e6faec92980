import { calendarCalled, putTogether, type OwnText } from '@corvun/formats';
import type { EntityManager } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { uidsOfTasks } from '../dav/names';
import { Event } from '../events/event.entity';
import { List } from '../lists/list.entity';
import { eventTexts, taskTexts, type Changing } from '../own-text/leaving';
import { Task } from '../tasks/task.entity';

/** What a file is to hold. */
export interface Wanted {
  name: string;
  /** Events of one calendar, or of all of them. */
  events?: { calendarId?: string };
  /** All tasks, or some. */
  tasks?: readonly Task[] | 'all';
}

/** A calendar file: each thing in it as whoever made it has written it, with what was changed here. */
export async function calendarFile(
  manager: EntityManager,
  user: User,
  { name, events, tasks }: Wanted,
  changing: Changing,
): Promise<string> {
  return putTogether(calendarCalled(name), [
    ...(events ? await eventTexts(manager, user, await eventsOf(manager, user, events.calendarId), changing) : []),
    ...(tasks ? await textsOf(manager, user, tasks === 'all' ? await tasksOf(manager, user) : tasks, changing) : []),
  ]);
}

/** Events as they go out: in the order in which they came. @param calendarId of one calendar; all when absent */
export const eventsOf = (manager: EntityManager, user: User, calendarId?: string): Promise<Event[]> =>
  manager.find(Event, {
    where: { ownerId: user.id, ...(calendarId === undefined ? {} : { calendarId }) },
    order: { id: 'ASC' },
  });

const tasksOf = (manager: EntityManager, user: User): Promise<Task[]> =>
  manager.find(Task, { where: { ownerId: user.id }, order: { created: 'ASC', id: 'ASC' } });

async function textsOf(manager: EntityManager, user: User, tasks: readonly Task[], changing: Changing): Promise<OwnText[]> {
  const lists = new Map((await manager.findBy(List, { ownerId: user.id })).map(({ id, name }) => [id, name]));
  const above = tasks.flatMap(({ parentId }) => parentId ?? []);
  const uids = await uidsOfTasks(manager, user.id, [...new Set([...tasks.map(({ id }) => id), ...above])]);
  const outs = tasks.map((task) => ({
    task,
    uid: uids.get(task.id) ?? '',
    parent: task.parentId && (uids.get(task.parentId) ?? null),
    list: lists.get(task.listId ?? '') ?? '',
  }));
  return taskTexts(manager, user, outs, changing, lists);
}
