import { StringDecoder } from 'node:string_decoder';
import ICAL from 'ical.js';
import type { Zone } from '@corvun/core';
import { CalendarError, eventOf, zonesOf, type CalendarEvent } from './readCalendar';
import { todoOf, type CalendarTodo } from './todo';

/** What a large iCalendar file holds, one thing at a time; `at` says where a refused one stands. */
export type CalendarItem =
  | { type: 'event'; event: CalendarEvent }
  | { type: 'todo'; todo: CalendarTodo }
  | { type: 'refused'; at: string; reason: string };

export interface CalendarLimits {
  /** Characters of one event; a longer one is left out and said so. */
  maxComponent: number;
  /** Bytes of the whole file. */
  maxBytes: number;
}
export const CALENDAR_LIMITS: CalendarLimits = { maxComponent: 512 * 1024, maxBytes: 512 * 1024 * 1024 };

const WANTED = new Set(['VEVENT', 'VTODO', 'VTIMEZONE']);

/**
 * Reads an iCalendar stream component by component, so that 50,000 events need no more memory than one, and one
 * broken event does not take the others with it. Zones are expected before their first use (all known writers do).
 * @throws CalendarError when there is no calendar in it, or it is larger than the limit
 */
export async function* streamCalendar(
  input: AsyncIterable<Buffer | string>,
  reader: Zone,
  limits: CalendarLimits = CALENDAR_LIMITS,
): AsyncGenerator<CalendarItem> {
  const zones = new Map<string, Zone>();
  let seen = false;
  let part: { name: string; lines: string[]; size: number; from: number } | null = null;
  let depth = 0;
  let number = 0;
  for await (const line of linesOf(input, limits)) {
    number += 1;
    const [, word, name] = /^(BEGIN|END):([A-Za-z-]+)\s*$/i.exec(line) ?? [];
    const kind = name?.toUpperCase() ?? '';
    if (word?.toUpperCase() === 'BEGIN') {
      if (kind === 'VCALENDAR') {
        // A calendar that begins inside an event means that the event before was cut off.
        if (part) yield { type: 'refused', at: `line ${part.from}`, reason: 'It has a beginning but no end.' };
        [seen, part, depth] = [true, null, 0];
        continue;
      }
      if (part) depth += 1;
      else if (seen && WANTED.has(kind)) part = { name: kind, lines: [], size: 0, from: number };
    }
    if (!part) continue;
    part.size += line.length;
    if (part.size <= limits.maxComponent) part.lines.push(line);
    if (word?.toUpperCase() !== 'END') continue;
    if (depth > 0) depth -= 1;
    else {
      yield* itemsOf(part, zones, reader, limits);
      part = null;
    }
  }
  if (!seen) throw new CalendarError('This is not an iCalendar file: there is no calendar in it.');
  if (part) yield { type: 'refused', at: `line ${part.from}`, reason: 'The file ends in the middle of it.' };
}

function* itemsOf(
  part: { name: string; lines: string[]; size: number; from: number },
  zones: Map<string, Zone>,
  reader: Zone,
  limits: CalendarLimits,
): Generator<CalendarItem> {
  const at = `line ${part.from}`;
  if (part.size > limits.maxComponent) {
    yield { type: 'refused', at, reason: `It is longer than ${Math.floor(limits.maxComponent / 1024)} kB.` };
    return;
  }
  try {
    const parsed = ICAL.parse(`BEGIN:VCALENDAR\r\n${part.lines.join('\r\n')}\r\nEND:VCALENDAR\r\n`) as ConstructorParameters<
      typeof ICAL.Component
    >[0];
    const root = new ICAL.Component(parsed);
    if (part.name === 'VTIMEZONE') {
      for (const [id, zone] of zonesOf(root, reader)) zones.set(id, zone);
      return;
    }
    const component = root.getFirstSubcomponent(part.name.toLowerCase());
    if (component && part.name === 'VTODO') yield { type: 'todo', todo: todoOf(component, zones) };
    const event = component && part.name === 'VEVENT' ? eventOf(component, zones) : null;
    if (event) yield { type: 'event', event };
    else if (part.name === 'VEVENT') yield { type: 'refused', at, reason: 'It does not say when it begins.' };
  } catch (problem) {
    yield { type: 'refused', at, reason: `It cannot be read: ${problem instanceof Error ? problem.message : 'unknown'}.` };
  }
}

async function* linesOf(input: AsyncIterable<Buffer | string>, limits: CalendarLimits): AsyncGenerator<string> {
  const decoder = new StringDecoder('utf8');
  let rest = '';
  let size = 0;
  for await (const chunk of input) {
    size += chunk.length;
    if (size > limits.maxBytes) throw new CalendarError(`The calendar is larger than ${limits.maxBytes / 1048576} MB.`);
    const lines = (rest + (typeof chunk === 'string' ? chunk : decoder.write(chunk))).split(/\r\n|\n|\r(?!$)/);
    rest = lines.pop() ?? '';
    // One line without an end must not fill the memory.
    if (rest.length > 4 * limits.maxComponent) throw new CalendarError('This is not an iCalendar file: a line in it never ends.');
    yield* lines;
  }
  rest += decoder.end();
  if (rest) yield rest.replace(/^\uFEFF/, '');
}
