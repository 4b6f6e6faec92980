import type { TaskInfo } from '@corvun/contract';
import { nextRound, repeatDayOf } from '@corvun/core';

/** The day on which a task comes after the one that is open, once that is done on its day; null where it does not. */
export function dayAhead(task: TaskInfo, today: string): string | null {
  if (!task.repeat || task.status === 'COMPLETED' || task.status === 'CANCELLED' || task.shelved) return null;
  const own = repeatDayOf(task) ?? today;
  const next = nextRound(task, own > today ? own : today);
  return next && (next.plannedDay ?? (next.plannedWeek ? null : next.repeatOn));
}

let known: { tasks: readonly TaskInfo[]; today: string; days: Map<string, TaskInfo[]> } | null = null;

/** Looked up once for all columns. */
export function daysAhead(tasks: readonly TaskInfo[], today: string): Map<string, TaskInfo[]> {
  if (known?.tasks === tasks && known.today === today) return known.days;
  const days = new Map<string, TaskInfo[]>();
  for (const task of tasks) {
    const day = dayAhead(task, today);
    if (day) days.set(day, [...(days.get(day) ?? []), task]);
  }
  known = { tasks, today, days };
  return days;
}
