import { ListedZone, PosixZone, instantOf, wallOf, type Alarm, type Zone } from '@corvun/core';
import { createHash } from 'node:crypto';
import type { Participant } from './about';
import { alarmLines } from './alarms';
import { EMPTY, putTogether, writtenFrom, type OwnText } from './ownText';
import { folded } from './rawLines';

/** An event as a file is to hold it; times as `CalendarEvent` has them, RECURRENCE-ID in the zone of the series. */
export interface WrittenEvent {
  uid: string;
  sequence: number;
  recurrenceId: string;
  following: boolean;
  /** Zone of the series a changed date belongs to. */
  seriesZone: Zone | null;
  start: string;
  end: string;
  duration: string | null;
  allDay: boolean;
  zone: Zone | null;
  /** The zone its end is said in, where that is another. */
  endZone: Zone | null;
  title: string;
  description: string;
  location: string;
  status: string;
  transparent: boolean;
  class: string;
  category: string;
  rrule: string | null;
  exrule: string | null;
  rdates: readonly string[];
  exdates: readonly string[];
  organizer: string;
  attendees: readonly Participant[];
  link: string;
  /** Where one joins from afar: CONFERENCE (RFC 7986, 5.11), and URL where there is no other. */
  meetingLink: string;
  alarms: readonly Alarm[] | null;
  /** DTSTAMP and LAST-MODIFIED, in milliseconds. */
  changed: number;
  created: number;
}

/** A task as a file is to hold it. */
export interface WrittenTodo {
  uid: string;
  title: string;
  description: string;
  status: string;
  priority: 'high' | 'normal' | 'low';
  /** Days, or wall-clock times in `zone`. */
  due: string | null;
  start: string | null;
  zone: Zone;
  completed: number | null;
  rrule: string | null;
  categories: readonly string[];
  minutes: number | null;
  parent: string | null;
  alarms: readonly Alarm[];
  changed: number;
  created: number;
}

/**
 * A calendar file (RFC 5545), with a VTIMEZONE for every zone that is named in it.
 * @param name empty: it has none, as an object in a collection of others (RFC 4791, 4.1)
 * @param address of whoever alarms by mail go to
 */
export const writeCalendar = (
  name: string,
  events: readonly WrittenEvent[],
  todos: readonly WrittenTodo[] = [],
  address = '',
): string =>
  putTogether(calendarCalled(name), [
    ...events.map((event) => writeEvent(event, address)),
    ...todos.map((todo) => writeTodo(todo, address)),
  ]);

/** A calendar with nothing in it. @param more lines that it has, too */
export const calendarCalled = (name: string, ...more: string[]): string =>
  EMPTY.replace(
    /END:VCALENDAR/,
    (end) => [...more, ...(name ? [`X-WR-CALNAME:${escaped(name)}`] : [])].map((line) => `${folded(line)}\r\n`).join('') + end,
  );

/** An event as a component, with the zones that only it explains. @param address of whoever alarms by mail go to */
export const writeEvent = (event: WrittenEvent, address = ''): OwnText => ({
  text: writtenFrom(eventLines(event, { address })),
  around: ownZones([event.zone, event.seriesZone, event.endZone]),
});

/** A task as a component, with the zones that only it explains. @param address of whoever alarms by mail go to */
export const writeTodo = (todo: WrittenTodo, address = ''): OwnText => ({
  text: writtenFrom(todoLines(todo, address)),
  around: ownZones([todo.zone]),
});

const ownZones = (zones: readonly (Zone | null)[]): string =>
  [...new Set(zones)].map((zone) => (zone?.startsWith('<') ? writtenFrom(ownZoneLines(zone)) : '')).join('');

export type Scheduling = 'REQUEST' | 'CANCEL' | 'DECLINECOUNTER';

/** Who asks. */
export interface Organizer {
  name: string;
  address: string;
}

/**
 * A message of the organizer (RFC 5546, 3.2.2, 3.2.5 and 3.2.8): events or dates of one UID. Times are in their zones, so that
 * what repeats stays at its hour when clocks change.
 * @param now DTSTAMP, in milliseconds
 */
export const writeScheduling = (method: Scheduling, events: readonly WrittenEvent[], organizer: Organizer, now: number): string =>
  schedulingOf(
    method,
    events.map((event) => schedulingPart(method, event, organizer, now)),
  );

