import { Injectable } from '@nestjs/common';
import type { TimeStretch } from '@corvun/contract';
import {
  addDays,
  busyOf,
  dayOf,
  daysFrom,
  endOfDay,
  isoInZone,
  openSlots,
  startOfDay,
  takenBy,
  type Interval,
} from '@corvun/core';
import { In, type EntityManager } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { AgendaService } from '../agenda/agenda.service';
import { Event } from '../events/event.entity';
import { workingOn } from '../settings/settings-of';
import { Booking, type MeetPage } from './others.entities';

/** What is free for others, by the rules of a page. */
@Injectable()
export class PublicTimes {
  constructor(private readonly agenda: AgendaService) {}

  /**
   * The times somebody can still take, in order.
   * @param without an event that gives its own time back: it is being moved
   */
  async slots(
    manager: EntityManager,
    user: User,
    page: MeetPage,
    { minutes, now, without = '' }: { minutes: number; now: number; without?: string },
  ): Promise<Interval[]> {
    if (!page.open) return [];
    const today = dayOf(now, user.zone);
    const first = page.from && page.from > today ? page.from : today;
    const end = addDays(today, page.horizon);
    const last = page.to && page.to < end ? page.to : end;
    if (last < first) return [];
    const days = Math.round((startOfDay(last, 'UTC') - startOfDay(first, 'UTC')) / 86_400_000) + 1;
    const hours = workingOn(user, daysFrom(first, days), page.hours ?? user.hours);
    const window = { start: startOfDay(first, user.zone), end: endOfDay(last, user.zone) };
    const { agenda, around } = await this.agenda.taken(user, window, { manager, copies: page.calendars !== null });
    const counts = (calendarId: string | null) => !page.calendars || calendarId === null || page.calendars.includes(calendarId);
    const busy = takenBy(
      busyOf([...agenda.events, ...agenda.blocks, ...around]),
      (cause) => cause.id !== without && counts(cause.calendarId),
    );
    const bookings = page.perDay === null ? [] : await this.coming(manager, page);
    const booked = bookings.filter(({ id }) => id !== without).map(({ startAt }) => startAt);
    const { notice, buffer, perDay } = page;
    return openSlots({ now, zone: user.zone, hours, busy, minutes, notice, buffer, perDay, booked });
  }

  /** The events of what is booked on a page. */
  async coming(manager: EntityManager, { ownerId, id }: Pick<MeetPage, 'ownerId' | 'id'>): Promise<Event[]> {
    const bookings = await manager.findBy(Booking, { ownerId, pageId: id, state: 'booked' });
    return bookings.length
      ? manager.find(Event, {
          where: { ownerId, id: In(bookings.map(({ eventId }) => eventId)) },
          order: { startAt: 'ASC' },
        })
      : [];
  }
}

/** Times as a visitor gets them: in the zone of whoever offers them. */
export const saidSlots = (slots: readonly Interval[], zone: string): TimeStretch[] =>
  slots.map(({ start, end }) => ({ start: isoInZone(start, zone), end: isoInZone(end, zone) }));
