import { boundsOf, inSeriesZone, placeOf, readRule, type Zone } from '@corvun/core';
import type { CalendarEvent } from '@corvun/formats';
import type { Row } from '../base/row';
import type { Event } from './event.entity';

export type EventFields = Omit<Event, keyof Row | 'calendarId' | 'incomingId' | 'partstat' | 'buffers' | 'mirror' | 'textId'>;

const LONGEST = 5 * 366 * 86_400_000;
/** Extra and left-out dates of one event. */
const MOST_DATES = 5000;

/** A row's fields, and sentences on what of the event could not be kept as it is. */
export interface KeptFields {
  fields: EventFields;
  said: string[];
}

/**
 * What the row of an event from a file or message says.
 * @param series of a changed date: the series it belongs to, in whose zone its RECURRENCE-ID is kept
 * @throws RangeError a sentence, when its times cannot be known or its rule cannot be kept
 */
export function eventFields(
  event: CalendarEvent,
  reader: Zone,
  series: Pick<Event, 'zone' | 'allDay'> | null = null,
): KeptFields {
  if (event.unplaced) throw new RangeError(event.unplaced);
  const first = placeOf(event, reader);
  if (!Number.isFinite(first.start) || !Number.isFinite(first.end)) throw new RangeError('Its times cannot be read.');
  if (first.end - first.start > LONGEST) throw new RangeError('It is longer than five years.');
  const rrule = ruleOf(event);
  const rdates = [...event.rdates].slice(0, MOST_DATES);
  const following = event.recurrenceId !== null && event.following;
  const named = event.recurrenceId ?? '';
  const fields = {
    uid: uidOf(event),
    sequence: event.sequence,
    recurrenceId: named && series ? inSeriesZone(named, event.zone, series, reader) : named,
    following,
    start: event.start,
    end: event.end < event.start ? event.start : event.end,
    ...boundsOf({ ...event, rrule, rdates, following }, reader),
    duration: event.duration,
    endZone: event.endZone,
    allDay: event.allDay,
    zone: event.zone,
    title: event.title.slice(0, 500) || 'Event without a title',
    description: event.description.slice(0, 50_000),
    location: event.location.slice(0, 500),
    meetingLink: event.conference || linkIn(`${event.location} ${event.description}`),
    organizer: event.organizer?.address ?? '',
    attendees: event.attendees.map(({ name, address, partstat }) => ({ name, address, partstat })),
    status: event.status,
    transparent: event.transparent,
    alarms: event.alarms,
    class: event.class,
    category: event.category,
    rrule,
    exrule: rrule ? event.exrule : null,
    rdates,
    exdates: [...event.exdates].slice(0, MOST_DATES),
    stamp: event.stamp,
    link: event.url === event.conference ? '' : event.url,
  };
  return { fields, said: event.problems };
}

/** The rule of an event that can be kept. @throws RangeError when it repeats faster than a calendar can show, or cannot be read */
function ruleOf({ rrule, exrule }: CalendarEvent): string | null {
  if (!rrule) return null;
  if (/FREQ=(?:SECONDLY|MINUTELY)/i.test(rrule))
    throw new RangeError('It repeats every second or minute, which no calendar can show.');
  for (const rule of `${rrule}\n${exrule ?? ''}`.split('\n').filter(Boolean)) readRule(rule);
  return rrule;
}

/** UID; where there is none, one made from what the event says, so that the same event is known again. */
export const uidOf = (event: Pick<CalendarEvent, 'uid' | 'start' | 'title'>): string =>
  event.uid.slice(0, 500) || `${event.start} ${event.title}`.slice(0, 500);

/** A room for a meeting that a text names; empty where it names none. */
export const linkIn = (text: string) =>
  /https?:\/\/[^\s<>"]*(?:meet|call|conference|video)[^\s<>"]*/i.exec(text)?.[0].slice(0, 500) ?? '';
