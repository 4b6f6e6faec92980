import { Injectable } from '@nestjs/common';
import type {
  DecisionAnswer,
  Done,
  EventChange,
  EventChanged,
  EventCopies,
  EventInput,
  EventRemoval,
  MadeThing,
} from '@corvun/contract';
import {
  count,
  dayOf,
  daysBetween,
  isRule,
  placeOf,
  repeats,
  sayDay,
  sayTime,
  sayWhen,
  tellEvent,
  timesAt,
  wallOf,
  type NewPlace,
  type SeriesEdit,
} from '@corvun/core';
import type { User } from '../accounts/user.entity';
import { Clock } from '../base/clock';
import { badField, notFound } from '../base/errors';
import { newId } from '../base/ids';
import { moveBlocks } from '../blocks/move-blocks';
import { mainCalendar } from '../calendars/main-calendar';
import { blankEvent } from '../decisions/blanks';
import { Kernel, byUser } from '../kernel/kernel.service';
import type { Work } from '../kernel/work';
import { rememberWay, withTasks } from './beside';
import { carryOut, foundAt, dateOf, intoCalendar, meant, ownCalendar, partsOf, refuseForeign, refuseGuest } from './edit-events';
import { fieldsOf, placeIn } from './event-input';
import type { Event } from './event.entity';
import { guestsOf } from './guests';
import { isGuestOf } from './whose';
import { tellGuests, type Became } from './tell-guests';

/** What only the user sees of a meeting of somebody else. */
const OWN_VIEW = new Set(['transparent', 'category', 'class', 'alarms', 'buffers']);

@Injectable()
export class EventsService {
  constructor(
    private readonly kernel: Kernel,
    private readonly clock: Clock,
  ) {}

  /** Makes an event, in the main calendar where none is said, and invites its guests where that is said. */
  async add(user: User, input: EventInput): Promise<DecisionAnswer> {
    const { decision, sentence, result } = await this.kernel.transact(byUser(user), async (work) => {
      const calendar = input.calendarId === undefined ? await mainCalendar(work) : await ownCalendar(work, input.calendarId);
      const allDay = input.allDay ?? input.start.length === 10;
      const day = input.start.slice(0, 10);
      const blank = { start: day, end: day, allDay, zone: allDay ? null : (input.zone ?? user.zone), title: input.title };
      const to = placeIn(blank, { ...input, allDay }, user.zone);
      if (!to) throw badField('start', 'Say when it begins, too.');
      const from = { ...blank, duration: null, ...(allDay ? {} : { start: `${day}T00:00`, end: `${day}T01:00` }) };
      const event = await work.insert('event', {
        ...blankEvent(timesAt(from, to, user.zone), user.zone, ruleOf(input)),
        calendarId: calendar.id,
        uid: `${newId()}@corvun`,
        ...fieldsOf(user, null, await withTasks(work, user, input)),
        title: input.title.trim(),
      });
      await rememberWay(work, event, input.buffers);
      const told = await this.told(work, user, { before: [], after: [event], gone: [] }, input.tell, event);
      const moved = await moveBlocks(work, user, input.moves ?? []);
      const where = `is on ${this.when(user, event)}, in ${calendar.name}`;
      work.say({ action: 'capture', sentence: `“${event.title}” ${where}${told}${moved}` });
      return [made(event)];
    });
    return { decision, sentence, made: result };
  }

  /** Changes an event, one date of a series, all from one on, or all. */
  async change(user: User, id: string, input: EventChange): Promise<EventChanged> {
    const { decision, sentence, result } = await this.kernel.transact(byUser(user), async (work) => {
      const event = await work.find('event', id);
      await refuseForeign(work, event);
      const fields = fieldsOf(user, event, await withTasks(work, user, input));
      const to = placeIn(event, input, user.zone);
      const rule = input.repeat === undefined ? undefined : ruleOf(input);
      if (to || rule !== undefined || Object.keys(fields).some((field) => !OWN_VIEW.has(field))) refuseGuest(event, user);
      const place = meant(event, input);
      const command = { do: 'change' as const, ...place, fields, rule, ...(to ? { to } : {}) };
      const changes = to !== undefined || rule !== undefined || Object.keys(fields).length > 0;
      const carried = changes ? await carryOut(work, user, event, command, input.version) : null;
      const present = carried?.became.after.find((row) => row.id === event.id) ?? event;
      const moved = input.calendarId === undefined ? null : await intoCalendar(work, present, input.calendarId, place.scope);
      const told = carried ? await this.told(work, user, carried.became, input.tell, event) : '';
      await rememberWay(work, { ...event, ...fields }, input.buffers);
      const gaveWay = await moveBlocks(work, user, input.moves ?? []);
      const said = carried && this.whatChanged(user, event, carried.edit, to, place.scope);
      const where = moved ? `“${event.title}” is in ${moved.name} now` : '';
      work.say({
        action: to ? 'move' : 'change',
        sentence: `${[said, where].filter(Boolean).join('; ') || `“${event.title}” stays as it is`}${told}${gaveWay}`,
      });
      return foundAt(event, carried, place, to, user.zone);
    });
    return { decision, sentence, ...result };
  }

