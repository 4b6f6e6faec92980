import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { AgendaEntry, DayInfo } from '@corvun/contract';
import {
  addDays,
  agendaOf,
  busyOf,
  dayOffNamed,
  daysFrom,
  endOfDay,
  freeGaps,
  intersect,
  isoInZone,
  loadOfDay,
  overlaps,
  startOfDay,
  subtract,
  takenBy,
  workingTimeOf,
  type Agenda,
  type Busy,
  type Interval,
} from '@corvun/core';
import { Between, type EntityManager, In, LessThan, MoreThan, MoreThanOrEqual, Repository } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { Breath } from '../base/breath';
import { Clock } from '../base/clock';
import { Block } from '../blocks/block.entity';
import { Calendar } from '../calendars/calendar.entity';
import { eventRowsIn } from '../events/event-rows';
import { Event } from '../events/event.entity';
import { Mirror } from '../mirrors/mirror.entity';
import { Task } from '../tasks/task.entity';
import { settingsOf } from '../settings/settings-of';
import { blockEntry, eventEntry, taskEntry } from './agenda-entry';
import { REACH, aroundOf, bufferInfo, type Around } from './around';

const LEAST_GAP = 5;
const ALL_DAY_MARGIN = 26 * 3_600_000;

/** An entry with its instants, before it is said in the user's zone. */
interface Placed extends Interval {
  entry: AgendaEntry;
}

/** What lies in a window: what is seen of it, and what takes time, seen or not. */
interface Window {
  seen: Placed[];
  busy: Busy[];
  /** Events of hidden calendars. */
  hidden: (Interval & { calendarId: string })[];
}

/** Everything in a window with what it belongs to. */
export interface Taken {
  agenda: Agenda<Event, Block>;
  /** What belongs to the events and stands beside them. */
  around: Around[];
  calendars: Calendar[];
  /** Those that blocks are for, and those that are done beside events, by id. */
  tasks: Map<string, Task>;
}

@Injectable()
export class AgendaService {
  constructor(
    @InjectRepository(Event) private readonly events: Repository<Event>,
    @InjectRepository(Task) private readonly tasks: Repository<Task>,
    private readonly clock: Clock,
  ) {}

  /** Everything on the days from `from` on: events and blocks in order of time, then tasks without a time. */
  async entries(user: User, from: string, days: number): Promise<AgendaEntry[]> {
    const window = { start: startOfDay(from, user.zone), end: endOfDay(addDays(from, days - 1), user.zone) };
    const { seen } = await this.within(user, window);
    const withTime = new Set(seen.flatMap(({ entry }) => (entry.kind === 'block' ? `${entry.taskId} ${entry.day}` : [])));
    const untimed = (await this.untimedTasks(user, from, days)).filter((task) => !withTime.has(`${task.id} ${task.day}`));
    return [...seen.map((one) => one.entry), ...untimed];
  }

  /** The days with their load, their working time, and what is still free in it from now on. */
  async days(user: User, from: string, count: number): Promise<DayInfo[]> {
    const window = { start: startOfDay(from, user.zone), end: endOfDay(addDays(from, count - 1), user.zone) };
    const now = this.clock.now();
    const [{ seen, busy, hidden }, untimed] = await Promise.all([
      this.within(user, window),
      this.untimedTasks(user, from, count),
    ]);
    const meetings = takenBy(busy, (cause) => cause.kind === 'event');
    const buffers = takenBy(busy, (cause) => cause.kind === 'buffer');
    const blocks = takenBy(busy, (cause) => cause.kind === 'block');
    const unseen = subtract(
      takenBy(busy),
      takenBy(busy, (cause) => cause.shown),
    );
    const { lengths } = settingsOf(user);
    const iso = ({ start, end }: Interval) => ({ start: isoInZone(start, user.zone), end: isoInZone(end, user.zone) });
    return daysFrom(from, count).map((day) => {
      const whole = { start: startOfDay(day, user.zone), end: endOfDay(day, user.zone) };
      const off = dayOffNamed(day, user.settings.daysOff ?? []);
      const working = off === null ? workingTimeOf(day, user.hours, user.zone) : [];
      const placed = seen.filter((one) => overlaps(one, whole));
      const timed = new Set(placed.map((one) => one.entry.taskId));
      const loose = untimed.filter((task) => task.day === day && !timed.has(task.id));
      const ahead = subtract(working, [{ start: 0, end: now }]);
      return {
        day,
        off,
        working: working.map(iso),
        load: loadOfDay({
          working,
          meetings,
          buffers,
          blocks,
          unplaced: loose
            .filter((task) => task.status !== 'COMPLETED')
            .reduce((sum, task) => sum + (task.minutes ?? lengths.medium), 0),
        }),
        gaps: freeGaps(ahead, takenBy(busy), LEAST_GAP).map(iso),
        unseen: intersect(unseen, [whole]).map(iso),
        hidden: counted(hidden.filter((one) => overlaps(one, whole)).map((one) => one.calendarId)),
        entries: [...placed.map((one) => one.entry), ...loose],
      };
    });
  }

