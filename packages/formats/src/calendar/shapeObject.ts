import { Steps, instantOf, seriesOccurrences, touches, wallOf, type Interval, type Zone } from '@corvun/core';
import { latestOf } from './expandCalendar';
import { componentWith, ended, grouped, itemsOf, rawLines, unfolded, type RawItem } from './rawLines';
import { takeApart } from './ownText';
import { readObject } from './readObject';
import type { CalendarEvent } from './readCalendar';

/** Which components and properties of an object are wanted (RFC 4791, 9.6.1 to 9.6.4). */
export interface Wanted {
  /** In small letters; `all`: every one. */
  props: 'all' | { name: string; noValue: boolean }[];
  comps: 'all' | ({ name: string } & Wanted)[];
}

/** How an object is wanted (RFC 4791, 9.6). */
export interface Shape {
  /** Each date in a stretch by itself, in UTC (9.6.5). */
  expand?: Interval;
  /** Changed dates only where they are in a stretch (9.6.6). */
  limit?: Interval;
  comp?: Wanted;
}

/** Dates that one object is expanded into. */
const MOST_DATES = 5000;
const STEPS = 200_000;

/** An object as it is asked for. @throws CalendarError what is none; RangeError a sentence, where it would be too long */
export function shapeObject(text: string, { expand, limit, comp }: Shape, reader: Zone): string {
  const dates = expand ? expanded(text, expand, reader) : limit ? limited(text, limit, reader) : text;
  return comp ? part(dates, comp) : dates;
}

function limited(text: string, { start, end }: Interval, reader: Zone): string {
  const { around, texts } = takeApart(text, 'vevent');
  const rows = new Map(latestOf(readObject(text, reader).events, reader).map((row) => [row.own?.text, row]));
  const kept = texts.filter((one) => {
    const row = rows.get(one);
    if (!row?.recurrenceId) return true;
    const original = { ...row, recurrenceId: '', ...originalTimes(row), rrule: null, rdates: [], exdates: [] };
    return row.following || [row, original].some((at) => touches([at], start, end, reader, new Steps(STEPS)));
  });
  return inside(around, kept);
}

/** When a changed date would have been: as long as it is now. */
function originalTimes(row: CalendarEvent & { recurrenceId: string }): { start: string; end: string } {
  const at = (wall: string) => instantOf(wall.length === 10 ? `${wall}T00:00` : wall, 'UTC');
  const end = wallOf(at(row.recurrenceId) + Math.max(0, at(row.end) - at(row.start)), 'UTC');
  return { start: row.recurrenceId, end: row.allDay ? end.slice(0, 10) : end };
}

function expanded(text: string, { start, end }: Interval, reader: Zone): string {
  const { events } = readObject(text, reader);
  const rows = latestOf(events, reader);
  const repeats = rows.some((row) => row.recurrenceId || row.rrule || row.rdates.length);
  const steps = new Steps(STEPS);
  const found = seriesOccurrences(rows, start, end, reader, steps);
  if (found.length > MOST_DATES || steps.left < 0)
    throw new RangeError(`It has more than ${MOST_DATES} dates in this stretch. Ask for less of it.`);
  const series = rows.find((row) => !row.recurrenceId);
  const texts = found.map(({ part: row, occurrence }) => {
    const { allDay } = row;
    const named = occurrence.key;
    const times = [
      line('DTSTART', occurrence.days?.first ?? occurrence.start, allDay),
      line('DTEND', occurrence.days?.after ?? occurrence.end, allDay),
      ...(repeats ? [line('RECURRENCE-ID', instantNamed(named, series ?? row, reader), named.length === 10)] : []),
    ];
    const own = row.own?.text ?? '';
    const items = itemsOf(own).filter(({ name }) => !TIMES.has(name));
    const at = items.findIndex(({ name }) => name === 'uid') + 1;
    return componentWith(own, [...items.slice(0, at), ...times, ...items.slice(at)]);
  });
  const { around } = takeApart(text, 'vevent');
  return inside(without(around, 'begin:vtimezone'), texts);
}

const TIMES = new Set(['dtstart', 'dtend', 'duration', 'recurrence-id', 'rrule', 'exrule', 'rdate', 'exdate']);

const instantNamed = (key: string, { zone }: Pick<CalendarEvent, 'zone'>, reader: Zone): number | string =>
  key.length === 10 ? key : instantOf(key, zone ?? reader);

function line(name: string, at: number | string, isDay: boolean): RawItem {
  const day = typeof at === 'string' ? at : new Date(at).toISOString().slice(0, 10);
  const value = isDay
    ? `;VALUE=DATE:${day.replace(/-/g, '')}`
    : `:${(typeof at === 'string' ? `${at}T00:00:00` : new Date(at).toISOString().slice(0, 19)).replace(/[-:]/g, '')}Z`;
  return { name: name.toLowerCase(), raw: `${name}${value}\r\n` };
}

const inside = (around: string, texts: readonly string[]): string =>
  around.replace(/^END:\s*VCALENDAR/im, (end) => texts.map(ended).join('') + end);

const without = (around: string, name: string): string =>
  componentWith(
    around,
    itemsOf(around).filter((item) => item.name !== name),
  );

/** The parts of a component that are wanted; what is in a component that is not named is not there. */
function part(component: string, { props, comps }: Wanted): string {
  const whole = rawLines(component);
  const items = grouped(whole.slice(1, -1)).flatMap((item): RawItem[] => {
    const inner = item.name.startsWith('begin:') ? item.name.slice('begin:'.length) : null;
    if (inner !== null) {
      if (comps === 'all') return [item];
      const wanted = comps.find(({ name }) => name === inner);
      return wanted ? [{ ...item, raw: part(ended(item.raw), wanted) }] : [];
    }
    if (props === 'all') return [item];
    const wanted = props.find(({ name }) => name === item.name);
    if (!wanted) return [];
    return [wanted.noValue ? { ...item, raw: `${unfolded(item.raw).replace(/^((?:[^":]|"[^"]*")*):[^]*$/, '$1:')}\r\n` } : item];
  });
  return componentWith(component, items);
}
