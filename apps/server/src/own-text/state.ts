import type { Value } from '@corvun/core';
import type { CalendarTodo } from '@corvun/formats';
import { createHash } from 'node:crypto';
import { groupsOf, type Part, type Reader } from '../events/event-state';
import type { Task } from '../tasks/task.entity';
import { stateOfTask, stateOfTodo } from '../tasks/todo-state';

/** What a row says of what a text can hold, one value for each field of `changeComponent`. */
export type Said = Record<string, Value>;

export const saidOfEvent = (part: Part & { uid: string }, reader: Reader): Said => ({
  ...groupsOf(part, reader),
  uid: part.uid,
  of: part.recurrenceId && `${part.recurrenceId}${part.following ? ' and after' : ''}`,
});

/** Where a task stands among others: what it is called elsewhere, whose step it is, and the name of its list. */
export interface TaskPlace {
  uid: string;
  parent: string | null;
  list: string;
}

export const saidOfTask = (task: Task, { uid, parent, list }: TaskPlace): Said => ({
  ...stateOfTask(task, parent),
  ...{ uid, category: categoriesOf(task.tags, list), alarms: task.reminder },
});

export const saidOfTodo = (todo: CalendarTodo, { list }: Pick<TaskPlace, 'list'>): Said => ({
  ...stateOfTodo(todo),
  ...{ uid: todo.uid, category: categoriesOf(todo.categories, list), alarms: todo.reminder },
});

/** Some programs write the list among the categories; there it says nothing that is not known. */
const categoriesOf = (names: readonly string[], list: string): string =>
  names
    .filter((name) => name.toLowerCase() !== list.toLowerCase())
    .map((name) => name.slice(0, 80))
    .sort()
    .join('\n');

/** Which fields two of them have otherwise. */
export const fieldsBetween = (there: Said, here: Said): string[] =>
  [...new Set([...Object.keys(there), ...Object.keys(here)])].filter((name) => (there[name] || null) !== (here[name] || null));

/** All of it in a few letters. */
export function hashOf(said: Said): string {
  const entries = Object.entries(said)
    .filter(([, value]) => value !== null && value !== '')
    .sort(([a], [b]) => (a < b ? -1 : 1));
  return createHash('sha256').update(JSON.stringify(entries)).digest('base64url').slice(0, 22);
}
