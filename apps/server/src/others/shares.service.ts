import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { addDays, busyOf, dayOf, endOfDay, startOfDay, takenBy, timesBetween } from '@corvun/core';
import { writeCalendar, type WrittenEvent } from '@corvun/formats';
import { createHash } from 'node:crypto';
import { Repository } from 'typeorm';
import { AccountsService } from '../accounts/accounts.service';
import { hashSecret } from '../accounts/passwords';
import type { User } from '../accounts/user.entity';
import { AgendaService } from '../agenda/agenda.service';
import { Clock } from '../base/clock';
import { notFound } from '../base/errors';
import { eventsOf } from '../calendars/calendar-out';
import { Calendar } from '../calendars/calendar.entity';
import { blankEvent } from '../decisions/blanks';
import { written } from '../events/written';
import { Share } from './others.entities';

/** Busy time is told from a month ago to a year ahead. */
const BEHIND = 31;
const AHEAD = 366;

/** What a secret address gives out: an iCalendar file with what was chosen, and nothing else. */
@Injectable()
export class SharesService {
  constructor(
    @InjectRepository(Share) private readonly shares: Repository<Share>,
    @InjectRepository(Calendar) private readonly calendars: Repository<Calendar>,
    private readonly accounts: AccountsService,
    private readonly agenda: AgendaService,
    private readonly clock: Clock,
  ) {}

  /** The file and its ETag. @throws Refusal 404 */
  async file(secret: string): Promise<{ text: string; tag: string }> {
    const share = await this.shares.findOneBy({ linkHash: hashSecret(secret) });
    const user = share && (await this.accounts.byId(share.ownerId));
    if (!share || !user) throw notFound('calendar at this address');
    const calendar = share.calendarId && (await this.calendars.findOneBy({ ownerId: user.id, id: share.calendarId }));
    if (share.calendarId && !calendar) throw notFound('calendar at this address');
    const name = calendar ? calendar.name : user.name;
    const events =
      share.shows === 'busy' || !calendar ? await this.busy(share, user) : await this.written(share, user, calendar.id);
    const text = writeCalendar(name, events);
    return { text, tag: `"${createHash('sha256').update(text).digest('hex').slice(0, 32)}"` };
  }

  /** Each stretch that is taken, whatever by: where one thing ends and the next begins is not told. */
  private async busy({ id, calendarId, created }: Share, user: User): Promise<WrittenEvent[]> {
    const today = dayOf(this.clock.now(), user.zone);
    const window = {
      start: startOfDay(addDays(today, -BEHIND), user.zone),
      end: endOfDay(addDays(today, AHEAD), user.zone),
    };
    const { agenda, around } = await this.agenda.taken(user, window, { copies: calendarId !== null });
    const everything = [...agenda.events, ...agenda.blocks, ...around];
    const taken = takenBy(busyOf(everything), (cause) => calendarId === null || cause.calendarId === calendarId);
    return taken.map((stretch) => ({
      ...WITHOUT,
      ...timesBetween(stretch, 'UTC'),
      uid: `${createHash('sha256').update(`${id} ${stretch.start}`).digest('hex').slice(0, 24)}@corvun`,
      title: 'Busy',
      created,
      changed: created,
    }));
  }

  private async written({ shows }: Share, user: User, calendarId: string): Promise<WrittenEvent[]> {
    const events = written(await eventsOf(this.shares.manager, user, calendarId));
    return events.map((event) => {
      // What is private is only that: others see that there is something, and not what.
      const hidden = event.class !== 'PUBLIC';
      const all = shows === 'all' && !hidden;
      return {
        ...event,
        title: hidden ? 'Busy' : event.title,
        description: all ? event.description : '',
        location: all ? event.location : '',
        category: all ? event.category : '',
        meetingLink: all ? event.meetingLink : '',
        class: 'PUBLIC',
        ...{ organizer: '', attendees: [], link: '', alarms: null },
      };
    });
  }
}

const {
  startAt: _from,
  endAt: _until,
  stamp: _stamp,
  ...PLAIN
} = blankEvent({ start: '2026-01-01', end: '2026-01-02', allDay: true, zone: null }, 'UTC');
/** An event of which nothing is told. */
const WITHOUT = { ...PLAIN, seriesZone: 'UTC' as string | null };
