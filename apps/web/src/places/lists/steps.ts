import type { TaskInfo } from '@corvun/contract';

/** Tasks by id, to find the one a step belongs to. */
export type ById = ReadonlyMap<string, TaskInfo>;

/** The task that a step belongs to; itself where it is no step, or its task is not there any more. */
export function taskOf(task: TaskInfo, byId: ById): TaskInfo {
  return (task.parentId ? byId.get(task.parentId) : undefined) ?? task;
}

/** Steps right below their task, in their order; a step without its task stays where it is. */
export function withSteps(tasks: readonly TaskInfo[]): TaskInfo[] {
  const shown = new Set(tasks.map((task) => task.id));
  const steps = new Map<string, TaskInfo[]>();
  for (const task of tasks)
    if (task.parentId && shown.has(task.parentId)) steps.set(task.parentId, [...(steps.get(task.parentId) ?? []), task]);
  return tasks
    .filter((task) => !task.parentId || !shown.has(task.parentId))
    .flatMap((task) => [task, ...(steps.get(task.id) ?? []).sort((a, b) => a.position - b.position)]);
}
