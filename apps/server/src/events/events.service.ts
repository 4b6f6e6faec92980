import { Injectable } from '@nestjs/common';
import type { Done, EventChange, SeriesPlace } from '@corvun/contract';
import {
  SeriesProblem,
  boundsOf,
  changeSeries,
  dayOf,
  isDay,
  parseIso,
  repeats,
  sayDay,
  sayTime,
  type NewPlace,
  type SeriesCommand,
  type SeriesEdit,
} from '@corvun/core';
import type { User } from '../accounts/user.entity';
import { Clock } from '../base/clock';
import { Refusal, badField, notFound } from '../base/errors';
import { newId } from '../base/ids';
import type { Row } from '../base/row';
import { Calendar } from '../calendars/calendar.entity';
import { Kernel, byUser } from '../kernel/kernel.service';
import type { Work } from '../kernel/work';
import { Event } from './event.entity';
import { guestsOf, isGuestOf } from './guests';

@Injectable()
export class EventsService {
  constructor(
    private readonly kernel: Kernel,
    private readonly clock: Clock,
  ) {}

  /** Moves, resizes or renames an event, one date of a series, all from one on, or all. */
  async change(user: User, id: string, input: EventChange): Promise<Done> {
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const event = await work.find('event', id);
      await refuseForeign(work, event);
      const fields = fieldsOf(input);
      const to = placeIn(event, input, user.zone);
      if (to || Object.keys(fields).some((field) => field !== 'transparent')) refuseGuest(event, user);
      const command = { do: 'change' as const, ...meant(event, input), fields, ...(to ? { to } : {}) };
      const edit = await this.carryOut(work, user, event, command, input.version);
      const told = guestsOf(event, user).length ? '; its guests were not told' : '';
      work.say({ action: to ? 'move' : 'change', sentence: `${this.whatChanged(user, event, edit, to, command.scope)}${told}` });
    });
    return { decision, sentence };
  }

  /** Takes an event out of the calendar, one date of a series, all from one on, or all (when nothing is said, all). */
  async remove(user: User, id: string, place: SeriesPlace): Promise<Done> {
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const event = await work.find('event', id);
      await refuseForeign(work, event);
      const all = !place.scope && !place.occurrence && !event.recurrenceId;
      await this.carryOut(work, user, event, { do: 'remove', ...meant(event, all ? { scope: 'all' } : place) });
      const others = isGuestOf(event, user)
        ? `; ${event.organizer} was not told`
        : guestsOf(event, user).length
          ? '; its guests were not told'
          : '';
      work.say({ action: 'remove', sentence: `“${event.title}” was taken out of the calendar${others}` });
    });
    return { decision, sentence };
  }

  private async carryOut(
    work: Work,
    user: User,
    event: Event,
    command: SeriesCommand<Event>,
    version?: number,
  ): Promise<SeriesEdit<Event>> {
    const { ownerId, calendarId, uid } = event;
    const parts = await work.manager.findBy(Event, { ownerId, calendarId, uid });
    const edit = editOf(parts, command, user.zone);
    const placed = (part: Event, fields: Partial<Event>) => ({ ...fields, ...boundsOf({ ...part, ...fields }, user.zone) });
    for (const part of edit.remove) await work.remove('event', part);
    for (const { part, fields } of edit.update)
      await work.update('event', part, placed(part, fields), part.id === event.id ? version : undefined);
    for (const { like, fields } of edit.insert) {
      const { id: _id, ownerId: _owner, version: _version, created: _created, changed: _changed, ...rest } = like;
      await work.insert('event', { ...rest, ...placed(like, fields) } satisfies Omit<Event, keyof Row>);
    }
    return edit;
  }

  private whatChanged(user: User, event: Event, edit: SeriesEdit<Event>, to: NewPlace | undefined, scope: string): string {
    const fields = edit.update.find(({ part }) => part.id === event.id)?.fields;
    const title = fields?.title ?? edit.insert[0]?.fields.title ?? event.title;
    if (!to) return `“${title}” was changed`;
    const at = typeof to.start === 'string' ? null : to.start;
    const day = sayDay(at === null ? String(to.start) : dayOf(at, user.zone), dayOf(this.clock.now(), user.zone));
    const more =
      repeats(event) && scope !== 'this' ? (scope === 'all' ? ', and all its dates with it' : ', and all after it') : '';
    return `“${title}” is on ${day}${at === null ? '' : ` at ${sayTime(at, user.zone)}`}${more}`;
  }
}

function editOf(parts: readonly Event[], command: SeriesCommand<Event>, reader: string): SeriesEdit<Event> {
  try {
    return changeSeries(parts, command, reader, `${newId()}@corvun`);
  } catch (problem) {
    if (!(problem instanceof SeriesProblem)) throw problem;
    if (problem.code === 'no-such-date') throw notFound('such occurrence');
    throw problem.code === 'which' ? badField('occurrence', problem.message) : badField('scope', problem.message);
  }
}

/** A row that stands for one date means that date; a series needs to be told which. */
function meant(event: Event, { occurrence, scope = 'this' }: SeriesPlace): Pick<SeriesCommand<Event>, 'scope' | 'occurrence'> {
  const own = event.recurrenceId || (repeats(event) ? null : event.start);
  return { scope, occurrence: occurrence ?? own };
}

function fieldsOf({ title, location, description, showAs }: EventChange) {
  return {
    ...(title === undefined ? {} : { title: title.trim() }),
    ...(location === undefined ? {} : { location }),
    ...(description === undefined ? {} : { description }),
    ...(showAs === undefined ? {} : { transparent: showAs === 'free' }),
  };
}

/** Where it is put; undefined where that is not said. */
function placeIn(event: Event, { start, minutes }: EventChange, zone: string): NewPlace | undefined {
  if (start === undefined) {
    if (minutes !== undefined) throw badField('start', 'Say when it begins, too.');
    return undefined;
  }
  if (event.allDay) {
    const day = start.slice(0, 10);
    if (!isDay(day)) throw badField('start', `${start} is not a day in the calendar.`);
    return { start: day, minutes };
  }
  const at = parseIso(start, zone);
  if (Number.isNaN(at)) throw badField('start', `${start} is not a time.`);
  return { start: at, minutes };
}

async function refuseForeign(work: Work, event: Event): Promise<void> {
  const calendar = await work.manager.findOneBy(Calendar, { id: event.calendarId, ownerId: work.ownerId });
  if (calendar && calendar.origin !== 'own')
    throw new Refusal('not-ours', `“${calendar.name}” comes from outside, so its events can only be changed there.`);
}

/** What others were told of is changed by whoever told them (RFC 5546, 2.1.1). */
function refuseGuest(event: Event, user: User): void {
  if (!isGuestOf(event, user)) return;
  const sentence = `“${event.title}” is an invitation from ${event.organizer}, so only they can change it; propose another time by answering it.`;
  throw new Refusal('not-organizer', sentence);
}