  /** Takes an event out of the calendar, one date of a series, all from one on, or all (when nothing is said, all). */
  async remove(user: User, id: string, { tell, ...place }: EventRemoval): Promise<Done> {
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const event = await work.find('event', id);
      await refuseForeign(work, event);
      const all = !place.scope && !place.occurrence && !event.recurrenceId;
      const { became } = await carryOut(work, user, event, { do: 'remove', ...meant(event, all ? { scope: 'all' } : place) });
      const others = isGuestOf(event, user)
        ? `; ${event.organizer} was not told`
        : await this.told(work, user, became, tell, event);
      work.say({ action: 'remove', sentence: `“${event.title}” was taken out of the calendar${others}` });
    });
    return { decision, sentence };
  }

  /** Puts copies of an event, without its guests, on other days at the same time of day. */
  async copy(user: User, id: string, { days, occurrence, calendarId }: EventCopies): Promise<DecisionAnswer> {
    const { decision, sentence, result } = await this.kernel.transact(byUser(user), async (work) => {
      const event = await work.find('event', id);
      const target = calendarId ?? (await this.whereTo(work, event));
      const calendar = await ownCalendar(work, target);
      const date = dateOf(
        await partsOf(work, event),
        meant(event, { ...(occurrence ? { occurrence } : {}) }).occurrence ?? '',
        user.zone,
      );
      if (!date) throw notFound('such occurrence');
      const { part } = date;
      const copies: MadeThing[] = [];
      for (const day of [...new Set(days)].sort()) {
        const zone = part.zone ?? user.zone;
        const start = part.allDay ? day : `${day}T${wallOf(date.start, zone).slice(11)}`;
        const minutes = date.days ? daysBetween(date.days.first, date.days.after) * 1440 : (date.end - date.start) / 60_000;
        const { title, description, location, meetingLink, category, transparent, class: shown, endZone, alarms, buffers } = part;
        const copy = await work.insert('event', {
          ...blankEvent(timesAt(part, { start, minutes }, user.zone), user.zone),
          calendarId: calendar.id,
          uid: `${newId()}@corvun`,
          ...{ title, description, location, meetingLink, category, transparent, class: shown, endZone },
          buffers: buffers && { ...buffers, tasks: [] },
          alarms: alarms?.filter(({ trigger }) => !trigger.endsWith('Z')) ?? null,
        });
        copies.push(made(copy));
      }
      const today = dayOf(this.clock.now(), user.zone);
      const where = copies.length === 1 ? `on ${sayDay(days[0] ?? '', today)}` : `on ${count(copies.length, 'more day')}`;
      work.say({ action: 'capture', sentence: `“${event.title}” is ${where}, too` });
      return copies;
    });
    return { decision, sentence, made: result };
  }

  /** Where a copy goes: beside the event, or into the main calendar where that comes from outside. */
  private async whereTo(work: Work, event: Event): Promise<string> {
    const own = await work.find('calendar', event.calendarId);
    return own.origin !== 'feed' ? own.id : (await mainCalendar(work)).id;
  }

  /** What is said of its guests: who was told, or that nobody was. */
  private async told(work: Work, user: User, became: Became, note: string | undefined, event: Event): Promise<string> {
    const others = [event, ...became.after].some((row) => guestsOf(row, user).length > 0);
    if (!others && (note === undefined || !became.after.some((row) => row.attendees.length && !isGuestOf(row, user)))) return '';
    if (note === undefined) return became.before.length ? '; its guests were not told' : '; its guests are not told yet';
    const told = await tellGuests(work, user, became, note);
    return told ? `; ${told}` : '';
  }

  private when(user: User, event: Event): string {
    const today = dayOf(this.clock.now(), user.zone);
    const { start, days } = placeOf(event, user.zone);
    return days ? sayDay(days.first, today) : `${sayDay(dayOf(start, user.zone), today)} at ${sayTime(start, user.zone)}`;
  }

  private whatChanged(user: User, event: Event, edit: SeriesEdit<Event>, to: NewPlace | undefined, scope: string): string {
    const update = edit.update.find(({ part }) => part.id === event.id);
    const title = update?.fields.title ?? edit.insert[0]?.fields.title ?? event.title;
    const more =
      repeats(event) && scope !== 'this' ? (scope === 'all' ? ', and all its dates with it' : ', and all after it') : '';
    const today = dayOf(this.clock.now(), user.zone);
    const words = tellEvent(event, { ...event, ...(update?.fields ?? edit.insert[0]?.fields) }, today);
    if (!to) return `“${event.title}”: ${words.join(', ') || 'changed'}${more}`;
    const at = typeof to.start === 'string' ? null : to.start;
    const day = sayDay(at === null ? String(to.start) : dayOf(at, user.zone), today);
    const was = repeats(event) || event.recurrenceId ? '' : `, was ${sayWhen(event, user.zone, today)}`;
    return `“${title}” is on ${day}${at === null ? '' : ` at ${sayTime(at, user.zone)}`}${was}${more}`;
  }
}

const made = ({ id, title }: Event): MadeThing => ({ kind: 'event', id, title });

/** How it is to repeat. A rule per second is none that a calendar can show. */
function ruleOf({ repeat = null }: { repeat?: string | null | undefined }): string | null {
  if (repeat === null) return null;
  if (!isRule(repeat) || /FREQ=(?:SECONDLY|MINUTELY)/i.test(repeat))
    throw badField('repeat', 'A calendar cannot show what repeats every second or minute.');
  return repeat;
}
