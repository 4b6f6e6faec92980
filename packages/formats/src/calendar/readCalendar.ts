import ICAL from 'ical.js';
import { instantOf, isZone, wallOf, type Recurring, type Zone } from '@corvun/core';
import { resolveZone } from './zone';

/** One VEVENT (RFC 5545, 3.6.1): a series, a single event, or a changed occurrence of a series. */
export interface CalendarEvent extends Recurring {
  uid: string;
  sequence: number;
  /** RECURRENCE-ID as wall-clock time or day in the series' zone; null for the series itself. */
  recurrenceId: string | null;
  title: string;
  description: string;
  location: string;
  status: 'CONFIRMED' | 'TENTATIVE' | 'CANCELLED';
  transparent: boolean;
  class: 'PUBLIC' | 'PRIVATE' | 'CONFIDENTIAL';
  category: string;
  url: string;
  organizer: { name: string; address: string } | null;
  attendees: Participant[];
  comment: string;
  /** DTSTAMP in milliseconds, 0 when it is missing. */
  stamp: number;
}

/** One ATTENDEE (RFC 5545, 3.8.4.1). */
export interface Participant {
  name: string;
  address: string;
  partstat: 'NEEDS-ACTION' | 'ACCEPTED' | 'DECLINED' | 'TENTATIVE';
}

/** A calendar that cannot be read; the message is a sentence for the user. */
export class CalendarError extends Error {
  readonly code = 'not-a-calendar';
}

const pad = (number: number) => String(number).padStart(2, '0');
const dayText = (time: ICAL.Time) => `${String(time.year).padStart(4, '0')}-${pad(time.month)}-${pad(time.day)}`;
export const wallText = (time: ICAL.Time) =>
  time.isDate ? dayText(time) : `${dayText(time)}T${pad(time.hour)}:${pad(time.minute)}`;

/**
 * Events of an iCalendar text.
 * @param reader the reader's zone, tried first for a private zone name
 * @throws CalendarError when it is no iCalendar
 */
export function readCalendar(text: string, reader: Zone): CalendarEvent[] {
  let roots: ICAL.Component[];
  try {
    const parsed: unknown = /\S/.test(text) ? ICAL.parse(text) : [];
    const jcal = Array.isArray(parsed) && Array.isArray(parsed[0]) ? (parsed as unknown[][]) : [parsed as unknown[]];
    roots = jcal
      .filter((one) => one.length > 0)
      .map((one) => new ICAL.Component(one as ConstructorParameters<typeof ICAL.Component>[0]));
  } catch (problem) {
    throw new CalendarError(
      `This is not an iCalendar file: ${problem instanceof Error ? problem.message : 'it cannot be read'}.`,
    );
  }
  if (!roots.some((root) => root.name === 'vcalendar'))
    throw new CalendarError('This is not an iCalendar file: there is no calendar in it.');
  return roots.flatMap((root) => {
    const zones = zonesOf(root, reader);
    return root.getAllSubcomponents('vevent').flatMap((component) => eventOf(component, zones) ?? []);
  });
}

/** The zones that a calendar defines, as IANA zones, by the names it uses. */
export function zonesOf(root: ICAL.Component, reader: Zone): Map<string, Zone> {
  const zones = new Map<string, Zone>();
  for (const component of root.getAllSubcomponents('vtimezone')) {
    const id = component.getFirstPropertyValue('tzid');
    if (typeof id === 'string') zones.set(id, resolveZone(id, component, reader));
  }
  return zones;
}

