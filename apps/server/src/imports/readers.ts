import { count, isRule } from '@corvun/core';
import {
  CALENDAR_LIMITS,
  CalendarError,
  MAIL_LIMITS,
  NOTE_LIMITS,
  NoteError,
  TableError,
  readCsv,
  readMbox,
  type CalendarEvent,
  type CalendarTodo,
  type TaskColumn,
} from '@corvun/formats';
import { createHash } from 'node:crypto';
import { createReadStream, promises as fs } from 'node:fs';
import type { User } from '../accounts/user.entity';
import { mainCalendar } from '../calendars/main-calendar';
import type { Work } from '../kernel/work';
import { takeEvents } from '../events/take-events';
import type { Intake } from '../incoming/intake.service';
import { ReadingLimit, type ReadingPool } from '../reading/reading-pool.service';
import { List } from '../lists/list.entity';
import { called } from '../lists/new-list';
import { dayIn, minutesIn, priorityIn } from './cells';
import { takePerson } from './take-person';
import { takeTask, type TaskToTake } from './take-task';

export interface Counts {
  taken: number;
  updated: number;
  known: number;
  refused: { at: string; reason: string }[];
}

/** Some of what a file holds: written in one transaction; `bytes` says how far the file was read. */
export interface ImportStep {
  write: (work: Work) => Promise<Counts>;
  bytes: number;
}

export interface FileToRead {
  path: string;
  name: string;
  size: number;
  user: User;
  now: number;
  intake: Intake;
  reading: ReadingPool;
  columns: TaskColumn[] | null;
}

export type FileReader = (file: FileToRead) => AsyncGenerator<ImportStep>;

/** A file that is refused as a whole; the message is a sentence for the user. */
export class FileError extends Error {}

const MAIL_BATCH = 40;
/** Small enough that other requests are answered between two of them. */
const BATCH = 100;
const NO_COUNTS = (): Counts => ({ taken: 0, updated: 0, known: 0, refused: [] });

/** Which reader takes a file, by its ending and its first bytes. */
export const READERS: Record<string, FileReader> = {
  eml: readEml,
  mbox: readMboxFile,
  ics: readIcs,
  vcf: readVcf,
  csv: readTable,
  md: readNote,
};

const ENDINGS: Record<string, string> = { mbx: 'mbox', ical: 'ics', vcard: 'vcf', markdown: 'md', tsv: 'csv', txt: 'md' };

/** The kind of a file; null when it cannot be read. */
export async function kindOf(name: string, path: string): Promise<string | null> {
  const file = await fs.open(path, 'r');
  const { buffer, bytesRead } = await file.read(Buffer.alloc(64), 0, 64, 0).finally(() => file.close());
  const head = buffer.toString('latin1', 0, bytesRead);
  if (head.startsWith('From ')) return 'mbox';
  if (/^\uFEFF?BEGIN:VCALENDAR/i.test(head)) return 'ics';
  if (/^\uFEFF?BEGIN:VCARD/i.test(head)) return 'vcf';
  const ending = /\.([a-z0-9]+)$/i.exec(name)?.[1]?.toLowerCase() ?? 'eml';
  const kind = ENDINGS[ending] ?? ending;
  return kind in READERS ? kind : null;
}

async function* readEml({ path, size, user, intake }: FileToRead): AsyncGenerator<ImportStep> {
  if (size > MAIL_LIMITS.maxBytes)
    throw new FileError(
      `The message is ${Math.ceil(size / 1048576)} MB; the most that is taken is ${MAIL_LIMITS.maxBytes / 1048576} MB.`,
    );
  const write = await intake.writer(user, [await fs.readFile(path)], null);
  yield { write: async (work) => mailCounts(await write(work), ['']), bytes: size };
}

