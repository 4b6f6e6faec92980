import { intersect, type Interval } from './intervals';
import { addDays, dayOf, instantOf, weekdayOf, type Day, type Instant, type Zone } from './zones';

/** Working hours by ISO weekday (1 Monday … 7 Sunday), each a list of `HH:MM-HH:MM`. A day not named has none. */
export type WorkingHours = Record<number, string[]>;

const SPAN = /^(\d{1,2}):(\d{2})-(\d{1,2}):(\d{2})$/;

/** A wrong text for hours, days or a stretch of time; `message` is a sentence for the user. */
export class HoursError extends Error {
  readonly code = 'bad-hours';
}

/** Checks one `HH:MM-HH:MM`; returns it with leading zeros. @throws HoursError */
export function readHours(text: string): string {
  const match = SPAN.exec(text.trim());
  if (!match) throw new HoursError(`"${text}" is not a stretch of working hours; write it like 09:00-17:30.`);
  const [from, to] = [
    [match[1], match[2]],
    [match[3], match[4]],
  ].map(([h, m]) => Number(h) * 60 + Number(m));
  if (from === undefined || to === undefined || Number(match[2]) > 59 || Number(match[4]) > 59 || to > 1440 || from >= to) {
    throw new HoursError(`"${text}" is not a stretch of working hours: the end must come after the start, within one day.`);
  }
  const pad = (minutes: number) =>
    `${String(Math.floor(minutes / 60)).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}`;
  return `${pad(from)}-${pad(to)}`;
}

/** Weekdays from `1-5`, `1,3,5` or `6-7`. @throws HoursError */
export function readWeekdays(text: string): number[] {
  const days = new Set<number>();
  for (const part of text.split(',')) {
    const match = /^\s*([1-7])(?:-([1-7]))?\s*$/.exec(part);
    if (!match) throw new HoursError(`"${text}" does not name weekdays; write 1-5 for Monday to Friday.`);
    for (let day = Number(match[1]); day <= Number(match[2] ?? match[1]); day += 1) days.add(day);
  }
  return [...days].sort();
}

/** Working time of one day, as instants; exact on days on which the clock changes. */
export function workingTimeOf(day: Day, hours: WorkingHours, zone: Zone): Interval[] {
  return (hours[weekdayOf(day)] ?? []).map((span) => {
    const [from = '', to = ''] = readHours(span).split('-');
    const end = to === '24:00' ? instantOf(`${addDays(day, 1)}T00:00`, zone) : instantOf(`${day}T${to}`, zone);
    return { start: instantOf(`${day}T${from}`, zone), end };
  });
}

/** Working time between two instants, in order. */
export function workingTime(from: Instant, to: Instant, hours: WorkingHours, zone: Zone): Interval[] {
  const all: Interval[] = [];
  for (let day = dayOf(from, zone); ; day = addDays(day, 1)) {
    const ofDay = workingTimeOf(day, hours, zone);
    all.push(...ofDay);
    if (instantOf(`${day}T00:00`, zone) >= to) break;
  }
  return intersect(all, [{ start: from, end: to }]);
}
