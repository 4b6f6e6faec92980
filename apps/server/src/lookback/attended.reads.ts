import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { agendaOf, byDay, dayOf, minutesBetween, sayMinutes, type Agenda, type LogEntry } from '@corvun/core';
import { In, Repository } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { AgendaService } from '../agenda/agenda.service';
import type { Block } from '../blocks/block.entity';
import { Calendar } from '../calendars/calendar.entity';
import { withTheirSeries } from '../events/event-rows';
import { Event } from '../events/event.entity';
import { othersAt } from '../events/guests';
import type { OnDay, Scope } from './log-scope';

/** Days of one event that are told. */
const MOST_DAYS = 62;
/** Names that are told of those who were there. */
const MOST_NAMES = 4;

/** What one took part in: events that took time and are over. */
@Injectable()
export class AttendedReads {
  constructor(
    @InjectRepository(Event) private readonly events: Repository<Event>,
    @InjectRepository(Calendar) private readonly calendars: Repository<Calendar>,
    private readonly agenda: AgendaService,
  ) {}

  async within(user: User, { window, found, now }: Scope): Promise<OnDay[]> {
    const ids = found?.get('event');
    if (found && !ids?.length) return [];
    const { events } = ids ? await this.ofFound(user, window, ids) : (await this.agenda.taken(user, window)).agenda;
    return events
      .filter(({ cause, part, shown, start, end }) => {
        if (!cause || !shown || part.partstat === 'DECLINED' || (ids && !ids.includes(part.id))) return false;
        return part.allDay ? start <= now : end <= now && start >= window.start;
      })
      .flatMap(({ start, end, part, occurrence, cause }) => {
        const entry: LogEntry = {
          ...{ kind: 'attended', id: `${part.id} ${occurrence.key}`, at: part.allDay ? null : start, title: part.title },
          text: [
            part.allDay ? 'all day' : `attended, ${sayMinutes(minutesBetween(start, end))}`,
            withWhom(othersAt(part, user).map(({ name }) => name)),
          ]
            .filter(Boolean)
            .join(', '),
          thing: { kind: 'event', id: part.id, occurrence: cause?.occurrence ?? null },
          ...{ parts: [], listId: null, calendarId: part.calendarId },
        };
        // What is for whole days stands on each of them.
        const days = part.allDay
          ? byDay(Math.max(start, window.start), Math.min(end, window.end, now), user.zone).map(({ day }) => day)
          : [dayOf(start, user.zone)];
        return days.slice(0, MOST_DAYS).map((day) => ({ day, entry }));
      });
  }

  private async ofFound(user: User, window: Scope['window'], ids: readonly string[]): Promise<Agenda<Event, Block>> {
    const rows = await this.events.findBy({ ownerId: user.id, id: In(ids) });
    const [series, calendars] = await Promise.all([
      withTheirSeries(this.events, user.id, rows),
      this.calendars.findBy({ ownerId: user.id }),
    ]);
    return agendaOf<Event, Block>(series, [], calendars, window, user.zone);
  }
}

function withWhom(names: readonly string[]): string {
  if (!names.length) return '';
  const more = names.length - MOST_NAMES;
  return `with ${names.slice(0, MOST_NAMES).join(', ')}${more > 0 ? ` and ${more} more` : ''}`;
}
