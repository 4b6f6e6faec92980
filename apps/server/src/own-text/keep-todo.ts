import type { CalendarTodo } from '@corvun/formats';
import type { Work } from '../kernel/work';
import type { Task } from '../tasks/task.entity';
import { keepText } from './keep-texts';
import { saidOfTodo } from './state';

/** Keeps the text of a task beside it; what it is a step of may not be known here. @param list name of the list it is in */
export async function keepTodo(work: Work, task: Task, todo: CalendarTodo, list: string, loose = false): Promise<Task> {
  const said = { ...saidOfTodo(todo, { list }), parent: task.parentId ? todo.parent : null };
  const textId = await keepText(work, { own: todo.own, said, loose });
  return textId === task.textId ? task : work.update('task', task, { textId });
}
