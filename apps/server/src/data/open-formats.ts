import { writeCsv } from '@corvun/formats';
import { isoInZone, minutesBetween } from '@corvun/core';
import type { DataSource } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { Block } from '../blocks/block.entity';
import { calendarFile } from '../calendars/calendar-out';
import { Calendar } from '../calendars/calendar.entity';
import { TimeEntry } from '../doing/time-entry.entity';
import { timeCsv } from '../doing/time-out';
import { List } from '../lists/list.entity';
import { changedTexts } from '../own-text/changed-texts';
import { Task } from '../tasks/task.entity';
import { tasksCsv } from '../tasks/tasks-out';
import { safeName } from './safe-name';

export interface OpenFile {
  name: string;
  content: string;
}

/** One `.ics` for each calendar, and one with all tasks. It is made in a thread, which changes texts itself. */
export async function* calendarFiles(source: DataSource, user: User): AsyncGenerator<OpenFile> {
  const calendars = await source.manager.find(Calendar, { where: { ownerId: user.id }, order: { position: 'ASC', id: 'ASC' } });
  for (const { id, name, code } of calendars) {
    const content = await calendarFile(source.manager, user, { name, events: { calendarId: id } }, changedTexts);
    yield { name: `calendars/${safeName(`${code}-${name}`)}-${id.slice(0, 6)}.ics`, content };
  }
  yield { name: 'tasks.ics', content: await calendarFile(source.manager, user, { name: 'Tasks', tasks: 'all' }, changedTexts) };
}

const namesOf = async (source: DataSource, user: User): Promise<Map<string, string>> =>
  new Map((await source.manager.find(List, { where: { ownerId: user.id } })).map((list) => [list.id, list.name]));

/** Tasks, the time set aside for them and the time spent on them as tables. */
export async function* tableFiles(source: DataSource, user: User): AsyncGenerator<OpenFile> {
  const lists = await namesOf(source, user);
  const tasks = await source.manager.find(Task, { where: { ownerId: user.id }, order: { id: 'ASC' } });
  yield { name: 'tasks.csv', content: tasksCsv(tasks, lists, user.zone) };
  const titles = new Map(tasks.map((task) => [task.id, task.title]));
  const blocks = await source.manager.find(Block, { where: { ownerId: user.id }, order: { startAt: 'ASC', id: 'ASC' } });
  yield {
    name: 'time.csv',
    content: writeCsv(
      ['id', 'kind', 'task', 'start', 'end', 'minutes'],
      blocks.map(({ id, kind, taskId, title, startAt, endAt }) => [
        id,
        kind,
        taskId === null ? title : (titles.get(taskId) ?? ''),
        isoInZone(startAt, user.zone),
        isoInZone(endAt, user.zone),
        minutesBetween(startAt, endAt),
      ]),
    ),
  };
  const byId = new Map(tasks.map((task) => [task.id, task]));
  const spent = await source.manager.find(TimeEntry, { where: { ownerId: user.id }, order: { startAt: 'ASC', id: 'ASC' } });
  yield { name: 'time-spent.csv', content: timeCsv(spent, byId, lists, user.zone) };
}
