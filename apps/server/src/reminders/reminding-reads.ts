import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { LONGEST_BUFFER, alarmAt, repeats, seriesOccurrences, type Alarm, type Reminding } from '@corvun/core';
import { Between, In, IsNull, LessThanOrEqual, MoreThan, Repository } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { AgendaService } from '../agenda/agenda.service';
import { Block } from '../blocks/block.entity';
import { Calendar } from '../calendars/calendar.entity';
import { eventRowsIn, withTheirSeries } from '../events/event-rows';
import { Event } from '../events/event.entity';
import { settingsOf } from '../settings/settings-of';
import { Task } from '../tasks/task.entity';
import { isThere } from '../base/is-there';

const DAY = 86_400_000;
const OPEN = ['NEEDS-ACTION', 'IN-PROCESS'] as const;

/** Reads what has to be thought of from the things themselves. */
@Injectable()
export class RemindingReads {
  constructor(
    @InjectRepository(Event) private readonly events: Repository<Event>,
    @InjectRepository(Block) private readonly blocks: Repository<Block>,
    @InjectRepository(Task) private readonly tasks: Repository<Task>,
    @InjectRepository(Calendar) private readonly calendars: Repository<Calendar>,
    private readonly agenda: AgendaService,
  ) {}

  /** Everything that can be due in (after, until]. */
  async within(user: User, after: number, until: number): Promise<Reminding[]> {
    const { remind } = settingsOf(user);
    const [events, blocks, tasks, ways] = await Promise.all([
      this.eventsOf(user, after, until, (remind.before ?? 0) * 60_000),
      this.blocksOf(user, after, until),
      this.tasks.findBy({ ownerId: user.id, reminder: isThere(), status: In(OPEN) }),
      this.waysOf(user, after, until),
    ]);
    return [
      ...events,
      ...ways,
      ...blocks.map(({ id, kind, startAt, changed }) => ({
        ...{ kind: 'block' as const, id, blockKind: kind },
        ...{ start: startAt, changed },
      })),
      ...tasks.map(({ id, reminder, changed }) => ({ kind: 'task' as const, id, reminder: reminder ?? '', changed })),
    ];
  }

  /** Ways to events on which one sets out then. */
  private async waysOf(user: User, after: number, until: number): Promise<Reminding[]> {
    const { around, agenda } = await this.agenda.taken(user, { start: after, end: until + LONGEST_BUFFER * 60_000 });
    const changed = new Map(agenda.events.map(({ part }) => [part.id, part.changed]));
    return around
      .filter(({ buffer }) => buffer.kind === 'travel' && buffer.end > buffer.start && buffer.end <= buffer.of.start)
      .map(({ start, buffer: { of } }) => ({
        ...{ kind: 'way' as const, id: of.id, occurrence: of.occurrence ?? '', start, changed: changed.get(of.id) ?? 0 },
      }));
  }

  /** Blocks that begin then; those of what is done are over. */
  private async blocksOf(user: User, after: number, until: number): Promise<Block[]> {
    const blocks = await this.blocks.findBy({ ownerId: user.id, startAt: Between(after + 1, until) });
    const ids = blocks.flatMap(({ taskId }) => taskId ?? []);
    const open = ids.length ? await this.tasks.findBy({ ownerId: user.id, id: In(ids), status: In(OPEN) }) : [];
    return blocks.filter(({ taskId }) => taskId === null || open.some(({ id }) => id === taskId));
  }

  /** Dates of events whose reminders can lie in a stretch: those soon after it, and those with alarms far ahead. */
  private async eventsOf(user: User, after: number, until: number, lead: number): Promise<Reminding[]> {
    const calendars = (await this.calendars.findBy({ ownerId: user.id })).filter(({ shown }) => shown);
    const own = new Set(calendars.filter(({ origin }) => origin !== 'feed').map(({ id }) => id));
    const known = new Set(calendars.map(({ id }) => id));
    const [near, far] = await Promise.all([
      eventRowsIn(this.events, user.id, { start: after, end: until + lead + 1 }),
      this.withAlarms(user, [...own], after, until),
    ]);
    const series = new Map([...near, ...far].map((parts) => [parts[0]?.id ?? '', parts]));
    return [...series.values()].flatMap((parts) => {
      const calendar = parts[0]?.calendarId ?? '';
      if (!known.has(calendar)) return [];
      const { ahead, behind } = reachOf(own.has(calendar) ? parts : [], lead);
      return seriesOccurrences(parts, after - behind, until + ahead + 1, user.zone).flatMap(
        ({ part, occurrence: { key, start, end } }) => {
          if (part.status === 'CANCELLED' || part.partstat === 'DECLINED' || part.mirror !== null) return [];
          const of = parts.some(repeats) ? key : '';
          return [
            {
              ...{ kind: 'event' as const, id: part.id, occurrence: of, start, end, allDay: part.allDay, zone: part.zone },
              // What somebody else wants to be reminded of stands in their calendar, too.
              alarms: own.has(part.calendarId) ? alarmsOn(part, key) : null,
              changed: part.changed,
            },
          ];
        },
      );
    });
  }

  /** @param own the calendars whose alarms are the user's */
  private async withAlarms(user: User, own: string[], after: number, until: number): Promise<Event[][]> {
    const alarmed = { ownerId: user.id, calendarId: In(own), alarms: isThere(), startAt: LessThanOrEqual(until + 366 * DAY) };
    const rows = await this.events.find({
      where: [
        { ...alarmed, endAt: MoreThan(after - 366 * DAY) },
        { ...alarmed, endAt: IsNull() },
      ],
    });
    return withTheirSeries(this.events, user.id, rows);
  }
}

/** Alarms of one date; an alarm at a fixed moment is that of the first date alone. */
function alarmsOn(part: Event, key: string): readonly Alarm[] | null {
  return part.alarms?.filter(({ trigger }) => !trigger.endsWith('Z') || key === part.start || part.recurrenceId !== '') ?? null;
}

/** How far before and after an occurrence its reminders can lie, in milliseconds. */
function reachOf(parts: readonly Event[], lead: number): { ahead: number; behind: number } {
  let [ahead, behind] = [lead, 0];
  for (const { alarms, startAt } of parts)
    for (const alarm of alarms ?? []) {
      const at = alarmAt(alarm, { start: startAt, end: startAt }, 'UTC') ?? startAt;
      ahead = Math.max(ahead, startAt - at + DAY);
      // One that is counted from the end comes later by as long as the event lasts.
      behind = Math.max(behind, at - startAt + (alarm.related === 'END' ? 31 : 1) * DAY);
    }
  return { ahead: Math.min(ahead, 400 * DAY), behind: Math.min(behind, 400 * DAY) };
}
