import type { AlarmInput, EventFields } from '@corvun/contract';
import { MINUTE, daysBetween, isDay, isReformed, isZone, parseIso, type Alarm, type NewPlace } from '@corvun/core';
import type { User } from '../accounts/user.entity';
import { badField } from '../base/errors';
import { besideOf } from './beside';
import { linkIn } from './event-fields';
import type { Event } from './event.entity';
import { attendeesOf } from './guests';
import { isGuestOf } from './whose';

type Said = Pick<Event, 'allDay' | 'zone' | 'title' | 'start' | 'end'>;

/** Where an event is put; undefined where that is not said. @throws Refusal 422 */
export function placeIn(event: Said, input: EventFields, reader: string): NewPlace | undefined {
  const { start, end, minutes, allDay = event.allDay } = input;
  if (input.zone !== undefined && !isZone(input.zone)) throw badField('zone', `${input.zone} is not a time zone that is known.`);
  const zone = allDay ? undefined : (input.zone ?? (event.allDay ? reader : undefined));
  const form = { allDay: input.allDay, zone };
  if (start === undefined) {
    if (minutes !== undefined || end !== undefined || isReformed(event, { start: event.start, ...form }))
      throw badField('start', 'Say when it begins, too.');
    return undefined;
  }
  if (allDay) {
    const first = dayIn('start', start);
    return {
      start: first,
      minutes: end === undefined ? minutes : lasting(daysBetween(first, dayIn('end', end)) * 1440),
      ...form,
    };
  }
  const own = input.zone ?? reader;
  const at = timeIn('start', start, own);
  const until = end === undefined ? null : timeIn('end', end, input.endZone ?? own);
  return { start: at, minutes: until === null ? minutes : lasting((until - at) / MINUTE), ...form };
}

const YEAR = 366 * 1440;

function lasting(minutes: number): number {
  if (minutes <= 0) throw badField('end', 'It would end before it begins.');
  if (minutes > YEAR) throw badField('end', 'It would last longer than a year.');
  return Math.round(minutes);
}

function dayIn(field: string, text: string): string {
  const day = text.slice(0, 10);
  if (!isDay(day)) throw badField(field, `${text} is not a day in the calendar.`);
  return day;
}

function timeIn(field: string, text: string, zone: string): number {
  const at = parseIso(text, zone);
  if (Number.isNaN(at)) throw badField(field, `${text} is not a time.`);
  return at;
}

/** What is said of an event besides when it is. @throws Refusal 422 for a guest or a zone that cannot be */
export function fieldsOf(user: User, event: Event | null, input: EventFields & { title?: string | undefined }) {
  const { title, location, description, showAs, category, endZone, guests, alarms, buffers } = input;
  if (endZone && !isZone(endZone)) throw badField('endZone', `${endZone} is not a time zone that is known.`);
  const mine = !event || !isGuestOf(event, user);
  return {
    ...(title === undefined ? {} : { title: title.trim() }),
    ...(location === undefined ? {} : { location: location.trim() }),
    ...(description === undefined ? {} : { description }),
    ...(category === undefined ? {} : { category: category.trim() }),
    ...(endZone === undefined ? {} : { endZone }),
    ...linkPart(event, input),
    ...(showAs === undefined ? {} : { transparent: showAs === 'free' }),
    ...(showAs === undefined || !mine
      ? {}
      : { status: showAs === 'tentative' ? ('TENTATIVE' as const) : ('CONFIRMED' as const) }),
    ...(input.private === undefined ? {} : { class: input.private ? ('PRIVATE' as const) : ('PUBLIC' as const) }),
    ...(alarms === undefined ? {} : { alarms: alarms?.map(alarmOf) ?? null }),
    ...(buffers === undefined ? {} : { buffers: besideOf(buffers, event?.buffers ?? null) }),
    ...(guests === undefined ? {} : guestsPart(user, event, guests)),
  };
}

const alarmOf = ({ action = 'DISPLAY', trigger, related = 'START' }: AlarmInput): Alarm => ({ action, trigger, related });

function guestsPart(user: User, event: Event | null, guests: readonly string[]): Pick<Event, 'attendees' | 'organizer'> {
  const attendees = attendeesOf(guests, event?.attendees ?? []);
  return { attendees, organizer: attendees.length ? event?.organizer || user.email : '' };
}

/** The room of a meeting: as it is said, else as its place or its text has it. */
function linkPart(event: Event | null, { location, description, meetingLink }: EventFields): { meetingLink?: string } {
  if (meetingLink !== undefined) return { meetingLink };
  if (location === undefined && description === undefined) return {};
  const found = linkIn(`${location ?? event?.location ?? ''} ${description ?? event?.description ?? ''}`);
  const was = event ? linkIn(`${event.location} ${event.description}`) : '';
  return { meetingLink: found || (event && event.meetingLink !== was ? event.meetingLink : '') };
}
