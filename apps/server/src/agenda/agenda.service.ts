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
  seriesOccurrences,
  overlaps,
  startOfDay,
  subtract,
  workingTimeOf,
  type Interval,
  type Occurrence,
  type Zone,
} from '@corvun/core';
import { Between, In, IsNull, LessThan, MoreThan, MoreThanOrEqual, Repository } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { Clock } from '../base/clock';
import { Block } from '../blocks/block.entity';
import { Calendar } from '../calendars/calendar.entity';
import { EventRow } from '../events/event.entity';
import { repeats } from '../events/events.service';
import { Task } from '../tasks/task.entity';

const LEAST_GAP = 5;
const ALL_DAY_MARGIN = 26 * 3_600_000;
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
    const all = await this.rowsIn(user, window);
    return all.flatMap((parts) =>
      seriesOccurrences(parts, window.start, window.end, user.zone).flatMap(({ part, occurrence }) => {
        const calendar = calendars.get(part.calendarId);
        return calendar?.shown ? [placedEvent(part, occurrence, calendar, user.zone)] : [];
      }),
    );
  }

  /** Rows whose occurrences can touch a window, with everything of their series, by series. */
  private async rowsIn(user: User, window: Interval): Promise<EventRow[][]> {
    // The days of an all-day event begin elsewhere in another zone than the one it was kept in.
    const { start, end } = { start: window.start - ALL_DAY_MARGIN, end: window.end + ALL_DAY_MARGIN };
    const rows = await this.events.find({
      where: [
        { ownerId: user.id, startAt: LessThan(end), endAt: MoreThan(start) },
        { ownerId: user.id, startAt: LessThan(end), endAt: IsNull() },
        { ownerId: user.id, startAt: Between(start, end - 1) },
      ],
    });
    const repeating = [
      ...new Set(rows.filter((row) => row.rrule || row.recurrenceId || row.rdates.length).map((row) => row.uid)),
    ];
    const others = repeating.length
      ? await this.events
          .createQueryBuilder('e')
          .where('e.ownerId = :owner AND e.uid IN (SELECT value FROM json_each(:uids))', {
            owner: user.id,
            uids: JSON.stringify(repeating),
          })
          .getMany()
      : [];
    const series = new Map<string, Map<string, EventRow>>();
    for (const row of [...rows, ...others]) {
      const key = `${row.calendarId}\n${row.uid}`;
      series.set(key, (series.get(key) ?? new Map<string, EventRow>()).set(row.id, row));
    }
    return [...series.values()].map((parts) => [...parts.values()]);
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

function placedEvent(row: EventRow, { key, start, end, days }: Occurrence, calendar: Calendar, zone: Zone): Placed {
  return {
    start,
    end,
    busy: calendar.busy && !row.transparent && row.status !== 'CANCELLED',
    entry: {
      kind: 'event',
      id: row.id,
      title: row.title,
      start: days?.first ?? isoInZone(start, zone),
      end: days?.after ?? isoInZone(end, zone),
      allDay: row.allDay,
      day: days?.first ?? dayOf(start, zone),
      calendar: calendar.name,
      calendarId: calendar.id,
      listId: null,
      taskId: null,
      incomingId: row.incomingId,
      status: row.status,
      showAs: row.transparent ? 'free' : row.status === 'TENTATIVE' ? 'tentative' : 'busy',
      location: row.location,
      minutes: Math.round((end - start) / MINUTE),
      deadline: null,
      deadlineFixed: false,
      occurrence: repeats(row) ? key : null,
      fixed: calendar.origin !== 'own',
      version: row.version,
    },
  };
}