/** One event of such a message. */
export function schedulingPart(method: Scheduling, event: WrittenEvent, { name, address }: Organizer, now: number): OwnText {
  const status = method === 'CANCEL' ? 'CANCELLED' : event.status;
  const asked = { ...event, organizer: address, alarms: null, changed: now, status };
  return { ...writeEvent(asked), text: writtenFrom(eventLines(asked, { asking: name })) };
}

/** A message of parts that are written already. */
export const schedulingOf = (method: Scheduling, parts: readonly OwnText[]): string =>
  putTogether(calendarCalled('', `METHOD:${method}`), parts);

/** @param asking name of the organizer, where guests are asked to answer */
function eventLines(event: WrittenEvent, { asking, address = '' }: { asking?: string; address?: string }): string[] {
  const { zone, allDay } = event;
  const organizer = asking ? `;CN=${quoted(asking)}` : '';
  const asked = asking === undefined ? '' : ';RSVP=TRUE';
  const times = (property: string, walls: readonly string[]) =>
    walls.map((wall) => {
      const [start = '', end] = wall.split('/');
      return end
        ? timed(`${property};VALUE=PERIOD`, start, zone, allDay, `/${compact(end)}${zone === 'UTC' ? 'Z' : ''}`)
        : timed(property, start, zone, allDay && start.length === 10);
    });
  return [
    'BEGIN:VEVENT',
    `UID:${escaped(event.uid)}`,
    `DTSTAMP:${utc(event.changed)}`,
    `CREATED:${utc(event.created)}`,
    `LAST-MODIFIED:${utc(event.changed)}`,
    `SEQUENCE:${event.sequence}`,
    ...(event.recurrenceId
      ? [timed(`RECURRENCE-ID${event.following ? ';RANGE=THISANDFUTURE' : ''}`, event.recurrenceId, event.seriesZone, false)]
      : []),
    timed('DTSTART', event.start, zone, allDay),
    event.duration && !allDay ? `DURATION:${event.duration}` : dtend(event),
    ...rules('RRULE', event.rrule),
    ...rules('EXRULE', event.exrule),
    ...times('RDATE', event.rdates),
    ...times('EXDATE', event.exdates),
    `SUMMARY:${escaped(event.title)}`,
    ...text('DESCRIPTION', event.description),
    ...text('LOCATION', event.location),
    ...text('CATEGORIES', event.category),
    ...uri('CONFERENCE;VALUE=URI;FEATURE=VIDEO', event.meetingLink),
    ...uri('URL', event.link || event.meetingLink),
    `STATUS:${event.status}`,
    `TRANSP:${event.transparent ? 'TRANSPARENT' : 'OPAQUE'}`,
    `CLASS:${event.class}`,
    ...(event.organizer ? [`ORGANIZER${organizer}:mailto:${event.organizer}`] : []),
    ...event.attendees.map(
      ({ name, address, partstat }) =>
        `ATTENDEE${name ? `;CN=${quoted(name)}` : ''};PARTSTAT=${partstat}${asked}:mailto:${address}`,
    ),
    ...alarmLines(event.alarms ?? [], escaped(event.title), address),
    'END:VEVENT',
  ];
}

function dtend({ end, zone, endZone, allDay }: WrittenEvent): string {
  if (allDay || !zone || !endZone || endZone === zone) return timed('DTEND', end, zone, allDay);
  return timed('DTEND', wallOf(instantOf(end, zone), endZone), endZone, false);
}

const PRIORITY = { high: 1, normal: 5, low: 9 } as const;

function todoLines(todo: WrittenTodo, address: string): string[] {
  // DTSTART and DUE are of one kind (3.8.2.3).
  const start = todo.start?.length === 10 && (todo.due ?? '').length > 10 ? `${todo.start}T00:00` : todo.start;
  return [
    'BEGIN:VTODO',
    `UID:${escaped(todo.uid)}`,
    `DTSTAMP:${utc(todo.changed)}`,
    `CREATED:${utc(todo.created)}`,
    `LAST-MODIFIED:${utc(todo.changed)}`,
    `SUMMARY:${escaped(todo.title)}`,
    ...text('DESCRIPTION', todo.description),
    `STATUS:${todo.status}`,
    `PRIORITY:${PRIORITY[todo.priority]}`,
    ...(start ? [timed('DTSTART', start, todo.zone, start.length === 10)] : []),
    ...(todo.due ? [timed('DUE', todo.due, todo.zone, todo.due.length === 10)] : []),
    ...(todo.completed === null ? [] : [`COMPLETED:${utc(todo.completed)}`]),
    ...rules('RRULE', todo.rrule),
    ...(todo.categories.length ? [`CATEGORIES:${todo.categories.map(escaped).join(',')}`] : []),
    // RFC 9073 has no such thing for tasks; DURATION would stand against DUE.
    ...(todo.minutes === null ? [] : [`ESTIMATED-DURATION:PT${todo.minutes}M`]),
    ...(todo.parent ? [`RELATED-TO;RELTYPE=PARENT:${escaped(todo.parent)}`] : []),
    ...alarmLines(todo.alarms, escaped(todo.title), address),
    'END:VTODO',
  ];
}

