import { Injectable } from '@nestjs/common';
import type { TimesChange } from '@corvun/contract';
import {
  MINUTE,
  addDays,
  dayOf,
  daysBetween,
  endOfDay,
  isDay,
  parseIso,
  sayDay,
  sayTime,
  seriesOccurrences,
  startOfDay,
  wallOf,
} from '@corvun/core';
import type { User } from '../accounts/user.entity';
import { Clock } from '../base/clock';
import { Refusal, badField, notFound } from '../base/errors';
import { Calendar } from '../calendars/calendar.entity';
import { Kernel, byUser } from '../kernel/kernel.service';
import type { Work } from '../kernel/work';
import { EventRow } from './event.entity';

const DAY = 86_400_000;

type Times = Pick<EventRow, 'start' | 'end' | 'startAt' | 'endAt' | 'zone'>;

@Injectable()
export class EventsService {
  constructor(
    private readonly kernel: Kernel,
    private readonly clock: Clock,
  ) {}

  /** Moves or resizes an event, or one occurrence of a repeating one (which then is a changed occurrence). */
  async move(user: User, id: string, input: TimesChange): Promise<{ decision: string; sentence: string }> {
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const event = await work.find('event', id);
      await this.refuseForeign(work, event);
      const times = event.allDay ? allDayTimes(input, user.zone) : clockTimes(input, user.zone);
      if (!repeats(event))
        await work.update('event', event, { ...times, duration: null, sequence: event.sequence + 1 }, input.version);
      else await this.changeOccurrence(work, user, event, times, input);
      const day = sayDay(dayOf(times.startAt, user.zone), dayOf(this.clock.now(), user.zone));
      work.say({
        action: 'move',
        sentence: `“${event.title}” is on ${day}${event.allDay ? '' : ` at ${sayTime(times.startAt, user.zone)}`}`,
      });
    });
    return { decision, sentence };
  }

  async remove(user: User, id: string): Promise<{ decision: string; sentence: string }> {
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const event = await work.find('event', id);
      await this.refuseForeign(work, event);
      const changed = event.recurrenceId
        ? []
        : await work.manager.findBy(EventRow, { ownerId: user.id, calendarId: event.calendarId, uid: event.uid });
      for (const row of changed.filter((one) => one.id !== event.id)) await work.remove('event', row);
      await work.remove('event', event);
      work.say({ action: 'remove', sentence: `“${event.title}” was taken out of the calendar` });
    });
    return { decision, sentence };
  }

  private async changeOccurrence(
    work: Work,
    user: User,
    series: EventRow,
    times: Times,
    { occurrence }: TimesChange,
  ): Promise<void> {
    if (!occurrence) throw badField('occurrence', 'Say which occurrence of the repeating event is meant.');
    const parts = await work.manager.findBy(EventRow, {
      ownerId: work.ownerId,
      calendarId: series.calendarId,
      uid: series.uid,
    });
    const zone = parts.find((one) => !one.recurrenceId)?.zone ?? user.zone;
    const near = parseIso(occurrence, zone);
    const known = seriesOccurrences(parts, near - 40 * DAY, near + 40 * DAY, user.zone).some(
      (one) => one.occurrence.key === occurrence,
    );
    if (!known) throw notFound('such occurrence');
    const { id: _id, ownerId: _owner, version: _version, created: _created, changed: _changed, ...rest } = series;
    await work.insert('event', {
      ...rest,
      ...times,
      recurrenceId: occurrence,
      sequence: series.sequence + 1,
      following: false,
      duration: null,
      rrule: null,
      exrule: null,
      rdates: [],
      exdates: [],
    });
  }

  private async refuseForeign(work: Work, event: EventRow): Promise<void> {
    const calendar = await work.manager.findOneBy(Calendar, { id: event.calendarId, ownerId: work.ownerId });
    if (calendar && calendar.origin !== 'own') {
      throw new Refusal(403, 'not-ours', `“${calendar.name}” comes from outside, so its events can only be changed there.`);
    }
  }
}

/** Whether its row stands for more than one date. */
export const repeats = (row: EventRow): boolean => row.rrule !== null || row.rdates.length > 0 || row.following;

function clockTimes({ start, minutes }: TimesChange, zone: string): Times {
  const startAt = parseIso(start, zone);
  if (Number.isNaN(startAt)) throw badField('start', `${start} is not a time.`);
  const endAt = startAt + minutes * MINUTE;
  return { start: wallOf(startAt, zone), end: wallOf(endAt, zone), startAt, endAt, zone };
}

function allDayTimes({ start, minutes }: TimesChange, zone: string): Times {
  const day = start.slice(0, 10);
  if (!isDay(day)) throw badField('start', `${start} is not a day in the calendar.`);
  const end = addDays(day, Math.max(1, Math.round(minutes / 1440)));
  return {
    start: day,
    end,
    startAt: startOfDay(day, zone),
    endAt: endOfDay(addDays(day, daysBetween(day, end) - 1), zone),
    zone: null,
  };
}
