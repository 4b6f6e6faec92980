import { isRule, type Fields, type Value } from '@corvun/core';
import type { CalendarTodo, WrittenTodo } from '@corvun/formats';
import type { User } from '../accounts/user.entity';
import type { Task } from './task.entity';
import { todoOf } from './tasks-out';

const MOST = { title: 500, notes: 50_000 };

/** The state of a task that an account has, too. @param parent UID of the task it is a step of */
export const stateOfTask = (task: Task, parent: string | null): Record<string, Value> => ({
  title: task.title,
  description: task.notes || null,
  status: task.status,
  priority: task.priority,
  deadline: task.deadline,
  day: task.plannedDay,
  repeat: task.repeat,
  estimate: task.estimate,
  parent,
});

/** The same of a VTODO. */
export const stateOfTodo = (todo: CalendarTodo): Record<string, Value> => ({
  title: todo.title.slice(0, MOST.title) || 'Task without a title',
  description: todo.description.slice(0, MOST.notes) || null,
  status: todo.status,
  priority: todo.priority,
  deadline: todo.due,
  day: todo.start?.slice(0, 10) ?? null,
  repeat: todo.rrule && isRule(todo.rrule) ? todo.rrule : null,
  estimate: todo.minutes,
  parent: todo.parent,
});

/** What fields of an account change of a task; of whose step it is, its caller knows more. */
export function patchOfTodo(
  fields: Fields,
  task: Pick<Task, 'completed' | 'plannedWeek'>,
  todo: CalendarTodo,
  now: number,
): Partial<Task> {
  const patch: Partial<Task> = {};
  const has = (name: string) => name in fields;
  if (has('title')) patch.title = String(fields['title']);
  if (has('description')) patch.notes = String(fields['description'] ?? '');
  if (has('priority')) patch.priority = fields['priority'] as Task['priority'];
  if (has('deadline')) patch.deadline = fields['deadline'] as string | null;
  if (has('deadline') && !patch.deadline) patch.deadlineFixed = false;
  if (has('day')) patch.plannedDay = fields['day'] as string | null;
  if (patch.plannedDay) patch.plannedWeek = null;
  if (has('repeat')) patch.repeat = fields['repeat'] as string | null;
  if (has('estimate')) patch.estimate = fields['estimate'] as number | null;
  if (has('status')) {
    patch.status = fields['status'] as Task['status'];
    patch.completed = patch.status === 'COMPLETED' ? (todo.completed ?? task.completed ?? now) : null;
  }
  return patch;
}

/** A task as a program of the account has it. */
export const writtenTodo = (task: Task, user: User, uid: string, parent: string | null): WrittenTodo => ({
  ...todoOf(task, user.zone),
  uid,
  parent,
});
