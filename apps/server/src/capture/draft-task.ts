import { MINUTE, addDays, dayOf, firstDayOf, instantOf, type Draft, type Interval } from '@corvun/core';
import type { User } from '../accounts/user.entity';
import type { Row } from '../base/row';
import type { Block } from '../blocks/block.entity';
import { timeFor } from '../blocks/task-time';
import { blankTask } from '../decisions/blanks';
import type { Work } from '../kernel/work';
import type { List } from '../lists/list.entity';
import { withDefault } from '../lists/new-list';
import { keepTags } from '../tags/keep-tags';
import { settingsOf } from '../settings/settings-of';
import type { Task } from '../tasks/task.entity';

/** A new task as a typed line says it; tags that are new are kept. */
export async function draftTask(
  work: Work,
  user: Pick<User, 'zone'>,
  draft: Draft,
  list: List | null,
  notes = '',
): Promise<Omit<Task, keyof Row>> {
  const tags = withDefault(draft.tags, list);
  await keepTags(work, tags);
  const day = draft.repeat ? firstDayOf(draft.repeat, draft.date ?? dayOf(work.now, user.zone)) : draft.date;
  return {
    ...blankTask(),
    title: draft.title,
    notes,
    listId: list?.id ?? null,
    tags,
    priority: draft.priority,
    estimate: draft.minutes,
    plannedDay: day,
    plannedWeek: day ? null : draft.week,
    deadline: draft.deadline ?? draft.endDate,
    deadlineFixed: draft.deadlineFixed,
    repeat: draft.repeat,
    repeatFrom: draft.repeatFrom,
    concentration: list?.concentration ?? 'medium',
    billable: list?.billable ?? false,
    position: work.now,
  };
}

/** The time that a line sets aside for its task; null where it says none. */
export async function draftBlock(
  work: Work,
  user: User,
  draft: Draft,
  { id, plannedDay, concentration }: Pick<Task, 'id' | 'plannedDay' | 'concentration'>,
): Promise<Block | null> {
  if (!draft.time || !plannedDay) return null;
  const { start, end } = stretchOf({ ...draft, date: plannedDay }, user.zone, settingsOf(user).lengths[concentration]);
  return work.insert('block', timeFor(id, start, end));
}

/** From when to when a line says it is; an end before its start is one on the next day. A task takes its minutes, even in a wider window. */
export function stretchOf({ kind, date, time, endTime, minutes }: Draft, zone: string, fallback: number): Interval {
  const start = instantOf(`${date}T${time}`, zone);
  if (!endTime || kind === 'task') return { start, end: start + (minutes ?? fallback) * MINUTE };
  const end = instantOf(`${date}T${endTime}`, zone);
  return { start, end: end > start ? end : instantOf(`${addDays(date ?? '', 1)}T${endTime}`, zone) };
}
