import { isRule } from '@corvun/core';
import { type CalendarEvent, type CalendarTodo } from '@corvun/formats';
import type { User } from '../accounts/user.entity';
import type { Calendar } from '../calendars/calendar.entity';
import { blankTask } from '../decisions/blanks';
import { eventFields } from '../events/event-fields';
import { Event } from '../events/event.entity';
import type { Work } from '../kernel/work';
import type { List } from '../lists/list.entity';
import { keepText } from '../own-text/keep-texts';
import { keepTodo } from '../own-text/keep-todo';
import { saidOfEvent } from '../own-text/state';
import { changeTask } from '../tasks/change-task';
import { Task } from '../tasks/task.entity';
import { DavError } from './dav-error';
import { taskWithUid } from './names';
import { c } from './xml';

/** Puts the rows of a UID as a program has written them; dates that are not in it any more are as their series has them. */
export async function putEvents(work: Work, user: User, calendar: Calendar, events: readonly CalendarEvent[]): Promise<string> {
  const uid = events[0]?.uid ?? '';
  const rows = await work.manager.findBy(Event, { ownerId: user.id, calendarId: calendar.id, uid });
  const kept = new Set<string>();
  const dates = new Set<string>();
  let series = rows.find((row) => !row.recurrenceId) ?? null;
  let title = '';
  for (const event of [...events].sort((a, b) => Number(a.recurrenceId !== null) - Number(b.recurrenceId !== null))) {
    const read = fieldsOf(event, user, event.recurrenceId === null ? null : series);
    const { recurrenceId } = read;
    if (dates.has(recurrenceId))
      throw new DavError(403, c('valid-calendar-object-resource'), 'It says the same date of its series twice.');
    dates.add(recurrenceId);
    const row = rows.find((one) => one.recurrenceId === recurrenceId);
    const textId = await keepText(work, { own: event.own, said: saidOfEvent(read, user) });
    const fields = { ...read, textId };
    const more = { sequence: Math.max(fields.sequence, row?.sequence ?? 0) };
    const after = row
      ? await work.update('event', row, { ...fields, ...more })
      : await work.insert('event', {
          ...fields,
          calendarId: calendar.id,
          incomingId: null,
          partstat: null,
          buffers: null,
          mirror: null,
        });
    kept.add(after.id);
    if (!after.recurrenceId) series = after;
    title ||= after.title;
  }
  for (const row of rows) if (!kept.has(row.id)) await work.remove('event', row);
  return title;
}

function fieldsOf(event: CalendarEvent, user: User, series: Event | null) {
  try {
    return eventFields(event, user.zone, series).fields;
  } catch (problem) {
    if (problem instanceof RangeError) throw new DavError(403, c('valid-calendar-object-resource'), problem.message);
    throw problem;
  }
}

/** Puts a task as a program has written it. @returns its id and title */
export async function putTask(
  work: Work,
  user: User,
  list: List,
  todo: CalendarTodo,
  present: Task | null,
): Promise<{ id: string; title: string }> {
  const parentId = todo.parent ? await taskWithUid(work.manager, user.id, todo.parent) : null;
  const parent =
    parentId && parentId !== present?.id ? await work.manager.findOneBy(Task, { ownerId: user.id, id: parentId }) : null;
  const said = {
    title: todo.title.slice(0, 500) || 'Task without a title',
    notes: todo.description.slice(0, 50_000),
    status: todo.status,
    completed: todo.status === 'COMPLETED' ? (todo.completed ?? work.now) : null,
    priority: todo.priority,
    deadline: todo.due,
    plannedDay: todo.start?.slice(0, 10) ?? null,
    plannedWeek: todo.start ? null : (present?.plannedWeek ?? null),
    repeat: todo.rrule && isRule(todo.rrule) ? todo.rrule : null,
    tags: todo.categories.map((tag) => tag.slice(0, 80)),
    estimate: todo.minutes,
    reminder: todo.reminder,
    parentId: parent?.listId === list.id ? parent.id : null,
  };
  if (present) {
    // What it was completed at stays where a program only says that it is done.
    const completed = said.status === 'COMPLETED' && present.status === 'COMPLETED' ? present.completed : said.completed;
    const after = await changeTask(work, present, { ...said, completed }, undefined);
    return keepTodo(work, after, todo, list.name);
  }
  const last = await work.manager.findOne(Task, { where: { ownerId: user.id, listId: list.id }, order: { position: 'DESC' } });
  const made = await work.insert('task', {
    ...blankTask(),
    ...said,
    listId: list.id,
    concentration: list.concentration,
    position: (last?.position ?? 0) + 1,
  });
  return keepTodo(work, made, todo, list.name);
}
