import type {
  BreakDownInput,
  HandOverInput,
  ListChange,
  ListsOrder,
  NoteChange,
  TaskChange,
  TasksChange,
  TasksInput,
  TasksOut,
} from '@corvun/contract';
import { doing } from './actions';
import { patch, post, remove, textOf } from './api';
import { ahead, paintOrder, paintTask } from './tasks';

/** Changes a task; it is painted at once, before the server has answered. */
export function changeTask(id: string, change: TaskChange) {
  paintTask(id, change);
  return ahead([id], () => doing(() => patch('/tasks/:id', change, { id }), ['tasks', 'task', 'days']));
}
/** One change for many tasks, taken back as one. */
export function changeTasks({ ids, change, ...more }: TasksChange) {
  for (const id of ids) paintTask(id, change);
  if (more.after !== undefined) paintOrder(ids, more.after);
  return ahead(ids, () => doing(() => post('/tasks/change', { ids, change, ...more }), ['tasks', 'task', 'days']));
}
export const addList = (name: string) =>
  doing(async () => {
    await post('/lists', { name });
    return { sentence: `The list “${name}” is there` };
  }, ['lists']);
export const changeList = (id: string, change: ListChange) => doing(() => patch('/lists/:id', change, { id }), ['lists']);
export const orderLists = (lists: ListsOrder['lists']) => doing(() => post('/lists/order', { lists }), ['lists']);
/** @param tasks what becomes of its tasks: `keep`, `drop`, or the id of the list they go to */
export const removeList = (id: string, tasks: string) => doing(() => remove('/lists/:id', { id, tasks }), ['lists', 'tasks']);
export const keepView = (name: string, query: string) => doing(() => post('/views', { name, query }), ['views']);
export const changeView = (id: string, change: { name?: string; query?: string }) =>
  doing(() => patch('/views/:id', change, { id }), ['views']);
export const removeView = (id: string) => doing(() => remove('/views/:id', { id }), ['views']);
/** Tasks in an open format, in their order. @throws RequestError */
export const outOfTasks = (ids: string[], format: TasksOut['format']) => textOf('/tasks/out', { ids, format } satisfies TasksOut);
/** @param place where they go: the list or the task they are steps of, and what they come after */
export const addTasks = (lines: string[], place: Omit<TasksInput, 'lines'>) =>
  doing(() => post('/tasks', { lines, ...place }), ['tasks', 'task']);
export function addFiles(to: 'task' | 'event', id: string, files: readonly File[]) {
  const form = new FormData();
  for (const file of files) form.append('files', file, file.name);
  const path = to === 'task' ? '/tasks/:id/files' : '/events/:id/files';
  return doing(() => post(path, form, { id }), [to]);
}
export const renameFile = (id: string, name: string) => doing(() => patch('/files/:id', { name }, { id }), ['task', 'event']);
export const removeFile = (id: string) => doing(() => remove('/files/:id', { id }), ['task', 'event']);
export const reply = (incomingId: string, text: string) =>
  doing(() => post('/incoming/:id/reply', { text }, { id: incomingId }), ['outbox']);
/** Breaks a task into steps; the first may get its time. */
export const breakDown = (id: string, input: BreakDownInput) =>
  doing(() => post('/tasks/:id/steps', input, { id }), ['tasks', 'task', 'days']);
/** Puts a task under way now, for so many minutes. */
export const beginTask = (id: string, minutes: number) =>
  doing(() => post('/tasks/:id/beginning', { minutes }, { id }), ['tasks', 'task', 'days']);
/** Passes over one date of a repeating task. */
export const skipOne = (id: string) => doing(() => post('/tasks/:id/skipping', undefined, { id }), ['tasks', 'task', 'days']);
/** Asks whom a task waits on once more, by mail. */
export const remindThem = (id: string, text: string) =>
  doing(() => post('/tasks/:id/nudge', { text }, { id }), ['tasks', 'task', 'outbox']);
/** Hands a task over to somebody, by mail or without. */
export const handOver = (id: string, input: HandOverInput) =>
  doing(() => post('/tasks/:id/handing-over', input, { id }), ['tasks', 'task', 'days', 'outbox']);
export const addBlock = (taskId: string, start: string, minutes: number) =>
  doing(() => post('/blocks', { taskId, start, minutes }), ['days', 'tasks']);
/** Gives the time of a block back; its task stays, on `day` where one is said. */
export const removeBlock = (id: string, day?: string) =>
  doing(() => remove('/blocks/:id', { id, ...(day ? { day } : {}) }), ['days', 'tasks']);
/** @param events what becomes of its events: `drop`, or the id of the calendar they go to */
export const removeCalendar = (id: string, events: string) =>
  doing(() => remove('/calendars/:id', { id, events }), ['calendars', 'days']);
export const changeCalendar = (id: string, change: { shown?: boolean; busy?: boolean }) =>
  doing(() => patch('/calendars/:id', change, { id }), ['calendars', 'days']);
export const addNote = (title: string) => doing(() => post('/notes', { title }), ['notes']);
export const changeNote = (id: string, change: NoteChange) => doing(() => patch('/notes/:id', change, { id }), ['notes', 'note']);
export const removeNote = (id: string) => doing(() => remove('/notes/:id', { id }), ['notes']);
