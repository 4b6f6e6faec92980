import { merge, type Priority, type Value } from '@corvun/core';
import type { CalendarTodo } from '@corvun/formats';
import { keepUid } from '../dav/names';
import { blankTask } from '../decisions/blanks';
import type { Work } from '../kernel/work';
import { List } from '../lists/list.entity';
import { keepTodo } from '../own-text/keep-todo';
import { Counterpart } from '../sources/source.entity';
import { patchOf, stateOf } from '../sources/two-way.service';
import { keepTags } from '../tags/keep-tags';
import { Task } from '../tasks/task.entity';
import { called, newList } from '../lists/new-list';

/** A task as a file gives it. */
export interface TaskToTake {
  title: string;
  notes: string;
  list: string | null;
  tags: string[];
  priority: Priority;
  estimate: number | null;
  deadline: string | null;
  fixed?: boolean;
  day: string | null;
  done: boolean;
  /** Said where it is more than open or done. */
  status?: Task['status'];
  completed?: number | null;
  repeat?: string | null;
  /** Wall-clock time in the owner's zone. */
  reminder?: string | null;
  /** Key of the task it is a step of. */
  step?: string | null;
  /** What it is read from, where that is a text to keep. */
  todo?: CalendarTodo;
}

/**
 * Takes a task from a file. The same one (by `key`) from a later file changes what changed in the file since, and
 * leaves alone what the user changed here.
 */
export async function takeTask(work: Work, key: string, task: TaskToTake): Promise<'taken' | 'updated' | 'known'> {
  const sourceId = `import:${work.ownerId}`;
  const there: Record<string, Value> = {
    title: task.title.slice(0, 500) || 'Task without a title',
    estimate: task.estimate,
    due: task.deadline?.slice(0, 10) ?? null,
    day: task.day,
    done: task.done,
    priority: task.priority,
  };
  const known = await work.manager.findOneBy(Counterpart, { sourceId, externalId: key });
  if (known) {
    const row = known.taskId ? await work.manager.findOneBy(Task, { id: known.taskId, ownerId: work.ownerId }) : null;
    const merged = merge(known.base, row ? stateOf(row) : there, there);
    await work.update('counterpart', known, { base: { ...known.base, ...there } });
    if (!row || !Object.keys(merged.toHere).length) return 'known';
    const after = await work.update('task', row, patchOf(merged.toHere, row, {}, work.now));
    if (task.todo) await keepTodo(work, after, task.todo, task.list ?? '', true);
    return 'updated';
  }
  const list = task.list ? await listNamed(work, task.list) : null;
  const tags = task.tags.map((tag) => tag.replace(/^#/, '').slice(0, 80)).filter(Boolean);
  await keepTags(work, tags);
  const made = await work.insert('task', {
    ...blankTask(),
    title: String(there['title']),
    notes: task.notes.slice(0, 100_000),
    listId: list?.id ?? null,
    tags,
    priority: task.priority,
    estimate: task.estimate,
    deadline: task.deadline?.slice(0, 16) ?? null,
    deadlineFixed: task.fixed ?? false,
    plannedDay: task.day,
    status: task.status ?? (task.done ? 'COMPLETED' : 'NEEDS-ACTION'),
    completed: task.done ? (task.completed ?? work.now) : null,
    repeat: task.repeat ?? null,
    reminder: task.reminder ?? null,
    parentId: task.step ? await taskOf(work, sourceId, task.step) : null,
    concentration: list?.concentration ?? 'medium',
    position: work.now,
  });
  if (task.todo) {
    await keepTodo(work, made, task.todo, list?.name ?? '', true);
    await keepUid(work.manager, work.ownerId, made.id, task.todo.uid);
  }
  await work.insert('counterpart', {
    sourceId,
    externalId: key,
    parentId: null,
    incomingId: null,
    taskId: made.id,
    base: there,
    sending: {},
    place: {},
    gone: true,
  });
  return 'taken';
}

async function listNamed(work: Work, name: string): Promise<List> {
  const all = await work.manager.findBy(List, { ownerId: work.ownerId });
  return called(all, name) ?? work.insert('list', newList(name, all));
}

/** The task that was taken under a key; null where there is none. */
async function taskOf(work: Work, sourceId: string, externalId: string): Promise<string | null> {
  const known = await work.manager.findOneBy(Counterpart, { sourceId, externalId });
  return known?.taskId ?? null;
}