const compact = (wall: string) => `${wall.replace(/[-:]/g, '')}${wall.length === 16 ? '00' : ''}`;
export const utc = (instant: number) => new Date(instant).toISOString().replace(/[-:]|\.\d{3}/g, '');

function timed(property: string, wall: string, zone: Zone | null, allDay: boolean, more = ''): string {
  if (allDay || wall.length === 10) return `${property};VALUE=DATE:${compact(wall.slice(0, 10))}`;
  if (zone === 'UTC') return `${property}:${compact(wall)}Z${more}`;
  return `${property}${zone ? `;TZID=${nameOf(zone)}` : ''}:${compact(wall)}${more}`;
}

const rules = (property: string, lines: string | null) =>
  (lines ?? '')
    .split('\n')
    .filter(Boolean)
    .map((rule) => `${property}:${rule}`);
const text = (property: string, value: string) => (value ? [`${property}:${escaped(value)}`] : []);

/** What is no address is none of these properties. */
const uri = (property: string, value: string) => (/^[a-z][a-z0-9+.-]*:[^\s<>"]+$/i.test(value) ? [`${property}:${value}`] : []);

export const escaped = (value: string) =>
  value
    .replace(/[\\;,]/g, (letter) => `\\${letter}`)
    .replace(/\r\n?|\n/g, '\\n')
    // Control letters are not allowed in text (3.3.11).
    .replace(/[\u0000-\u0008\u000b-\u001f\u007f]/g, '');
export const quoted = (value: string) => `"${value.replace(/["\u0000-\u001f]/g, "'")}"`;

/** Zones given by their rules or changes have names with letters that a parameter cannot hold bare, or far too many. */
const nameOf = (zone: Zone) => (zone.startsWith('<') ? `"Rules ${shortName(zone)}"` : zone);
const shortName = (zone: Zone) =>
  zone.length <= 80 ? zone.replace(/[<>]/g, '_') : createHash('sha256').update(zone).digest('hex').slice(0, 16);

function ownZoneLines(zone: Zone): string[] {
  const [listed, rules] = [ListedZone.of(zone), PosixZone.of(zone)?.describe()];
  const inside = listed ? listedLines(listed) : rules ? posixLines(rules) : [];
  return inside.length ? ['BEGIN:VTIMEZONE', `TZID:${nameOf(zone).replace(/"/g, '')}`, ...inside, 'END:VTIMEZONE'] : [];
}

const offsetText = (minutes: number) =>
  `${minutes < 0 ? '-' : '+'}${String(Math.floor(Math.abs(minutes) / 60)).padStart(2, '0')}${String(Math.abs(minutes) % 60).padStart(2, '0')}`;

const observance = (kind: 'STANDARD' | 'DAYLIGHT', from: number, to: number, start: string, rule = '') => [
  `BEGIN:${kind}`,
  `DTSTART:${start}`,
  `TZOFFSETFROM:${offsetText(from)}`,
  `TZOFFSETTO:${offsetText(to)}`,
  ...(rule ? [`RRULE:${rule}`] : []),
  `END:${kind}`,
];

function listedLines({ before, changes }: ListedZone): string[] {
  const first = observance('STANDARD', before, before, '19700101T000000');
  return [
    ...first,
    ...changes.flatMap(({ at, to }, index) => {
      const from = changes[index - 1]?.to ?? before;
      return observance(to > from ? 'DAYLIGHT' : 'STANDARD', from, to, utc(at + from * 60_000).slice(0, -1));
    }),
  ];
}

function posixLines({ standard, summer }: ReturnType<PosixZone['describe']>): string[] {
  if (!summer) return observance('STANDARD', standard, standard, '19700101T000000');
  const { offset, from, until } = summer;
  return [
    ...observance('STANDARD', offset, standard, `1970${until.first}`, until.rule),
    ...observance('DAYLIGHT', standard, offset, `1970${from.first}`, from.rule),
  ];
}