async function* readMboxFile({ path, size, user, intake }: FileToRead): AsyncGenerator<ImportStep> {
  let [number, bytes] = [0, 0];
  let batch: { at: string; bytes: Buffer }[] = [];
  let tooLarge: Counts['refused'] = [];
  let reading: Promise<ImportStep> | null = null;
  const step = async (): Promise<ImportStep> => {
    const [places, mails, refused, upTo] = [batch.map((one) => one.at), batch.map((one) => one.bytes), tooLarge, bytes];
    [batch, tooLarge] = [[], []];
    const write = await intake.writer(user, mails, null);
    return {
      write: async (work) => {
        const counts = mailCounts(await write(work), places);
        counts.refused.push(...refused);
        return counts;
      },
      bytes: Math.min(upTo, size),
    };
  };
  for await (const message of readMbox(createReadStream(path), MAIL_LIMITS.maxBytes)) {
    number += 1;
    bytes += message?.length ?? MAIL_LIMITS.maxBytes;
    if (message) batch.push({ at: `message ${number}`, bytes: message });
    else tooLarge.push({ at: `message ${number}`, reason: `It is larger than ${MAIL_LIMITS.maxBytes / 1048576} MB.` });
    if (batch.length < MAIL_BATCH) continue;
    // While one batch is written, the next one is read.
    const next = step();
    next.catch(() => undefined);
    if (reading) yield await reading;
    reading = next;
  }
  if (number === 0) throw new FileError('There is no message in this file.');
  if (reading) yield await reading;
  if (batch.length || tooLarge.length) yield await step();
}

function mailCounts(results: ({ state: 'taken' | 'known' } | Error)[], places: string[]): Counts {
  const counts = NO_COUNTS();
  results.forEach((result, index) => {
    if (result instanceof Error) counts.refused.push({ at: places[index] ?? '', reason: result.message });
    else counts[result.state] += 1;
  });
  return counts;
}

async function* readIcs({ path, size, user, reading }: FileToRead): AsyncGenerator<ImportStep> {
  if (size > CALENDAR_LIMITS.maxBytes)
    throw new FileError(`The calendar is larger than ${CALENDAR_LIMITS.maxBytes / 1048576} MB.`);
  try {
    for await (const { items, bytes } of reading.stream('calendar', path, user.zone, BATCH)) {
      const events = items.flatMap((item) => (item.type === 'event' ? [item.event] : []));
      const todos = items.flatMap((item) => (item.type === 'todo' ? [item.todo] : []));
      const refused = items.flatMap((item) => (item.type === 'refused' ? [item] : []));
      yield { write: (work) => writeCalendar(work, user, events, todos, refused), bytes };
    }
  } catch (problem) {
    if (problem instanceof CalendarError || problem instanceof ReadingLimit) throw new FileError(problem.message);
    throw problem;
  }
}

const todoKey = ({ uid, title, due }: CalendarTodo) => `todo:${uid || keyOf(title, due ?? '')}`;

async function writeCalendar(
  work: Work,
  user: User,
  events: CalendarEvent[],
  todos: CalendarTodo[],
  refused: Counts['refused'],
): Promise<Counts> {
  const counts = NO_COUNTS();
  counts.refused.push(...refused.map(({ at, reason }) => ({ at, reason })));
  if (events.length) {
    const calendar = await mainCalendar(work);
    const taken = await takeEvents(work, calendar.id, events, user);
    counts.taken += taken.taken;
    counts.updated += taken.updated;
    counts.known += taken.known;
    counts.refused.push(...taken.refused);
  }
  // A step comes after the task it belongs to.
  const byUid = new Map(todos.map((todo) => [todo.uid, todo]));
  const depthOf = (todo: CalendarTodo, most = 10): number => {
    const above = most > 0 && todo.parent ? byUid.get(todo.parent) : undefined;
    return above ? 1 + depthOf(above, most - 1) : 0;
  };
  const ordered = [...todos].sort((a, b) => depthOf(a) - depthOf(b));
  const lists = todos.length ? await work.manager.findBy(List, { ownerId: work.ownerId }) : [];
  for (const todo of ordered) {
    // A list stands among the categories, as it goes out.
    const list = todo.categories.find((name) => called(lists, name)) ?? null;
    const task: TaskToTake = {
      title: todo.title,
      notes: todo.description,
      list,
      tags: todo.categories.filter((name) => name !== list),
      priority: todo.priority,
      estimate: todo.minutes,
      deadline: todo.due,
      day: todo.start?.slice(0, 10) ?? null,
      done: todo.status === 'COMPLETED',
      status: todo.status,
      completed: todo.completed,
      repeat: todo.rrule && isRule(todo.rrule) ? todo.rrule : null,
      reminder: todo.reminder,
      step: todo.parent && `todo:${todo.parent}`,
      todo,
    };
    counts[await takeTask(work, todoKey(todo), task)] += 1;
  }
  return counts;
}

