import { Steps, type Zone } from '@corvun/core';
import { CalendarError } from './calendarError';
import { componentOf, type Lenient } from './component';
import { contentLines } from './lines';
import { CALENDAR_STEPS, eventOf, zonesOf, type CalendarEvent } from './readCalendar';
import { todoOf, type CalendarTodo } from './todo';
import { unknownZones, writtenFrom } from './ownText';
import type { FoundZone } from './zone';

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
  /** Events that wait for a zone which is defined after them. */
  maxWaiting: number;
}
export const CALENDAR_LIMITS: CalendarLimits = { maxComponent: 512 * 1024, maxBytes: 512 * 1024 * 1024, maxWaiting: 5000 };

/** Zones of one file whose texts are kept. */
const MOST_ZONES = 500;
const WANTED = new Set(['VEVENT', 'VTODO', 'VTIMEZONE']);

/** What is read of a file so far: its zones, and the steps that are left for more of them. */
interface Known {
  zones: Map<string, FoundZone>;
  /** As they are written. */
  texts: Map<string, string>;
  steps: Steps;
  reader: Zone;
}

interface Part {
  name: string;
  lines: string[];
  size: number;
  from: number;
}

/**
 * Reads an iCalendar stream component by component, so that 50,000 events need no more memory than one, and one
 * broken event does not take the others with it. An event whose zone is defined after it waits for the end.
 * @throws CalendarError when there is no calendar in it, or it is larger than the limit
 */
export async function* streamCalendar(
  input: AsyncIterable<Buffer | string>,
  reader: Zone,
  limits: CalendarLimits = CALENDAR_LIMITS,
): AsyncGenerator<CalendarItem> {
  const known: Known = { zones: new Map(), texts: new Map(), steps: new Steps(CALENDAR_STEPS), reader };
  const waiting: Part[] = [];
  let seen = false;
  let part: Part | null = null;
  let depth = 0;
  let number = 0;
  for await (const line of contentLines(input, { maxLine: 4 * limits.maxComponent, maxBytes: limits.maxBytes })) {
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
      for (const item of itemsOf(part, known, limits)) {
        if (item.type !== 'event' || !item.event.unplaced || waiting.length >= limits.maxWaiting) yield item;
        else waiting.push(part);
      }
      part = null;
    }
  }
  if (!seen) throw new CalendarError('This is not an iCalendar file: there is no calendar in it.');
  for (const one of waiting) yield* itemsOf(one, known, limits);
  if (part) yield { type: 'refused', at: `line ${part.from}`, reason: 'The file ends in the middle of it.' };
}

function* itemsOf(part: Part, known: Known, limits: CalendarLimits): Generator<CalendarItem> {
  const at = `line ${part.from}`;
  if (part.size > limits.maxComponent) {
    yield { type: 'refused', at, reason: `It is longer than ${Math.floor(limits.maxComponent / 1024)} kB.` };
    return;
  }
  try {
    const found = componentOf(['BEGIN:VCALENDAR', ...part.lines, 'END:VCALENDAR']);
    if (found) yield* itemsIn(part, found, known, at);
    else yield { type: 'refused', at, reason: 'It cannot be read.' };
  } catch (problem) {
    yield { type: 'refused', at, reason: `It cannot be read: ${problem instanceof Error ? problem.message : 'unknown'}.` };
  }
}

function* itemsIn(part: Part, { root, problems }: Lenient, known: Known, at: string): Generator<CalendarItem> {
  const { zones, steps, reader } = known;
  if (part.name === 'VTIMEZONE') {
    for (const [id, zone] of zonesOf(root, reader, steps)) {
      zones.set(id, zone);
      if (known.texts.size < MOST_ZONES) known.texts.set(id, writtenFrom(part.lines));
    }
    return;
  }
  const own = () => {
    const text = writtenFrom(part.lines);
    return { text, around: unknownZones(text, known.texts) };
  };
  const component = root.getFirstSubcomponent(part.name.toLowerCase());
  if (component && part.name === 'VTODO') yield { type: 'todo', todo: { ...todoOf(component, zones, reader), own: own() } };
  const event = component && part.name === 'VEVENT' ? eventOf(component, zones, problems) : null;
  if (event) yield { type: 'event', event: { ...event, own: own() } };
  else if (part.name === 'VEVENT') yield { type: 'refused', at, reason: 'It does not say when it begins.' };
}
