import type { WrittenEvent, WrittenTodo } from '@corvun/formats';
import type { EntityManager } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { Event } from '../events/event.entity';
import { written } from '../events/written';
import { List } from '../lists/list.entity';
import { todoOf } from '../tasks/tasks-out';
import { Task } from '../tasks/task.entity';

/** Events as a file is to hold them, changed dates in the zone of their series. @param calendarId of one calendar; all when absent */
export async function eventsOut(manager: EntityManager, user: User, calendarId?: string): Promise<WrittenEvent[]> {
  const rows = await manager.find(Event, {
    where: { ownerId: user.id, ...(calendarId === undefined ? {} : { calendarId }) },
    order: { id: 'ASC' },
  });
  return written(rows);
}

/** Tasks as a file is to hold them, what they are steps of before them. */
export async function todosOut(manager: EntityManager, user: User): Promise<WrittenTodo[]> {
  const lists = new Map((await manager.find(List, { where: { ownerId: user.id } })).map((list) => [list.id, list.name]));
  const tasks = await manager.find(Task, { where: { ownerId: user.id }, order: { created: 'ASC', id: 'ASC' } });
  return tasks.map((task) => todoOf(task, user.zone, lists));
}
