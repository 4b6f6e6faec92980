import ICAL from 'ical.js';
import type { Zone } from '@corvun/core';
import type { Participant } from './about';
import { calendarOf } from './component';
import { unknownZones, zoneTexts } from './ownText';
import { ownTexts } from './readObject';
import { textOf } from './text';
import { eventOf, zonesOf, type CalendarEvent } from './readCalendar';

export type Method = 'REQUEST' | 'CANCEL' | 'REPLY' | 'COUNTER' | 'DECLINECOUNTER' | 'ADD' | 'REFRESH' | 'PUBLISH';

/** A scheduling message (RFC 5546): what is asked, and the event or its changed occurrences. */
export interface Itip {
  method: Method;
  events: CalendarEvent[];
}

const METHODS = new Set<string>(['REQUEST', 'CANCEL', 'REPLY', 'COUNTER', 'DECLINECOUNTER', 'ADD', 'REFRESH', 'PUBLISH']);
const MOST_COMPONENTS = 200;

type Jcal = ConstructorParameters<typeof ICAL.Component>[0];

/**
 * Reads a text/calendar part. Null when it is none, or has no METHOD and so asks for nothing.
 * @param said METHOD of the part's MIME header, for those that say it only there (RFC 6047, 2.4)
 */
export function readItip(text: Buffer | string, reader: Zone, said = ''): Itip | null {
  const found = calendarOf(text);
  if (!found) return null;
  const method = (textOf(found.root, 'method') || said).toUpperCase();
  if (!METHODS.has(method)) return null;
  const zones = zonesOf(found.root, reader);
  const events = ownTexts(
    text,
    found.root,
  )('vevent')
    .slice(0, MOST_COMPONENTS)
    .flatMap(([component, { text: own, around }]) => {
      const event = eventOf(component, zones, found.problems);
      // What stands around a message is about the message, but for the zones.
      return event ? [{ ...event, own: { text: own, around: unknownZones(own, zoneTexts(around)) } }] : [];
    })
    .filter((event) => event.uid !== '');
  return events.length ? { method: method as Method, events } : null;
}

export interface Answer {
  /** Who answers: the attendee as the invitation names them. */
  attendee: { name: string; address: string };
  partstat: Exclude<Participant['partstat'], 'NEEDS-ACTION' | 'DELEGATED'>;
  comment?: string;
  /** Another time, for a COUNTER: wall-clock in the event's own zone. */
  propose?: { start: string; end: string };
  now: number;
}

/**
 * The answer to a REQUEST (RFC 5546, 3.2.3 and 3.2.7): REPLY, or COUNTER when another time is proposed. UID, SEQUENCE,
 * RECURRENCE-ID, ORGANIZER and the zones are those of the request; the only ATTENDEE is the one who answers.
 * @throws Error when the request cannot be read
 */
export function answerTo(request: string, recurrenceId: string | null, answer: Answer): string {
  const root = calendarOf(request)?.root;
  const all = root?.getAllSubcomponents('vevent') ?? [];
  const wanted = all.find((one) => (one.getFirstProperty('recurrence-id') !== null) === (recurrenceId !== null)) ?? all[0];
  if (!root || !wanted) throw new Error('The invitation cannot be read again.');
  const calendar = blankCalendar(answer.propose ? 'COUNTER' : 'REPLY');
  for (const zone of root.getAllSubcomponents('vtimezone')) calendar.addSubcomponent(copy(zone));
  const event = copy(wanted);
  for (const name of ['attendee', 'valarm', 'comment', 'request-status']) event.removeAllProperties(name);
  event.removeAllSubcomponents('valarm');
  event.updatePropertyWithValue('dtstamp', ICAL.Time.fromJSDate(new Date(answer.now), true));
  if (answer.comment) event.addPropertyWithValue('comment', answer.comment);
  const attendee = new ICAL.Property('attendee');
  attendee.setValue(`mailto:${answer.attendee.address}`);
  attendee.setParameter('partstat', answer.partstat);
  if (answer.attendee.name) attendee.setParameter('cn', answer.attendee.name);
  event.addProperty(attendee);
  if (answer.propose) {
    setTime(event, 'dtstart', answer.propose.start);
    event.removeAllProperties('duration');
    setTime(event, 'dtend', answer.propose.end);
  }
  calendar.addSubcomponent(event);
  return `${calendar.toString()}\r\n`;
}

/** Gives DTSTART or DTEND another wall-clock time in the zone it has. */
function setTime(event: ICAL.Component, name: 'dtstart' | 'dtend', wall: string): void {
  const start = event.getFirstProperty('dtstart');
  const known = event.getFirstProperty(name);
  const value = start?.getFirstValue();
  const time = ICAL.Time.fromData(
    {
      year: Number(wall.slice(0, 4)),
      month: Number(wall.slice(5, 7)),
      day: Number(wall.slice(8, 10)),
      hour: Number(wall.slice(11, 13)) || 0,
      minute: Number(wall.slice(14, 16)) || 0,
      second: 0,
      isDate: wall.length === 10,
    },
    value instanceof ICAL.Time && value.zone === ICAL.Timezone.utcTimezone ? ICAL.Timezone.utcTimezone : undefined,
  );
  const property = known ?? new ICAL.Property(name);
  const zone = start?.getFirstParameter('tzid');
  property.setValue(time);
  if (zone && wall.length > 10) property.setParameter('tzid', zone);
  if (!known) event.addProperty(property);
}

function blankCalendar(method: Method): ICAL.Component {
  const calendar = new ICAL.Component('vcalendar');
  calendar.addPropertyWithValue('version', '2.0');
  calendar.addPropertyWithValue('prodid', '-//Corvun//Corvun 0.1//EN');
  calendar.addPropertyWithValue('method', method);
  return calendar;
}

const copy = (component: ICAL.Component) => new ICAL.Component(structuredClone(component.toJSON()) as Jcal);
