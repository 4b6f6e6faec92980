import { dayOf, endOfDay, instantOf, occurrences, startOfDay, addDays, type Zone } from '@corvun/core';
import type { CalendarEvent } from '@corvun/formats';
import type { Row } from '../base/row';
import type { EventRow } from './event.entity';

export type EventFields = Omit<EventRow, keyof Row | 'calendarId' | 'incomingId' | 'partstat'>;

const DAY = 86_400_000;
const LONGEST = 5 * 366 * DAY;

/**
 * What the row of an event from a file or message says.
 * @throws RangeError a sentence, when its times or its rule cannot be kept
 */
export function eventFields(event: CalendarEvent, reader: Zone): EventFields {
  const zone = event.zone ?? reader;
  const startAt = event.allDay ? startOfDay(event.start, reader) : instantOf(event.start, zone);
  const ends = event.allDay ? endOfDay(addDays(event.end, -1), reader) : instantOf(event.end, zone);
  if (!Number.isFinite(startAt) || !Number.isFinite(ends)) throw new RangeError('Its times cannot be read.');
  if (ends - startAt > LONGEST) throw new RangeError('It is longer than five years.');
  if (event.rrule) {
    if (/FREQ=(?:SECONDLY|MINUTELY)/i.test(event.rrule))
      throw new RangeError('It repeats every second or minute, which no calendar can show.');
    occurrences(event, startAt, startAt + DAY, reader);
  }
  const last = Math.max(ends, ...event.rdates.slice(-1).map((wall) => lastOf(wall, zone) + Math.max(0, ends - startAt)));
  return {
    uid: event.uid.slice(0, 500) || `${event.start} ${event.title}`.slice(0, 500),
    sequence: event.sequence,
    recurrenceId: event.recurrenceId ?? '',
    start: event.start,
    end: event.end < event.start ? event.start : event.end,
    startAt,
    endAt: event.rrule ? null : Math.max(last, startAt),
    allDay: event.allDay,
    zone: event.zone,
    title: event.title.slice(0, 500) || 'Event without a title',
    description: event.description.slice(0, 50_000),
    location: event.location.slice(0, 500),
    meetingLink: meetingLink(`${event.location} ${event.description}`),
    organizer: event.organizer?.address ?? '',
    attendees: event.attendees,
    status: event.status,
    transparent: event.transparent,
    class: event.class,
    category: event.category,
    rrule: event.rrule,
    rdates: [...event.rdates],
    exdates: [...event.exdates],
    stamp: event.stamp,
    link: event.url,
  };
}

const lastOf = (wall: string, zone: Zone) => (wall.length === 10 ? startOfDay(wall, zone) : instantOf(wall, zone));

const meetingLink = (text: string) =>
  /https?:\/\/[^\s<>"]*(?:meet|call|conference|video)[^\s<>"]*/i.exec(text)?.[0].slice(0, 500) ?? '';

/** The day of an event, for sentences. */
export const firstDay = (fields: Pick<EventFields, 'startAt'>, zone: Zone): string => dayOf(fields.startAt, zone);
