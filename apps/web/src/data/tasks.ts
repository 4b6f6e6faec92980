import type { TaskChange, TaskFull, TaskInfo } from '@corvun/contract';
import { placedAfter } from '@corvun/core';
import { useQuery } from '@tanstack/react-query';
import { RequestError, get, patch } from './api';
import { inOrder } from './inOrder';
import { client } from './queries';

export const useTask = (id: string) =>
  useQuery({ queryKey: ['task', id], queryFn: () => get('/tasks/:id', { id }), enabled: id !== '' });

/** Loads what the sheet of a task shows, before it is opened. */
export const prefetchTask = (id: string): Promise<void> =>
  client.prefetchQuery({ queryKey: ['task', id], queryFn: () => get('/tasks/:id', { id }) });

/** What a change makes of a task, as the server will. */
export function changed<T extends TaskInfo>(
  task: T,
  { list, parent, version: _version, was: _was, after: _after, ...change }: TaskChange,
): T {
  const { steps: _steps, attachments, ...plain } = change;
  const said = Object.fromEntries(Object.entries(plain).filter(([, value]) => value !== undefined)) as Partial<TaskInfo>;
  return {
    ...task,
    ...said,
    ...(list !== undefined && { listId: list }),
    ...(parent !== undefined && { parentId: parent }),
    ...(change.plannedDay && { plannedWeek: null }),
    ...(change.plannedWeek && { plannedDay: null }),
    ...(change.deadline === null && { deadlineFixed: false }),
    ...(change.waitingOn === null && { waitingSince: null, waitingUntil: null }),
    ...(attachments && { attachmentList: task.attachmentList.filter((file) => file.own || attachments.includes(file.id)) }),
  };
}

/** Shows tasks right after one of their siblings before the server has answered. */
export function paintOrder(ids: readonly string[], after: string | null): void {
  client.setQueryData<TaskInfo[]>(['tasks'], (all) => {
    const first = all?.find((task) => task.id === ids[0]);
    if (!all || !first) return all;
    const siblings = all.filter(
      (task) => task.parentId === first.parentId && (first.parentId !== null || task.listId === first.listId),
    );
    const placed = placedAfter(siblings, ids, after);
    return sorted(all.map((task) => ({ ...task, position: placed.get(task.id) ?? task.position })));
  });
}

/** Tasks in the order in which they are kept. */
export const sorted = (tasks: readonly TaskInfo[]): TaskInfo[] =>
  [...tasks].sort((a, b) => a.position - b.position || (a.id < b.id ? -1 : 1));

/** Tasks that were changed here and of which the server has not answered yet: what is told of them meanwhile is older. */
const pending = new Map<string, number>();
export const isPending = (id: string): boolean => pending.has(id);

/** Keeps older answers from tasks until `work` is over. */
export async function ahead<T>(ids: readonly string[], work: () => Promise<T>): Promise<T> {
  for (const id of ids) pending.set(id, (pending.get(id) ?? 0) + 1);
  void client.cancelQueries({ queryKey: ['task'] });
  try {
    return await work();
  } finally {
    for (const id of ids) {
      const left = (pending.get(id) ?? 1) - 1;
      if (left) pending.set(id, left);
      else pending.delete(id);
    }
  }
}

/** Shows a change wherever the task is shown, before the server has answered. */
export function paintTask(id: string, change: TaskChange): void {
  if (change.after !== undefined) paintOrder([id], change.after);
  const paint = (task: TaskInfo) => (task.id === id ? changed(task, change) : task);
  client.setQueryData<TaskInfo[]>(['tasks'], (all) => all?.map(paint));
  for (const [key, full] of client.getQueriesData<TaskFull>({ queryKey: ['task'] }))
    if (full)
      client.setQueryData<TaskFull>(key, { ...(full.id === id ? changed(full, change) : full), steps: full.steps.map(paint) });
}

/** How the fields of a change were, for the server to see whether another window changed the same. */
export function fieldsOf(task: TaskInfo, change: TaskChange): Record<string, unknown> {
  const { list, parent, ...fields } = change;
  return {
    ...Object.fromEntries(Object.keys(fields).map((field) => [field, task[field as keyof TaskInfo] ?? null])),
    ...(list !== undefined && { list: task.listId }),
    ...(parent !== undefined && { parent: task.parentId }),
  };
}

/**
 * Saves a change of a task that was shown as `seen`.
 * @throws RequestError; with the code `changed-meanwhile` where another window changed the same field
 */
export async function saveTask(seen: TaskInfo, change: TaskChange): Promise<string> {
  paintTask(seen.id, change);
  try {
    const body = { ...change, version: seen.version, was: fieldsOf(seen, change) };
    const { task, sentence } = await ahead([seen.id], () => inOrder(() => patch('/tasks/:id', body, { id: seen.id })));
    client.setQueryData<TaskFull>(['task', task.id], (full) => full && { ...full, ...task });
    return sentence;
  } catch (problem) {
    void client.invalidateQueries({ queryKey: ['task', seen.id] });
    void client.invalidateQueries({ queryKey: ['tasks'] });
    if (problem instanceof RequestError && problem.code === 'not-found') client.removeQueries({ queryKey: ['task', seen.id] });
    throw problem;
  }
}
