import ICAL from 'ical.js';
import { inSeriesZone, type Zone } from '@corvun/core';
import { calendarOf } from './component';
import { eventOf, zonesOf, type CalendarEvent } from './readCalendar';

/** What of an object is to be as it is said elsewhere: names as in `PROPERTIES`, or `date` and the key of a changed date. */
export interface ObjectChange {
  component: 'vevent' | 'vtodo';
  fields: readonly string[];
  reader: Zone;
}

/** How a changed date is called: by the date of the series that it changes, in the zone of the series. */
export function dateKey(date: CalendarEvent, series: CalendarEvent | null, reader: Zone): string {
  const named = date.recurrenceId ?? '';
  return named && series ? inSeriesZone(named, date.zone, series, reader) : named;
}

/** The properties that hold each field (RFC 5545, 3.8). */
const PROPERTIES: Record<string, readonly string[]> = {
  title: ['summary'],
  time: ['dtstart', 'dtend', 'duration'],
  repeat: ['rrule', 'exrule', 'rdate', 'exdate'],
  description: ['description'],
  location: ['location'],
  status: ['status', 'completed', 'percent-complete'],
  busy: ['transp'],
  class: ['class'],
  category: ['categories'],
  link: ['url'],
  priority: ['priority'],
  deadline: ['due', 'duration'],
  day: ['dtstart'],
  estimate: ['estimated-duration'],
};

const ALWAYS = ['dtstamp', 'last-modified'];

/**
 * An object (RFC 4791, 4.1) with some fields as another text has them. Everything else stays as it is: what nobody here
 * knows is not lost.
 * @param present the object as it is
 * @param wanted the object as it would be written anew
 */
export function changeObject(present: string, wanted: string, change: ObjectChange): string {
  const [there, here] = [calendarOf(present)?.root, calendarOf(wanted)?.root];
  if (!there || !here) return wanted;
  const [old, fresh] = [partsOf(there, change), partsOf(here, change)];
  for (const field of change.fields) {
    const date = field.startsWith('date ') ? field.slice('date '.length) : '';
    const [to, from] = [old.get(date), fresh.get(date)];
    if (date && !from) {
      if (to) there.removeSubcomponent(to);
    } else if (from && !to) there.addSubcomponent(copyOf(from));
    else if (from && to) for (const one of date ? Object.keys(WHOLE) : [field]) WHOLE[one]?.(to, from);
    if (from && to) touch(to, from);
  }
  const zones = new Set(there.getAllSubcomponents('vtimezone').map((one) => text(one, 'tzid')));
  for (const zone of here.getAllSubcomponents('vtimezone'))
    if (!zones.has(text(zone, 'tzid'))) there.addSubcomponent(copyOf(zone));
  return `${there.toString()}\r\n`;
}

/** How each field goes from one component into another. */
const WHOLE: Record<string, (to: ICAL.Component, from: ICAL.Component) => void> = {
  ...Object.fromEntries(
    Object.entries(PROPERTIES).map(([field, names]) => [
      field,
      (to: ICAL.Component, from: ICAL.Component) => {
        for (const name of names) replace(to, from, name);
      },
    ]),
  ),
  guests,
  parent: (to, from) => {
    for (const one of to.getAllProperties('related-to')) if (isParent(one)) to.removeProperty(one);
    for (const one of from.getAllProperties('related-to')) if (isParent(one)) to.addProperty(cloneOf(one));
  },
  alarms: (to, from) => {
    to.removeAllSubcomponents('valarm');
    for (const one of from.getAllSubcomponents('valarm')) to.addSubcomponent(copyOf(one));
  },
};

function replace(to: ICAL.Component, from: ICAL.Component, name: string): void {
  to.removeAllProperties(name);
  for (const one of from.getAllProperties(name)) to.addProperty(cloneOf(one));
}

/** Guests who stay keep what else is said of them: their role, whether an answer is asked for. */
function guests(to: ICAL.Component, from: ICAL.Component): void {
  const known = new Map(to.getAllProperties('attendee').map((one) => [addressOf(one), one]));
  if (addressOf(to.getFirstProperty('organizer')) !== addressOf(from.getFirstProperty('organizer')))
    replace(to, from, 'organizer');
  to.removeAllProperties('attendee');
  for (const one of from.getAllProperties('attendee')) {
    const kept = known.get(addressOf(one));
    const guest = cloneOf(kept ?? one);
    const answer = one.getFirstParameter('partstat');
    if (kept && answer) guest.setParameter('partstat', answer);
    to.addProperty(guest);
  }
}

const addressOf = (property: ICAL.Property | null): string => String(property?.getFirstValue() ?? '').toLowerCase();
const isParent = (property: ICAL.Property): boolean => /^(?:parent)?$/i.test(String(property.getFirstParameter('reltype') ?? ''));

/** Marks a component as changed. */
function touch(to: ICAL.Component, from: ICAL.Component): void {
  for (const name of ALWAYS) replace(to, from, name);
  const [was, is] = [to, from].map((one) => Number(one.getFirstPropertyValue('sequence')) || 0);
  if ((is ?? 0) > (was ?? 0)) replace(to, from, 'sequence');
}

/** The components of an object by the key of their date; that of the series or of a single one is empty. */
function partsOf(root: ICAL.Component, { component, reader }: ObjectChange): Map<string, ICAL.Component> {
  const all = root.getAllSubcomponents(component);
  if (component === 'vtodo') return new Map(all.map((one) => [text(one, 'recurrence-id'), one]));
  const zones = zonesOf(root, reader);
  const read = all.flatMap((one) => {
    const event = eventOf(one, zones);
    return event ? [{ one, event }] : [];
  });
  const series = read.find(({ event }) => event.recurrenceId === null)?.event ?? null;
  return new Map(read.map(({ one, event }) => [event.recurrenceId === null ? '' : dateKey(event, series, reader), one]));
}

const text = (component: ICAL.Component, name: string): string => String(component.getFirstPropertyValue(name) ?? '');
const copyOf = (component: ICAL.Component): ICAL.Component => new ICAL.Component(structuredClone(component.toJSON()) as never);
const cloneOf = (property: ICAL.Property): ICAL.Property => new ICAL.Property(structuredClone(property.toJSON()) as never);
