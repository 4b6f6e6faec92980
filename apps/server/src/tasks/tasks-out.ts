import { instantOf, isoInZone, sayMinutes, sayMoment, type Alarm } from '@corvun/core';
import { writeCsv, writeTaskLine, type WrittenTodo } from '@corvun/formats';
import type { TasksOut } from '@corvun/contract';
import type { Task } from './task.entity';

/** Names of lists by id. */
type Names = ReadonlyMap<string, string>;

/** @param lists names of lists by id, where the list of a task is one of its categories */
export function todoOf(task: Task, zone: string, lists: Names = new Map()): WrittenTodo {
  return {
    uid: `${task.id}@corvun`,
    title: task.title,
    description: task.notes,
    status: task.status,
    priority: task.priority,
    due: task.deadline,
    start: task.plannedDay,
    zone,
    completed: task.completed,
    rrule: task.repeat,
    categories: [lists.get(task.listId ?? '') ?? '', ...task.tags].filter(Boolean),
    minutes: task.estimate,
    parent: task.parentId ? `${task.parentId}@corvun` : null,
    alarms: task.reminder ? [alarmOf(task.reminder, zone)] : [],
    changed: task.changed,
    created: task.created,
  };
}

/** A moment as an alarm, in UTC. */
const alarmOf = (wall: string, zone: string): Alarm => ({
  action: 'DISPLAY',
  trigger: `${new Date(instantOf(wall, zone)).toISOString().slice(0, 19).replace(/[-:]/g, '')}Z`,
  related: 'START',
});

const COLUMNS = [
  'id',
  'title',
  'list',
  'tags',
  'priority',
  'estimate',
  'spent',
  'deadline',
  'day',
  'status',
  'completed',
  'notes',
];

/** Tasks as a table (RFC 4180). */
export const tasksCsv = (tasks: readonly Task[], lists: Names, zone: string): string =>
  writeCsv(
    COLUMNS,
    tasks.map((task) => [
      task.id,
      task.title,
      lists.get(task.listId ?? '') ?? '',
      task.tags.join(' '),
      task.priority,
      task.estimate,
      task.spent,
      task.deadline ?? '',
      task.plannedDay ?? '',
      task.status,
      task.completed === null ? '' : isoInZone(task.completed, zone),
      task.notes,
    ]),
  );

/** How deep a step stands below those that go out with it. */
function depthOf(task: Task, byId: ReadonlyMap<string, Task>): number {
  const above = task.parentId ? byId.get(task.parentId) : undefined;
  return above ? 1 + depthOf(above, byId) : 0;
}

/** Lines below the names of their lists, where there are several. */
function byList(
  tasks: readonly Task[],
  lists: Names,
  heading: (name: string) => string,
  line: (task: Task, depth: number) => string,
): string {
  const byId = new Map(tasks.map((task) => [task.id, task]));
  const several = new Set(tasks.map((task) => task.listId)).size > 1;
  const out: string[] = [];
  let last: string | null | undefined;
  for (const task of tasks) {
    if (several && task.listId !== last)
      out.push(...(out.length ? [''] : []), heading(lists.get(task.listId ?? '') ?? 'Without a list'));
    last = task.listId;
    out.push(line(task, depthOf(task, byId)));
  }
  return `${out.join('\n')}\n`;
}

const done = (task: Task) => task.status === 'COMPLETED';

function plainLine(task: Task, depth: number, today: string): string {
  const more = [
    task.deadline && `due ${sayMoment(task.deadline, today)}`,
    task.plannedDay && sayMoment(task.plannedDay, today),
    task.estimate && sayMinutes(task.estimate),
    task.waitingOn && `waiting on ${task.waitingOn}`,
  ].filter(Boolean);
  return `${'    '.repeat(depth)}${done(task) ? '[x]' : '[ ]'} ${task.title}${more.length ? ` (${more.join(', ')})` : ''}`;
}

/** Tasks in an open format, in the order given. */
export function tasksOut(
  format: Exclude<TasksOut['format'], 'ics'>,
  tasks: readonly Task[],
  lists: Names,
  zone: string,
  today: string,
): string {
  if (format === 'csv') return tasksCsv(tasks, lists, zone);
  if (format === 'text')
    return byList(
      tasks,
      lists,
      (name) => `${name}\n${'-'.repeat(name.length)}`,
      (task, depth) => plainLine(task, depth, today),
    );
  return byList(
    tasks,
    lists,
    (name) => `## ${name}\n`,
    (task, depth) =>
      writeTaskLine(
        {
          title: task.title,
          done: done(task),
          tags: task.tags,
          due: task.deadline,
          fixed: task.deadlineFixed,
          day: task.plannedDay,
          doneOn: task.completed === null ? null : isoInZone(task.completed, zone).slice(0, 10),
          priority: task.priority,
          repeat: task.repeat,
        },
        depth,
      ),
  );
}
