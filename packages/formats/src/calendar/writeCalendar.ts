import { ListedZone, PosixZone, instantOf, wallOf, type Alarm, type Zone } from '@corvun/core';
import { createHash } from 'node:crypto';
import { tzlib_get_ical_block } from 'timezones-ical-library';
import type { Participant } from './about';
import { alarmLines } from './alarms';

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
export function writeCalendar(
  name: string,
  events: readonly WrittenEvent[],
  todos: readonly WrittenTodo[] = [],
  address = '',
): string {
  const zones = zonesIn(events);
  for (const todo of todos) if ((todo.due ?? '').length > 10 || (todo.start ?? '').length > 10) zones.add(todo.zone);
  const lines = [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'PRODID:-//Corvun//Corvun 0.1//EN',
    'CALSCALE:GREGORIAN',
    ...(name ? [`X-WR-CALNAME:${escaped(name)}`] : []),
    ...[...zones].sort().flatMap(zoneLines),
    ...events.flatMap((event) => eventLines(event, { address })),
    ...todos.flatMap((todo) => todoLines(todo, address)),
    'END:VCALENDAR',
  ];
  return `${lines.map(folded).join('\r\n')}\r\n`;
}

function zonesIn(events: readonly WrittenEvent[]): Set<Zone> {
  const zones = new Set<Zone>();
  for (const { zone, seriesZone, endZone } of events)
    for (const one of [zone, seriesZone, endZone]) if (one && one !== 'UTC') zones.add(one);
  return zones;
}

/**
 * A message of the organizer (RFC 5546, 3.2.2 and 3.2.5): events or dates of one UID. Times are in their zones, so that what
 * repeats stays at its hour when clocks change.
 * @param now DTSTAMP, in milliseconds
 */
export function writeScheduling(
  method: 'REQUEST' | 'CANCEL',
  events: readonly WrittenEvent[],
  organizer: { name: string; address: string },
  now: number,
): string {
  const written = events.map((event) => ({
    ...event,
    organizer: organizer.address,
    alarms: null,
    changed: now,
    ...(method === 'CANCEL' ? { status: 'CANCELLED' } : {}),
  }));
  const lines = [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'PRODID:-//Corvun//Corvun 0.1//EN',
    `METHOD:${method}`,
    ...[...zonesIn(written)].sort().flatMap(zoneLines),
    ...written.flatMap((event) => eventLines(event, { asking: organizer.name })),
    'END:VCALENDAR',
  ];
  return `${lines.map(folded).join('\r\n')}\r\n`;
}

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
    ...(event.link ? [`URL:${event.link}`] : []),
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
const utc = (instant: number) => new Date(instant).toISOString().replace(/[-:]|\.\d{3}/g, '');

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

const escaped = (value: string) =>
  value
    .replace(/[\\;,]/g, (letter) => `\\${letter}`)
    .replace(/\r\n?|\n/g, '\\n')
    // Control letters are not allowed in text (3.3.11).
    .replace(/[\u0000-\u0008\u000b-\u001f\u007f]/g, '');
const quoted = (value: string) => `"${value.replace(/["\u0000-\u001f]/g, "'")}"`;

/** A line of at most 75 bytes, and its continuations (3.1); no letter is cut in two. */
function folded(line: string): string {
  if (Buffer.byteLength(line) <= 75) return line;
  const parts: string[] = [];
  let [part, size] = ['', 0];
  for (const letter of line) {
    const bytes = Buffer.byteLength(letter);
    if (size + bytes > (parts.length ? 74 : 75)) {
      parts.push(part);
      [part, size] = ['', 0];
    }
    part += letter;
    size += bytes;
  }
  return [...parts, part].join('\r\n ');
}

/** Zones given by their rules or changes have names with letters that a parameter cannot hold bare, or far too many. */
const nameOf = (zone: Zone) => (zone.startsWith('<') ? `"Rules ${shortName(zone)}"` : zone);
const shortName = (zone: Zone) =>
  zone.length <= 80 ? zone.replace(/[<>]/g, '_') : createHash('sha256').update(zone).digest('hex').slice(0, 16);

function zoneLines(zone: Zone): string[] {
  if (zone.startsWith('<')) return ownZoneLines(zone);
  const block = tzlib_get_ical_block(zone);
  const lines = Array.isArray(block) ? (block[0] ?? '').trim().split(/\r?\n/) : [];
  // Of an alias it gives the zone that it stands for, under that one’s name.
  return lines.map((line) => (/^TZID:/i.test(line) ? `TZID:${zone}` : line));
}

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
