import type { SourceSettings } from '@corvun/contract';
import type { Value } from '@corvun/core';
import type { LineChange, NoteTask } from '@corvun/formats';
import type { Task } from '../tasks/task.entity';
import type { NoteFile } from './notes-folder';

const DAY = 86_400_000;

export const isLeftOut = (file: NoteFile, { untouchedDays }: SourceSettings, now: number) =>
  Boolean(untouchedDays && file.mtime < now - untouchedDays * DAY);

/** Open lines that come in: all, or those with the chosen tag and what stands under them. */
export function wantedIn(tasks: NoteTask[], { tag }: SourceSettings): NoteTask[] {
  const wanted = tag?.replace(/^#/, '').toLowerCase();
  const taken = new Set<number>();
  return tasks.filter((task) => {
    const has =
      !wanted || task.tags.some((one) => one.toLowerCase() === wanted) || (task.parent !== null && taken.has(task.parent));
    if (has && !task.done) taken.add(task.line);
    return has && !task.done;
  });
}

export function stateThere(task: NoteTask): Record<string, Value> {
  return {
    title: task.title,
    done: task.done,
    due: task.due,
    fixed: task.fixed,
    day: task.day,
    priority: task.priority,
    repeat: task.repeat,
  };
}

export function lineChange(fields: Record<string, Value>, today: string): LineChange {
  const change: LineChange = {};
  if ('title' in fields) change.title = String(fields['title']).replace(/\s+/g, ' ');
  if ('done' in fields) Object.assign(change, { done: fields['done'] === true, doneOn: fields['done'] ? today : null });
  if ('due' in fields) change.due = fields['due'] as string | null;
  if ('fixed' in fields) change.fixed = fields['fixed'] === true;
  if ('day' in fields) change.day = fields['day'] as string | null;
  if ('priority' in fields) change.priority = fields['priority'] as Task['priority'];
  if ('repeat' in fields) change.repeat = fields['repeat'] as string | null;
  return change;
}
