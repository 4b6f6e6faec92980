import { tzlib_get_ical_block } from 'timezones-ical-library';
import {
  ended,
  folded,
  grouped,
  itemsOf,
  parameterOf,
  propertyOf,
  rawLines,
  unfolded,
  withParameter,
  type RawItem,
} from './rawLines';
import { zoneNamed } from './zone';

/** A component as whoever made it has written it (RFC 5545, 3.6), and what it needs of what stood around it. */
export interface OwnText {
  /** From BEGIN to END. */
  text: string;
  /** The calendar it stood in without it, or only the zones that it names and that nobody else knows. */
  around: string;
}

/** What a calendar is without anything in it. */
export const EMPTY = ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//Corvun//Corvun 0.1//EN', 'CALSCALE:GREGORIAN', 'END:VCALENDAR']
  .map(ended)
  .join('');

const CALENDAR = /^BEGIN:\s*VCALENDAR/i;

/** What stands in the first calendar of a text, with the line ends that the standard has (3.1). */
function inside(text: string): RawItem[] {
  const lines = rawLines(text.replace(/^\ufeff/, '').replace(/\r\n|\r|\n/g, '\r\n'));
  const from = lines.findIndex((line) => CALENDAR.test(line));
  const to = lines.findIndex((line, at) => at > from && /^END:\s*VCALENDAR/i.test(line));
  return from < 0 ? grouped(lines) : grouped(lines.slice(from + 1, to < 0 ? lines.length : to));
}

/** Its components of one kind, as they are written, and the calendar without them. */
export function takeApart(text: string, component: 'vevent' | 'vtodo'): { around: string; texts: string[] } {
  const items = inside(text);
  const isPart = ({ name }: RawItem) => name === `begin:${component}`;
  const around = items.filter((item) => !isPart(item)).map(({ raw }) => ended(raw));
  return {
    around: ['BEGIN:VCALENDAR\r\n', ...around, 'END:VCALENDAR\r\n'].join(''),
    texts: items.filter(isPart).map(({ raw }) => ended(raw)),
  };
}

/** Its zones, by name. */
export function zoneTexts(text: string): Map<string, string> {
  const zones = inside(text).filter(({ name }) => name === 'begin:vtimezone');
  return new Map(zones.map(({ raw }) => [nameOfZone(raw), ended(raw)]));
}

const nameOfZone = (raw: string): string => propertyOf(itemsOf(raw).find(({ name }) => name === 'tzid')?.raw ?? '').value.trim();

/** The zones that the times of a component are said in, by name. */
export function zonesNamed(component: string): Set<string> {
  if (!/TZID=/i.test(component)) return new Set();
  return new Set(
    rawLines(component)
      .filter((line) => /TZID/i.test(line) || /[\r\n][ \t]/.test(line))
      .map((line) => parameterOf(line, 'tzid'))
      .filter(Boolean),
  );
}

/** The zone of a name as everybody knows it; none where nobody does. */
export function knownZone(name: string): string {
  const zone = zoneNamed(name);
  const block = zone && /^[A-Za-z]/.test(zone) ? tzlib_get_ical_block(zone) : undefined;
  const lines = Array.isArray(block) ? (block[0] ?? '').trim().split(/\r?\n/) : [];
  // Of an alias it gives the zone that it stands for, under that one’s name.
  return lines.map((line) => `${/^TZID:/i.test(line) ? `TZID:${name}` : line}\r\n`).join('');
}

/** What stands around a text, with zones that it does not explain itself. */
export function withZones(around: string, more: ReadonlyMap<string, string>): string {
  const known = zoneTexts(around);
  const fresh = [...more].flatMap(([name, zone]) => (known.has(name) ? [] : [zone])).join('');
  if (!fresh) return around;
  return CALENDAR.test(around) ? around.replace(/^END:\s*VCALENDAR/im, (end) => fresh + end) : around + fresh;
}

/** Zones that a component names and another does not, as everybody knows them. */
export const zonesSince = (component: string, before: string): Map<string, string> => {
  const known = zonesNamed(before);
  const fresh = [...zonesNamed(component)].filter((name) => !known.has(name));
  return new Map(fresh.map((name) => [name, knownZone(name)] as const).filter(([, zone]) => zone));
};

/** Letters of the zones that are kept with one component: each of thousands brings its own along. */
const MOST_ZONE_TEXT = 16_000;

/** The zones that a component names and that nobody else knows, as they are written; none where they would be far too long. */
export function unknownZones(component: string, zones: ReadonlyMap<string, string>): string {
  const text = [...zonesNamed(component)]
    .filter((name) => zoneNamed(name) !== name)
    .map((name) => zones.get(name) ?? '')
    .join('');
  return text.length <= MOST_ZONE_TEXT ? text : '';
}

/** A calendar with nothing but zones in it: around a component whose calendar is kept with another one. */
export const calendarOfZones = (zones: string): string => `BEGIN:VCALENDAR\r\n${zones}END:VCALENDAR\r\n`;

/**
 * A calendar of components that were written elsewhere, with every zone that they name. Where two of them call different
 * zones by one name, the later is called otherwise.
 * @param around the calendar that they are put into
 * @param bare what was written without a zone that everybody knows stays so
 */
export function putTogether(around: string, parts: readonly OwnText[], bare = false): string {
  const shell = CALENDAR.test(around) ? around : EMPTY;
  const zones = zoneTexts(shell);
  const there = new Set(zones.keys());
  const texts = parts.map((part) => {
    const wanted = zonesNamed(part.text);
    if (!wanted.size) return part.text;
    const own = part.around && part.around !== around ? zoneTexts(part.around) : zones;
    let { text } = part;
    for (const name of wanted) {
      const said = own.get(name) ?? zones.get(name) ?? (bare ? '' : knownZone(name));
      if (!said) continue;
      const free = freeName(zones, name, said);
      if (!zones.has(free)) zones.set(free, free === name ? said : renamedZone(said, free));
      if (free !== name) text = renamedTimes(text, name, free);
    }
    return text;
  });
  const fresh = [...zones].filter(([name]) => !there.has(name)).sort(([a], [b]) => (a < b ? -1 : 1));
  const at = shell.search(/^END:\s*VCALENDAR/im);
  const end = at < 0 ? shell.length : at;
  return [shell.slice(0, end), ...fresh.map(([, zone]) => zone), ...texts.map(ended), shell.slice(end)].join('');
}

/** A name under which a zone is there already, or may be put. */
function freeName(zones: ReadonlyMap<string, string>, name: string, said: string): string {
  for (let number = 1; ; number += 1) {
    const free = number === 1 ? name : `${name} ${number}`;
    const present = zones.get(free);
    if (present === undefined || meaningOf(present) === meaningOf(said)) return free;
  }
}

/** A zone without its name and remarks. */
const meaningOf = (zone: string): string =>
  rawLines(zone)
    .map(unfolded)
    .filter((line) => !/^(?:TZID|X-|LAST-MODIFIED|TZURL|COMMENT)/i.test(line))
    .join('\n');

const renamedZone = (zone: string, name: string): string =>
  rawLines(zone)
    .map((line) => (/^TZID[:;]/i.test(line) ? `TZID:${name}\r\n` : line))
    .join('');

const renamedTimes = (component: string, from: string, to: string): string =>
  rawLines(component)
    .map((line) => (parameterOf(line, 'tzid') === from ? withParameter(line, 'tzid', /[:;,]/.test(to) ? `"${to}"` : to) : line))
    .join('');

/** Lines that were read one by one, as a component is written. */
export const writtenFrom = (lines: readonly string[]): string => lines.map((line) => `${folded(line)}\r\n`).join('');
