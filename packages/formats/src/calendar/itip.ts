import type { Zone } from '@corvun/core';
import type { Participant } from './about';
import { calendarOf } from './component';
import { putTogether, takeApart, unknownZones, zoneTexts } from './ownText';
import { componentWith, folded, itemsOf, parameterOf, propertyOf, withParameter, type RawItem } from './rawLines';
import { calendarCalled, escaped, quoted, utc } from './writeCalendar';
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
 * The answer to a REQUEST (RFC 5546, 3.2.3 and 3.2.7): REPLY, or COUNTER when another time is proposed. What it says is what the
 * request said, line by line, with its zones; the only ATTENDEE is the one who answers. It is not read again for this.
 * @throws Error when there is no event in the request
 */
export function answerTo(request: string, recurrenceId: string | null, answer: Answer): string {
  const { around, texts } = takeApart(request, 'vevent');
  const isDate = (text: string) => itemsOf(text).some(({ name }) => name === 'recurrence-id');
  const wanted = texts.find((one) => isDate(one) === (recurrenceId !== null)) ?? texts[0];
  if (wanted === undefined) throw new Error('The invitation cannot be read again.');
  const all = itemsOf(wanted);
  const own = all.find(({ name, raw }) => name === 'attendee' && addressIn(raw) === answer.attendee.address.toLowerCase());
  const kept = all.filter(({ name }) => !LEFT_OUT.has(name) && !(answer.propose && TIMES.has(name)));
  const items = [
    ...kept.filter(({ name }) => !name.startsWith('begin:')),
    property('DTSTAMP', '', utc(answer.now)),
    ...(answer.propose ? proposed(all, answer.propose) : []),
    ...(answer.comment ? [property('COMMENT', '', escaped(answer.comment))] : []),
    own ? { ...own, raw: withParameter(own.raw, 'partstat', answer.partstat) } : attendeeOf(answer),
    ...kept.filter(({ name }) => name.startsWith('begin:')),
  ];
  const shell = calendarCalled('', `METHOD:${answer.propose ? 'COUNTER' : 'REPLY'}`);
  return putTogether(shell, [{ text: componentWith(wanted, items), around }]);
}

const LEFT_OUT = new Set(['attendee', 'begin:valarm', 'comment', 'request-status', 'dtstamp']);
const TIMES = new Set(['dtstart', 'dtend', 'duration']);

const property = (name: string, parameters: string, value: string): RawItem => ({
  name: name.toLowerCase(),
  raw: `${folded(`${name}${parameters}:${value}`)}\r\n`,
});

const addressIn = (raw: string): string =>
  propertyOf(raw)
    .value.trim()
    .replace(/^mailto:/i, '')
    .toLowerCase();

const attendeeOf = ({ attendee: { name, address }, partstat }: Answer): RawItem =>
  property('ATTENDEE', `;PARTSTAT=${partstat}${name ? `;CN=${quoted(name)}` : ''}`, `mailto:${address}`);

/** Another time, in the zone that the event begins in. */
function proposed(items: readonly RawItem[], { start, end }: NonNullable<Answer['propose']>): RawItem[] {
  const from = items.find(({ name }) => name === 'dtstart')?.raw ?? '';
  const zone = parameterOf(from, 'tzid');
  const isUtc = propertyOf(from).value.trim().endsWith('Z');
  return [
    ['DTSTART', start],
    ['DTEND', end],
  ].map(([name = '', wall = '']) => {
    const plain = wall.replace(/[-:]/g, '');
    if (wall.length === 10) return property(name, ';VALUE=DATE', plain);
    const parameters = zone && !isUtc ? `;TZID=${/[:;,]/.test(zone) ? `"${zone}"` : zone}` : '';
    return property(name, parameters, `${plain}${plain.length === 13 ? '00' : ''}${isUtc ? 'Z' : ''}`);
  });
}
