import { parseLine } from '../capture/parseLine';
import type { LineContext, Priority } from '../capture/draft';
import type { Arranged } from './arrange';

/** What tasks are looked at for; everything that is said has to hold. */
export interface TaskFilter {
  /** In lower case; each stands somewhere in the task. */
  words: string[];
  tags: string[];
  people: string[];
  priority: Priority | null;
  list: string | null;
  /** Due on this day or before. */
  due: string | null;
  day: string | null;
  week: string | null;
  /** At most so long, in minutes; what has no length is left out. */
  minutes: number | null;
}

/**
 * Reads what a list is filtered by: words, and the marks of the capture line. `#call`, `@Anna`, `>Permits`, `++`, `by Friday`
 * (due until then), `tomorrow`, `week 34`, `30 min` (at most).
 */
export function readFilter(text: string, context: LineContext): TaskFilter {
  const draft = parseLine(text, context);
  return {
    words: draft.title.toLowerCase().split(/\s+/).filter(Boolean),
    tags: draft.tags,
    people: draft.people.map((name) => name.toLowerCase()),
    priority: draft.priority === 'normal' ? null : draft.priority,
    list: draft.list,
    due: draft.deadline?.slice(0, 10) ?? null,
    day: draft.date,
    week: draft.week,
    minutes: draft.minutes,
  };
}

/** Whether a task is what a filter asks for. @param listName of the list it is on */
export function fits(task: Arranged, filter: TaskFilter, listName: string): boolean {
  const { words, tags, people, priority, list, due, day, week, minutes } = filter;
  const who = [task.waitingOn, task.assignedTo, task.sender].join(' ').toLowerCase();
  const files = task.attachmentList.map(({ name }) => name);
  const text = [task.title, task.notes, listName, ...task.tags, ...files].join(' ').toLowerCase();
  return (
    words.every((word) => text.includes(word) || who.includes(word)) &&
    tags.every((tag) => task.tags.includes(tag)) &&
    people.every((name) => who.includes(name)) &&
    (priority === null || task.priority === priority) &&
    (list === null || listName === list) &&
    (due === null || (task.deadline !== null && task.deadline.slice(0, 10) <= due)) &&
    (day === null || task.plannedDay === day) &&
    (week === null || task.plannedWeek === week) &&
    (minutes === null || (task.estimate !== null && task.estimate <= minutes))
  );
}
