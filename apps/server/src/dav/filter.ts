import { instantOf, seriesOccurrences, type Zone } from '@corvun/core';
import type { Element } from '@xmldom/xmldom';
import type { Resource } from './collections';
import { DavError } from './dav-error';
import { CALDAV, c, child, children } from './xml';

const FOREVER = 200 * 366 * 86_400_000;

/** A UTC date and time as CalDAV writes it. @throws DavError where it is none */
function utc(text: string | null, otherwise: number): number {
  if (text === null || text === '') return otherwise;
  const match = /^(\d{4})(\d{2})(\d{2})T(\d{2})(\d{2})(\d{2})Z$/.exec(text);
  const at = match ? Date.parse(`${match.slice(1, 4).join('-')}T${match.slice(4).join(':')}Z`) : NaN;
  if (Number.isNaN(at)) throw new DavError(400, c('valid-filter'), 'A time range is written in UTC.');
  return at;
}

/** The stretch that a time range means (RFC 4791, 9.9). */
export const rangeOf = (range: Element): { start: number; end: number } => ({
  start: utc(range.getAttribute('start'), 0),
  end: utc(range.getAttribute('end'), FOREVER),
});

/** Whether a resource fits a filter (RFC 4791, 9.7): its component, a time range, and properties that are there or not. */
export function fits(filter: Element | undefined, resource: Resource, text: string, zone: Zone): boolean {
  const calendar = child(filter, CALDAV, 'comp-filter');
  if (!calendar) return true;
  if (calendar.getAttribute('name')?.toUpperCase() !== 'VCALENDAR')
    throw new DavError(403, c('supported-filter'), 'A filter begins with VCALENDAR.');
  return children(calendar)
    .filter(({ localName }) => localName === 'comp-filter')
    .every((part) => fitsComponent(part, resource, text, zone));
}

function fitsComponent(part: Element, resource: Resource, text: string, zone: Zone): boolean {
  const name = part.getAttribute('name')?.toUpperCase() ?? '';
  const own = resource.task ? 'VTODO' : 'VEVENT';
  if (child(part, CALDAV, 'is-not-defined')) return name !== own;
  if (name !== own) return false;
  const range = child(part, CALDAV, 'time-range');
  if (range && !touches(resource, rangeOf(range), zone)) return false;
  return children(part)
    .filter(({ localName }) => localName === 'prop-filter')
    .every((one) => fitsProperty(one, text, own));
}

/** Whether something of it lies in a stretch; a task by its day and its deadline, one that has neither always (9.9). */
function touches({ events, task }: Resource, { start, end }: { start: number; end: number }, zone: Zone): boolean {
  if (!task) return seriesOccurrences(events, start, end, zone).length > 0;
  const at = (text: string) => instantOf(text.length === 10 ? `${text}T00:00` : text, zone);
  const times = [task.plannedDay, task.deadline].flatMap((one) => (one ? [at(one)] : []));
  return times.length === 0 || (Math.min(...times) < end && Math.max(...times) >= start);
}

/** Values of a property of the component, unfolded. */
function valuesOf(text: string, component: string, property: string): string[] {
  const lines = text.replace(/\r?\n[ \t]/g, '').split(/\r?\n/);
  const values: string[] = [];
  const open: string[] = [];
  for (const line of lines) {
    const [, word, name = ''] = /^(BEGIN|END):(.+)$/.exec(line) ?? [];
    if (word === 'BEGIN') open.push(name);
    else if (word === 'END') open.pop();
    else if (open.at(-1) === component) {
      const match = /^([A-Za-z-]+)(?:;(?:[^":]|"[^"]*")*)?:(.*)$/.exec(line);
      if (match?.[1]?.toUpperCase() === property) values.push(match[2] ?? '');
    }
  }
  return values;
}

function fitsProperty(part: Element, text: string, component: string): boolean {
  const values = valuesOf(text, component, part.getAttribute('name')?.toUpperCase() ?? '');
  if (child(part, CALDAV, 'is-not-defined')) return values.length === 0;
  const match = child(part, CALDAV, 'text-match');
  if (!match) return values.length > 0;
  const octets = match.getAttribute('collation') === 'i;octet';
  const fold = (one: string) => (octets ? one : one.toLowerCase());
  const wanted = fold(match.textContent ?? '');
  const negate = match.getAttribute('negate-condition') === 'yes';
  return negate ? !values.some((one) => fold(one).includes(wanted)) : values.some((one) => fold(one).includes(wanted));
}
