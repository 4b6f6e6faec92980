import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { AgendaEntry, DayInfo } from '@corvun/contract';
import {
  MINUTE,
  addDays,
  dayOf,
  daysFrom,
  endOfDay,
  freeGaps,
  isoInZone,
  loadOfDay,
  occurrences,
  overlaps,
  startOfDay,
  subtract,
  workingTimeOf,
  type Interval,
} from '@corvun/core';
import { Between, In, IsNull, LessThan, MoreThan, MoreThanOrEqual, Repository } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { Clock } from '../base/clock';
import { Block } from '../blocks/block.entity';
import { Calendar } from '../calendars/calendar.entity';
import { EventRow } from '../events/event.entity';
import { Task } from '../tasks/task.entity';

const LEAST_GAP = 5;
const UNPLACED_DEFAULT = 30;

/** An entry with its instants, before it is said in the user's zone. */
interface Placed extends Interval {
  entry: AgendaEntry;
  busy: boolean;
}

@Injectable()
export class AgendaService {
  constructor(
    @InjectRepository(EventRow) private readonly events: Repository<EventRow>,
    @InjectRepository(Block) private readonly blocks: Repository<Block>,
    @InjectRepository(Task) private readonly tasks: Repository<Task>,
    @InjectRepository(Calendar) private readonly calendars: Repository<Calendar>,
    private readonly clock: Clock,
  ) {}

  /** Everything on the days from `from` on: events and blocks in order of time, then tasks without a time. */
  async entries(user: User, from: string, days: number): Promise<AgendaEntry[]> {
    const window = { start: startOfDay(from, user.zone), end: endOfDay(addDays(from, days - 1), user.zone) };
    const [events, blocks] = await Promise.all([this.placedEvents(user, window), this.placedBlocks(user, window)]);
    const timed = [...events, ...blocks].sort((a, b) => a.start - b.start || a.end - b.end);
    const withTime = new Set(blocks.map((block) => `${block.entry.taskId} ${block.entry.day}`));
    const untimed = (await this.untimedTasks(user, from, days)).filter((task) => !withTime.has(`${task.id} ${task.day}`));
    return [...timed.map((one) => one.entry), ...untimed];
  }

  /** The days with their load, their working time, and what is still free in it from now on. */
  async days(user: User, from: string, count: number): Promise<DayInfo[]> {
    const window = { start: startOfDay(from, user.zone), end: endOfDay(addDays(from, count - 1), user.zone) };
    const now = this.clock.now();
    const [events, blocks, untimed] = await Promise.all([
      this.placedEvents(user, window),
      this.placedBlocks(user, window),
      this.untimedTasks(user, from, count),
    ]);
    const busyEvents = events.filter((one) => one.busy);
    const busyBlocks = blocks.filter((one) => one.busy);
    const iso = ({ start, end }: Interval) => ({ start: isoInZone(start, user.zone), end: isoInZone(end, user.zone) });
    return daysFrom(from, count).map((day) => {
      const whole = { start: startOfDay(day, user.zone), end: endOfDay(day, user.zone) };
      const working = workingTimeOf(day, user.hours, user.zone);
      const onDay = (one: Interval) => overlaps(one, whole);
      const placed = [...events, ...blocks].filter(onDay).sort((a, b) => a.start - b.start || a.end - b.end);
      const timed = new Set(placed.map((one) => one.entry.taskId));
      const loose = untimed.filter((task) => task.day === day && !timed.has(task.id));
      const ahead = subtract(working, [{ start: 0, end: now }]);
      return {
        day,
        working: working.map(iso),
        load: loadOfDay({
          working,
          meetings: busyEvents.filter(onDay),
          blocks: busyBlocks.filter(onDay),
          unplaced: loose
            .filter((task) => task.status !== 'COMPLETED')
            .reduce((sum, task) => sum + (task.minutes ?? UNPLACED_DEFAULT), 0),
        }),
        gaps: freeGaps(ahead, [...busyEvents, ...busyBlocks], LEAST_GAP).map(iso),
        entries: [...placed.map((one) => one.entry), ...loose],
      };
    });
  }

