import { sayDay, stepBetween, tellTask, type Telling } from '@corvun/core';
import type { Task } from './task.entity';

/** What was done to a task, for the line that says so. */
export function sentenceOf(before: Task, after: Task, telling: Telling): string {
  const named = `“${after.title}”`;
  if (before.status !== after.status)
    return after.status === 'COMPLETED'
      ? `${named} is done`
      : after.status === 'CANCELLED'
        ? `${named} was dropped`
        : after.status === 'IN-PROCESS'
          ? `${named} was begun`
          : `${named} is open again`;
  if (before.plannedDay !== after.plannedDay)
    return after.plannedDay
      ? `${named} is on ${sayDay(after.plannedDay, telling.today)}`
      : after.plannedWeek
        ? `${named} is in week ${Number(after.plannedWeek.slice(6))}, any day`
        : `${named} has no day now`;
  if (before.shelved !== after.shelved) return after.shelved ? `${named} is on the shelf` : `${named} is off the shelf`;
  const words = wordsOn(before, after, telling);
  return words.length ? `${named}: ${words.join(', ')}` : `${named} is in another place`;
}

/** What differs between two states of a task, in words. */
export function wordsOn(before: Task, after: Task, telling: Telling): string[] {
  const step = stepBetween('task', after.id, { ...before }, { ...after });
  return step?.before && step.after ? tellTask(step.before, step.after, telling) : [];
}
