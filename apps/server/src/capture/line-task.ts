import { parseLine } from '@corvun/core';
import type { User } from '../accounts/user.entity';
import type { Work } from '../kernel/work';
import { List } from '../lists/list.entity';
import type { Task } from '../tasks/task.entity';
import { draftTask } from './draft-task';

/** Makes the task that a line says, as the capture line would read it. */
export async function lineTask(work: Work, user: User, line: string): Promise<Task> {
  const lists = await work.manager.findBy(List, { ownerId: user.id });
  const draft = parseLine(line, { now: work.now, zone: user.zone, lists: lists.map(({ name }) => name) });
  const list = lists.find(({ name }) => name === draft.list) ?? null;
  const fields = await draftTask(work, user, { ...draft, title: (draft.title || line.trim()).slice(0, 500) }, list);
  return work.insert('task', fields);
}