/** One VEVENT; null when it has no DTSTART. */
export function eventOf(component: ICAL.Component, zones: Map<string, Zone>): CalendarEvent | null {
  const startProperty = component.getFirstProperty('dtstart');
  const start = startProperty?.getFirstValue();
  if (!startProperty || !(start instanceof ICAL.Time)) return null;
  const zone = zoneOf(startProperty, start, zones);
  const walls = (name: string) =>
    component
      .getAllProperties(name)
      .flatMap((property) => property.getValues().flatMap((value) => wallIn(property, value, zone, zones)));
  const text = (name: string) => String(component.getFirstPropertyValue(name) ?? '');
  const status = text('status').toUpperCase();
  const rule = component.getFirstPropertyValue('rrule');
  return {
    uid: text('uid'),
    sequence: Number(component.getFirstPropertyValue('sequence') ?? 0) || 0,
    recurrenceId: walls('recurrence-id')[0] ?? null,
    start: wallText(start),
    end: endOf(component, start, zone, zones),
    allDay: start.isDate,
    zone: start.isDate ? null : zone,
    rrule: rule ? rule.toString() : null,
    rdates: walls('rdate'),
    exdates: walls('exdate'),
    title: text('summary'),
    description: text('description'),
    location: text('location'),
    status: status === 'CANCELLED' || status === 'TENTATIVE' ? status : 'CONFIRMED',
    transparent: text('transp').toUpperCase() === 'TRANSPARENT',
    ...aboutOf(component),
  };
}

const ANSWERS = new Set(['ACCEPTED', 'DECLINED', 'TENTATIVE']);
const MOST_ATTENDEES = 500;

function aboutOf(
  component: ICAL.Component,
): Pick<CalendarEvent, 'class' | 'category' | 'url' | 'organizer' | 'attendees' | 'comment' | 'stamp'> {
  const text = (name: string) => String(component.getFirstPropertyValue(name) ?? '');
  const kind = text('class').toUpperCase();
  const organizer = component.getFirstProperty('organizer');
  const stamp = component.getFirstPropertyValue('dtstamp');
  return {
    class: kind === 'PRIVATE' || kind === 'CONFIDENTIAL' ? kind : 'PUBLIC',
    category: text('categories').slice(0, 200),
    url: /^https?:\/\//i.test(text('url')) ? text('url').slice(0, 2000) : '',
    organizer: organizer ? personOf(organizer) : null,
    attendees: component
      .getAllProperties('attendee')
      .slice(0, MOST_ATTENDEES)
      .map((property) => {
        const said = String(property.getFirstParameter('partstat') ?? '').toUpperCase();
        return { ...personOf(property), partstat: (ANSWERS.has(said) ? said : 'NEEDS-ACTION') as Participant['partstat'] };
      }),
    comment: text('comment').slice(0, 5000),
    stamp: stamp instanceof ICAL.Time ? stamp.toJSDate().getTime() : 0,
  };
}

function personOf(property: ICAL.Property): { name: string; address: string } {
  const name = property.getFirstParameter('cn');
  return {
    name: (typeof name === 'string' ? name : '').slice(0, 200),
    address: String(property.getFirstValue() ?? '')
      .replace(/^mailto:/i, '')
      .toLowerCase()
      .slice(0, 320),
  };
}

function zoneOf(property: ICAL.Property, time: ICAL.Time, zones: Map<string, Zone>): Zone | null {
  const id = property.getFirstParameter('tzid');
  if (id) return zones.get(id) ?? (isZone(id) ? id : null);
  return time.zone === ICAL.Timezone.utcTimezone ? 'UTC' : null;
}

/** A value in wall-clock time of the event's zone: EXDATE and RECURRENCE-ID are often written in UTC. */
function wallIn(property: ICAL.Property, value: unknown, zone: Zone | null, zones: Map<string, Zone>): string[] {
  const time = value instanceof ICAL.Period ? value.start : value;
  if (!(time instanceof ICAL.Time)) return [];
  const from = zoneOf(property, time, zones);
  if (time.isDate || from === zone || !from || !zone) return [wallText(time)];
  return [convert(wallText(time), from, zone)];
}

function endOf(component: ICAL.Component, start: ICAL.Time, zone: Zone | null, zones: Map<string, Zone>): string {
  const property = component.getFirstProperty('dtend');
  const end = property?.getFirstValue();
  if (property && end instanceof ICAL.Time) return wallIn(property, end, zone, zones)[0] ?? wallText(end);
  const duration = component.getFirstPropertyValue('duration');
  const later = start.clone();
  if (duration instanceof ICAL.Duration) later.addDuration(duration);
  else if (start.isDate) later.adjust(1, 0, 0, 0);
  return wallText(later);
}

function convert(wall: string, from: Zone, to: Zone): string {
  return wallOf(instantOf(wall, from), to);
}