  /** Everything that touches a window, and what of it takes time. @param manager of a transaction in which it is asked for; `copies`: also those of what counts by itself */
  async taken(
    user: User,
    window: Interval,
    { manager = this.events.manager, copies = false }: { manager?: EntityManager; copies?: boolean } = {},
  ): Promise<Taken> {
    const breath = new Breath();
    const [calendars, all, blocks, mirrors] = await Promise.all([
      manager.findBy(Calendar, { ownerId: user.id }),
      // The days of an all-day event begin elsewhere in another zone than the one it was kept in.
      eventRowsIn(manager.getRepository(Event), user.id, {
        start: window.start - ALL_DAY_MARGIN,
        end: window.end + ALL_DAY_MARGIN,
      }),
      manager.findBy(Block, { ownerId: user.id, startAt: LessThan(window.end), endAt: MoreThan(window.start) }),
      manager.findBy(Mirror, { ownerId: user.id }),
    ]);
    // What is counted where it stands is not counted, or shown, in its copies once more.
    const twice = new Set(
      mirrors.filter(({ fromId }) => calendars.some(({ id, busy }) => id === fromId && busy)).map(({ id }) => id),
    );
    const series = copies ? all : all.map((parts) => parts.filter(({ mirror }) => mirror === null || !twice.has(mirror)));
    await breath.take();
    const tasks = await tasksOf(manager, user, blocks, series.flat());
    const wider = { start: window.start - REACH, end: window.end + REACH };
    await breath.take();
    const agenda = agendaOf(
      series,
      blocks.map((block) => (isNeeded(block, tasks) ? block : { ...block, busy: false })),
      calendars,
      wider,
      user.zone,
    );
    await breath.take();
    const touches = ({ start, end }: Interval) => start < window.end && (end > window.start || start >= window.start);
    return {
      agenda: { events: agenda.events.filter(touches), blocks: agenda.blocks },
      around: aroundOf(agenda.events, calendars, tasks, user).filter(({ buffer }) => touches(buffer.of) || touches(buffer)),
      calendars,
      tasks,
    };
  }

  private async within(user: User, window: Interval): Promise<Window> {
    const { agenda, around, calendars, tasks } = await this.taken(user, window);
    const breath = new Breath();
    const events = agenda.events.flatMap(({ start, end, part, occurrence, shown }): Placed[] => {
      const calendar = calendars.find((one) => one.id === part.calendarId);
      if (!shown || !calendar) return [];
      const entry = eventEntry(part, occurrence, calendar, user);
      const own = around.filter(({ buffer: { of } }) => of.id === entry.id && of.occurrence === entry.occurrence);
      return [{ start, end, entry: { ...entry, buffers: own.map(({ buffer }) => bufferInfo(buffer, user.zone)) } }];
    });
    await breath.take();
    const own = agenda.blocks.map(({ start, end, block }) => ({
      start,
      end,
      entry: blockEntry(block, tasks.get(block.taskId ?? ''), user.zone),
    }));
    return {
      seen: [...events, ...own].sort((a, b) => a.start - b.start || a.end - b.end),
      busy: busyOf([...agenda.events, ...agenda.blocks, ...around]),
      hidden: agenda.events
        .filter((one) => !one.shown)
        .map(({ start, end, part }) => ({ start, end, calendarId: part.calendarId })),
    };
  }

  private async untimedTasks(user: User, from: string, days: number): Promise<AgendaEntry[]> {
    const planned = { ownerId: user.id, shelved: false };
    const rows = await this.tasks.find({
      where: [
        { ...planned, plannedDay: Between(from, addDays(from, days - 1)), status: In(['NEEDS-ACTION', 'IN-PROCESS']) },
        { ...planned, plannedDay: Between(from, addDays(from, days - 1)), status: 'COMPLETED', completed: MoreThanOrEqual(0) },
      ],
      order: { plannedDay: 'ASC', dayOrder: 'ASC', position: 'ASC' },
    });
    return rows.map(taskEntry);
  }
}

/** The tasks that blocks are for, and those that are done beside events. */
async function tasksOf(
  manager: EntityManager,
  user: User,
  blocks: readonly Block[],
  events: readonly Event[],
): Promise<Map<string, Task>> {
  const carried = events.flatMap(({ buffers }) => buffers?.tasks.map(({ id }) => id) ?? []);
  const ids = [...new Set([...blocks.flatMap((block) => block.taskId ?? []), ...carried])];
  const tasks = ids.length ? await manager.findBy(Task, { ownerId: user.id, id: In(ids) }) : [];
  return new Map(tasks.map((task) => [task.id, task]));
}

/** Whether a block takes time: one that lies after its task was done does not. */
export function isNeeded({ taskId, startAt }: Pick<Block, 'taskId' | 'startAt'>, tasks: ReadonlyMap<string, Task>): boolean {
  const completed = taskId === null ? null : (tasks.get(taskId)?.completed ?? null);
  return completed === null || startAt < completed;
}

function counted(ids: readonly string[]): { calendarId: string; entries: number }[] {
  return [...new Set(ids)].map((calendarId) => ({ calendarId, entries: ids.filter((id) => id === calendarId).length }));
}