async function* readVcf({ path, user, reading }: FileToRead): AsyncGenerator<ImportStep> {
  for await (const { items, bytes } of reading.stream('cards', path, user.zone, BATCH))
    yield {
      write: async (work) => {
        const counts = NO_COUNTS();
        for (const item of items) {
          if (item.type === 'refused') counts.refused.push({ at: item.at, reason: item.reason });
          else counts[await takePerson(work, item.person)] += 1;
        }
        return counts;
      },
      bytes,
    };
}

async function* readTable({ path, name, size, user, now, columns }: FileToRead): AsyncGenerator<ImportStep> {
  if (!columns) throw new FileError('Say first what the columns of the table hold.');
  let batch: { line: number; row: string[] }[] = [];
  let lines = 0;
  const step = (): ImportStep => {
    const rows = batch;
    batch = [];
    return { write: (work) => writeRows(work, rows, columns, { name, user, now }), bytes: size };
  };
  try {
    for await (const row of readCsv(path)) {
      lines += 1;
      batch.push(row);
      if (batch.length >= BATCH) yield step();
    }
  } catch (problem) {
    if (!(problem instanceof TableError)) throw problem;
    if (batch.length) yield step();
    throw new FileError(`${problem.message} The ${count(lines, 'row')} before it were taken.`);
  }
  if (batch.length) yield step();
}

async function writeRows(
  work: Work,
  rows: { line: number; row: string[] }[],
  columns: TaskColumn[],
  about: { name: string; user: User; now: number },
): Promise<Counts> {
  const counts = NO_COUNTS();
  for (const { line, row } of rows) {
    const cell = (column: TaskColumn) => (columns.indexOf(column) < 0 ? '' : (row[columns.indexOf(column)] ?? '').trim());
    const title = cell('title');
    const dates = { deadline: dayIn(cell('deadline'), about), day: dayIn(cell('day'), about) };
    const wrong = (['deadline', 'day'] as const).find((column) => cell(column) && !dates[column]);
    if (!title) counts.refused.push({ at: `row ${line}`, reason: 'It has no title.' });
    else if (wrong) counts.refused.push({ at: `row ${line}`, reason: `“${cell(wrong)}” is not a date.` });
    else {
      const task: TaskToTake = {
        title,
        notes: cell('notes'),
        list: cell('list') || null,
        tags: cell('tags')
          .split(/[,;\s]+/)
          .filter(Boolean),
        priority: priorityIn(cell('priority')),
        estimate: minutesIn(cell('estimate')),
        ...dates,
        done: /^(?:x|yes|ja|true|1|done|completed|erledigt|fertig)$/i.test(cell('status')),
      };
      const id = cell('id') ? `${about.name}#${cell('id')}` : keyOf(title, cell('deadline'), cell('day'), cell('list'));
      counts[await takeTask(work, `row:${id}`, task)] += 1;
    }
  }
  return counts;
}

async function* readNote({ path, name, size, reading }: FileToRead): AsyncGenerator<ImportStep> {
  let tasks;
  try {
    if (size > NOTE_LIMITS.maxBytes) throw new NoteError(`The note is larger than ${NOTE_LIMITS.maxBytes / 1048576} MB.`);
    ({ tasks } = await reading.note(await fs.readFile(path)));
  } catch (problem) {
    if (problem instanceof NoteError || problem instanceof ReadingLimit) throw new FileError(problem.message);
    throw problem;
  }
  if (!tasks.length) throw new FileError('There is no task line in this note.');
  yield {
    write: async (work) => {
      const counts = NO_COUNTS();
      for (const one of tasks) {
        const task: TaskToTake = {
          title: one.title,
          notes: '',
          list: null,
          tags: one.tags,
          priority: one.priority,
          estimate: null,
          deadline: one.due,
          fixed: one.fixed,
          day: one.day,
          done: one.done,
        };
        counts[await takeTask(work, `note:${one.id ?? keyOf(name, one.heading, one.title)}`, task)] += 1;
      }
      return counts;
    },
    bytes: size,
  };
}

const keyOf = (...parts: string[]) => createHash('sha256').update(parts.join('\n')).digest('hex').slice(0, 32);
