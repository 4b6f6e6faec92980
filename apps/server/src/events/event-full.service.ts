import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { EventFull } from '@corvun/contract';
import { dayOf, isoInZone, minutesBetween, reachOf, repeats, seriesOccurrences, startOfDay, wallOf } from '@corvun/core';
import { In, Repository } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { notFound } from '../base/errors';
import { whyFixed } from '../agenda/agenda-entry';
import { Calendar } from '../calendars/calendar.entity';
import { Incoming } from '../incoming/incoming.entity';
import { pageOf } from '../notes/meeting-pages';
import { settingsOf } from '../settings/settings-of';
import { Source } from '../sources/source.entity';
import { Task } from '../tasks/task.entity';
import { dateOf } from './edit-events';
import { EventFile, eventFileInfo } from './event-file.entity';
import { eventHistory } from './event-history';
import { Event } from './event.entity';
import { guestsOf } from './guests';
import { isGuestOf, isMine } from './whose';

const NEXT_DATES = 5;
/** How far ahead the next dates are looked for, first near and then far: a rule can name a day every four years. */
const AHEAD = [62, 800, 3650].map((days) => days * 86_400_000);

/** Events with everything that belongs to them. */
@Injectable()
export class EventReads {
  constructor(
    @InjectRepository(Event) private readonly events: Repository<Event>,
    @InjectRepository(Calendar) private readonly calendars: Repository<Calendar>,
    @InjectRepository(Incoming) private readonly incoming: Repository<Incoming>,
    @InjectRepository(Task) private readonly tasks: Repository<Task>,
    @InjectRepository(Source) private readonly sources: Repository<Source>,
    @InjectRepository(EventFile) private readonly files: Repository<EventFile>,
  ) {}

  /** @param occurrence a date of a series by its original start; the first one where none is said. @throws Refusal 404 */
  async full(user: User, id: string, occurrence?: string): Promise<EventFull> {
    const asked = await this.events.findOneBy({ ownerId: user.id, id });
    if (!asked) throw notFound('event with this id');
    const parts = await this.events.findBy({ ownerId: user.id, calendarId: asked.calendarId, uid: asked.uid });
    const series = parts.find((part) => !part.recurrenceId);
    const key = occurrence ?? (asked.recurrenceId || asked.start);
    const date = dateOf(parts, key, user.zone);
    if (!date) throw notFound('such occurrence');
    const { start, end, days, part } = date;
    const isSeries = series !== undefined && repeats(series);
    const [calendar, files, incoming, page] = await Promise.all([
      this.calendars.findOneBy({ ownerId: user.id, id: asked.calendarId }),
      this.files.find({ where: { ownerId: user.id, eventUid: asked.uid }, order: { created: 'ASC', id: 'ASC' } }),
      part.incomingId ? this.incoming.findOneBy({ ownerId: user.id, id: part.incomingId }) : null,
      pageOf(this.events.manager, user.id, { eventUid: asked.uid, eventDate: isSeries ? key : '' }),
    ]);
    const iso = (instant: number) => isoInZone(instant, user.zone);
    return {
      id: part.id,
      seriesId: (series ?? part).id,
      title: part.title,
      calendarId: part.calendarId,
      start: days?.first ?? iso(start),
      end: days?.after ?? iso(end),
      allDay: part.allDay,
      minutes: minutesBetween(start, end),
      zone: part.zone,
      endZone: part.endZone,
      repeat: isSeries ? series.rrule : null,
      occurrence: isSeries ? key : null,
      nextDates: isSeries ? nextDates(parts, start, user.zone) : [],
      reach: {
        following: reachOf(parts, 'following', key, user.zone),
        all: reachOf(parts, 'all', key, user.zone),
      },
      location: part.location,
      meetingLink: part.meetingLink,
      description: part.description,
      category: part.category,
      showAs: part.transparent ? 'free' : part.status === 'TENTATIVE' ? 'tentative' : 'busy',
      alarms: part.alarms,
      buffers: part.buffers,
      carried: await this.carried(user, part),
      private: part.class !== 'PUBLIC',
      status: part.status,
      organizer: part.organizer,
      guests: part.attendees.map(({ name, address, partstat }) => ({ name, address, partstat, you: isMine(address, user) })),
      others: guestsOf(part, user).length > 0,
      fixed: calendar ? whyFixed(part, calendar, user) : null,
      guest: isGuestOf(part, user),
      link: part.link,
      files: files.map(eventFileInfo),
      page: page && { id: page.id, text: page.text, version: page.version },
      origin: incoming && {
        id: incoming.id,
        subject: incoming.subject,
        sender: { name: incoming.senderName, address: incoming.senderAddress },
        received: iso(incoming.received),
        kind: incoming.kind,
      },
      history: await eventHistory(
        this.events.manager,
        user,
        [...parts, ...files].map(({ id }) => id),
        new Map((await this.sources.findBy({ ownerId: user.id })).map(({ id, name }) => [id, name])),
      ),
      version: part.version,
    };
  }

  /** The tasks that are done beside it; those that are gone are left out. */
  private async carried(user: User, { buffers }: Event): Promise<EventFull['carried']> {
    const named = buffers?.tasks ?? [];
    const tasks = named.length ? await this.tasks.findBy({ ownerId: user.id, id: In(named.map(({ id }) => id)) }) : [];
    const { lengths } = settingsOf(user);
    return named.flatMap(({ id, at }) => {
      const task = tasks.find((one) => one.id === id);
      if (!task) return [];
      const { title, estimate, concentration, status, version } = task;
      return [{ ...{ id, at, title, version }, minutes: estimate ?? lengths[concentration], done: status === 'COMPLETED' }];
    });
  }
}

/** The next starts of a series from one of its dates on. */
function nextDates(parts: readonly Event[], from: number, zone: string): string[] {
  const series = parts.find((part) => !part.recurrenceId);
  if (!series) return [];
  const say = ({ start, days }: { start: number; days: { first: string } | null }) => days?.first ?? wallOf(start, zone);
  const since = series.allDay ? startOfDay(dayOf(from, zone), zone) : from;
  for (const [at, ahead] of AHEAD.entries()) {
    const found = seriesOccurrences(parts, since, since + ahead, zone)
      .map(({ occurrence }) => occurrence)
      .filter(({ start }) => start >= since);
    if (found.length >= NEXT_DATES || at === AHEAD.length - 1) return found.slice(0, NEXT_DATES).map(say);
  }
  return [];
}