  private async placedEvents(user: User, window: Interval): Promise<Placed[]> {
    const calendars = new Map((await this.calendars.findBy({ ownerId: user.id })).map((one) => [one.id, one]));
    const rows = await this.events.find({
      where: [
        { ownerId: user.id, startAt: LessThan(window.end), endAt: MoreThan(window.start) },
        { ownerId: user.id, startAt: LessThan(window.end), endAt: IsNull() },
        { ownerId: user.id, startAt: Between(window.start, window.end - 1) },
      ],
    });
    const unique = [...new Map(rows.map((row) => [row.id, row])).values()];
    const changed = await this.changedKeys(user, unique);
    return unique.flatMap((row) => {
      const calendar = calendars.get(row.calendarId);
      if (!calendar?.shown) return [];
      return occurrences(row, window.start, window.end, user.zone)
        .filter((one) => row.recurrenceId !== '' || !changed.has(`${row.uid}\n${one.key}`))
        .map((one): Placed => ({
          start: one.start,
          end: one.end,
          busy: calendar.busy && !row.transparent && row.status !== 'CANCELLED',
          entry: {
            kind: 'event',
            id: row.id,
            title: row.title,
            start: row.allDay ? dayOf(one.start, user.zone) : isoInZone(one.start, user.zone),
            end: row.allDay ? dayOf(one.end, user.zone) : isoInZone(one.end, user.zone),
            allDay: row.allDay,
            day: dayOf(one.start, user.zone),
            calendar: calendar.name,
            calendarId: calendar.id,
            listId: null,
            taskId: null,
            incomingId: row.incomingId,
            status: row.status,
            showAs: row.transparent ? 'free' : row.status === 'TENTATIVE' ? 'tentative' : 'busy',
            location: row.location,
            minutes: Math.round((one.end - one.start) / MINUTE),
            deadline: null,
            deadlineFixed: false,
            occurrence: row.rrule ? one.key : null,
            fixed: calendar.origin !== 'own',
            version: row.version,
          },
        }));
    });
  }

  /** Occurrences that were moved or changed, wherever they are now, so that the series leaves them out. */
  private async changedKeys(user: User, rows: EventRow[]): Promise<Set<string>> {
    const series = rows.filter((row) => row.rrule).map((row) => row.uid);
    if (!series.length) return new Set();
    const all = await this.events.find({
      where: { ownerId: user.id, uid: In(series), rrule: IsNull() },
      select: { id: true, uid: true, recurrenceId: true },
    });
    return new Set(all.filter((row) => row.recurrenceId).map((row) => `${row.uid}\n${row.recurrenceId}`));
  }

  private async placedBlocks(user: User, window: Interval): Promise<Placed[]> {
    const rows = await this.blocks.find({
      where: { ownerId: user.id, startAt: LessThan(window.end), endAt: MoreThan(window.start) },
    });
    const ids = [...new Set(rows.flatMap((row) => row.taskId ?? []))];
    const tasks = new Map(
      ids.length ? (await this.tasks.findBy({ ownerId: user.id, id: In(ids) })).map((task) => [task.id, task]) : [],
    );
    return rows.map((row): Placed => {
      const task = row.taskId ? tasks.get(row.taskId) : undefined;
      return {
        start: row.startAt,
        end: row.endAt,
        busy: row.busy,
        entry: {
          kind: 'block',
          id: row.id,
          title: task?.title ?? row.kind,
          start: isoInZone(row.startAt, user.zone),
          end: isoInZone(row.endAt, user.zone),
          allDay: false,
          day: dayOf(row.startAt, user.zone),
          calendar: null,
          calendarId: null,
          listId: task?.listId ?? null,
          taskId: row.taskId,
          incomingId: task?.incomingId ?? null,
          status: task?.status ?? 'NEEDS-ACTION',
          showAs: row.busy ? 'busy' : 'free',
          location: '',
          minutes: Math.round((row.endAt - row.startAt) / MINUTE),
          deadline: task?.deadline ?? null,
          deadlineFixed: task?.deadlineFixed ?? false,
          occurrence: null,
          fixed: false,
          version: row.version,
        },
      };
    });
  }

  private async untimedTasks(user: User, from: string, days: number): Promise<AgendaEntry[]> {
    const planned = { ownerId: user.id, shelved: false };
    const rows = await this.tasks.find({
      where: [
        { ...planned, plannedDay: Between(from, addDays(from, days - 1)), status: In(['NEEDS-ACTION', 'IN-PROCESS']) },
        { ...planned, plannedDay: Between(from, addDays(from, days - 1)), status: 'COMPLETED', completed: MoreThanOrEqual(0) },
      ],
      order: { plannedDay: 'ASC', position: 'ASC' },
    });
    return rows.map((task) => ({
      kind: 'task',
      id: task.id,
      title: task.title,
      start: task.plannedDay,
      end: null,
      allDay: true,
      day: task.plannedDay ?? '',
      calendar: null,
      calendarId: null,
      listId: task.listId,
      taskId: task.id,
      incomingId: task.incomingId,
      status: task.status,
      showAs: 'free',
      location: '',
      minutes: task.estimate,
      deadline: task.deadline,
      deadlineFixed: task.deadlineFixed,
      occurrence: null,
      fixed: false,
      version: task.version,
    }));
  }
}
