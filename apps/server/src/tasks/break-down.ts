import type { BreakDownInput } from '@corvun/contract';
import { MINUTE, count, dayOf, parseIso, sayDay, sayTime } from '@corvun/core';
import { timeFor } from '../blocks/task-time';
import type { User } from '../accounts/user.entity';
import { badField } from '../base/errors';
import { blankTask } from '../decisions/blanks';
import { settingsOf } from '../settings/settings-of';
import type { Work } from '../kernel/work';
import { changeTask, patchOf } from './change-task';
import { placedUnder, put } from './place-tasks';
import type { Task } from './task.entity';

/**
 * Breaks a task into steps; the first gets its time where one is said. They are done in their order.
 * @throws Refusal 422 where its list would have to change with it, steps would be too deep or the time is none
 */
export async function breakDown(work: Work, user: User, id: string, input: BreakDownInput): Promise<void> {
  const { steps, start, before = false, change } = input;
  if (change?.list !== undefined) throw badField('change', 'Steps stay on the list of their task. Change that by itself.');
  const startAt = start === undefined ? null : parseIso(start, user.zone);
  if (startAt !== null && Number.isNaN(startAt)) throw badField('start', `${start} is not a time.`);
  const task = await work.find('task', id);
  await placedUnder(work, null, task);
  const made: Task[] = [];
  for (const [at, { title, minutes }] of steps.entries()) {
    const { listId, concentration, billable } = task;
    const own = { ...blankTask(), listId, concentration, billable, parentId: id };
    made.push(await work.insert('task', { ...own, title: title.trim(), estimate: minutes, position: work.now + at }));
  }
  await put(work, made, before ? null : '');
  if (change) await changeTask(work, task, patchOf(change, undefined), change.steps);
  const [first] = made;
  let placed = '';
  if (first && startAt !== null) {
    const minutes = first.estimate ?? settingsOf(user).lengths[first.concentration];
    const endAt = startAt + minutes * MINUTE;
    await work.insert('block', timeFor(first.id, startAt, endAt));
    const day = dayOf(startAt, user.zone);
    await work.update('task', await work.find('task', first.id), { plannedDay: day });
    placed = `; the first has time on ${sayDay(day, dayOf(work.now, user.zone))} at ${sayTime(startAt, user.zone)}`;
  }
  const [only] = steps;
  const what =
    steps.length === 1 && only
      ? `“${only.title.trim()}” is a step of “${task.title}”`
      : `“${task.title}” has ${count(steps.length, 'more step')}`;
  work.say({ action: 'change', sentence: `${what}${placed}` });
}
