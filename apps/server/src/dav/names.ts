import type { EntityManager } from 'typeorm';
import { In, Like } from 'typeorm';
import { Remote } from '../sources/account/remote.entity';
import { Task } from '../tasks/task.entity';
import { DavName } from './dav.entities';

export const nameOfUid = (uid: string) => `${uid}.ics`;
export const uidOfTask = (id: string) => `${id}@corvun`;

/** What a task is called elsewhere, for many at once. */
export async function uidsOfTasks(manager: EntityManager, ownerId: string, ids: readonly string[]): Promise<Map<string, string>> {
  const uids = new Map(ids.map((id) => [id, uidOfTask(id)]));
  for (let from = 0; from < ids.length; from += AT_ONCE) {
    const some = ids.slice(from, from + AT_ONCE);
    for (const { taskId, uid } of await manager.findBy(Remote, { ownerId, taskId: In(some) })) if (taskId) uids.set(taskId, uid);
    for (const { thing, uid } of await manager.findBy(DavName, { ownerId, thing: In(some.map((id) => `task:${id}`)) }))
      uids.set(thing.slice('task:'.length), uid);
  }
  return uids;
}

const AT_ONCE = 1000;

/** The id of the task with a UID; empty where there is none. */
export async function taskWithUid(manager: EntityManager, ownerId: string, uid: string): Promise<string> {
  const named = await manager.findOneBy(DavName, { ownerId, uid, thing: Like('task:%') });
  const id = named ? named.thing.slice('task:'.length) : uid.endsWith('@corvun') ? uid.slice(0, -uidOfTask('').length) : '';
  return id && (await manager.existsBy(Task, { ownerId, id })) ? id : '';
}

/** Keeps the UID that a task came with, where nothing else has it. */
export async function keepUid(manager: EntityManager, ownerId: string, id: string, uid: string): Promise<void> {
  if (!uid || uid === uidOfTask(id) || (await taskWithUid(manager, ownerId, uid))) return;
  await manager.upsert(DavName, { ownerId, thing: `task:${id}`, name: nameOfUid(uid), uid }, ['ownerId', 'thing']);
}
