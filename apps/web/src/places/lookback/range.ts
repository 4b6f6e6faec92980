import { addDays, daysBetween, isDay, isWeek, mondayOf, sayDay, weekInReview, weekOf } from '@corvun/core';

/** Days that are looked back on, as they stand in the address. */
export interface Range {
  kind: 'day' | 'week' | 'month' | 'year' | 'chosen';
  from: string;
  to: string;
}

const MONTHS = 12;

const lastOf = (month: string): string => addDays(monthOn(month, 1), -1);

/** The first day of the month that comes so many months later. @param month `2026-08` */
function monthOn(month: string, by: number): string {
  const at = Number(month.slice(0, 4)) * MONTHS + Number(month.slice(5)) - 1 + by;
  return `${String(Math.floor(at / MONTHS)).padStart(4, '0')}-${String((at % MONTHS) + 1).padStart(2, '0')}-01`;
}

const dayRange = (day: string): Range => ({ kind: 'day', from: day, to: day });
const monthRange = (month: string): Range => ({ kind: 'month', from: `${month}-01`, to: lastOf(month) });
const yearRange = (year: string): Range => ({ kind: 'year', from: `${year}-01-01`, to: `${year}-12-31` });
function weekRange(week: string): Range {
  const from = mondayOf(week);
  return { kind: 'week', from, to: addDays(from, 6) };
}

/** The week one looks back on: far into a week that one, else the one before. */
export const firstRange = (today: string): Range => weekRange(weekInReview(today).week);

/** Days by their name: `2026-07-29`, `2026-W31`, `2026-07`, `2026`, `2026-07-01..2026-08-15`; null where it names none. */
export function readRange(text: string): Range | null {
  const [from = '', to] = text.split('..');
  if (to !== undefined) return isDay(from) && isDay(to) && from <= to ? { kind: 'chosen', from, to } : null;
  if (isDay(from)) return dayRange(from);
  if (isWeek(from)) return weekRange(from);
  if (/^\d{4}-(?:0[1-9]|1[0-2])$/.test(from)) return monthRange(from);
  return /^\d{4}$/.test(from) && from >= '1900' ? yearRange(from) : null;
}

export function nameOf({ kind, from, to }: Range): string {
  switch (kind) {
    case 'day':
      return from;
    case 'week':
      return weekOf(from);
    case 'month':
      return from.slice(0, 7);
    case 'year':
      return from.slice(0, 4);
    case 'chosen':
      return `${from}..${to}`;
  }
}

/** The days before or after, as many. */
export function stepped(range: Range, by: 1 | -1): Range {
  switch (range.kind) {
    case 'day':
      return dayRange(addDays(range.from, by));
    case 'week':
      return weekRange(weekOf(addDays(range.from, by * 7)));
    case 'month':
      return monthRange(monthOn(range.from.slice(0, 7), by).slice(0, 7));
    case 'year':
      return yearRange(String(Number(range.from.slice(0, 4)) + by));
    case 'chosen': {
      const days = (daysBetween(range.from, range.to) + 1) * by;
      return { ...range, from: addDays(range.from, days), to: addDays(range.to, days) };
    }
  }
}

/** The same stretch of time in another measure: the one that holds the last of its days that is not still to come. */
export function asKind({ from, to }: Range, kind: Exclude<Range['kind'], 'chosen'>, today: string): Range {
  const day = to <= today ? to : from <= today ? today : from;
  switch (kind) {
    case 'day':
      return dayRange(day);
    case 'week':
      return weekRange(weekOf(day));
    case 'month':
      return monthRange(day.slice(0, 7));
    case 'year':
      return yearRange(day.slice(0, 4));
  }
}

const monthName = new Intl.DateTimeFormat('en', { month: 'long', year: 'numeric', timeZone: 'UTC' });

/** As a heading: `27 Jul – 2 Aug`, `July 2026`. */
export function sayRange({ kind, from, to }: Range, today: string): string {
  if (kind === 'year') return from.slice(0, 4);
  if (kind === 'month') return monthName.format(Date.parse(`${from}T00:00Z`));
  if (from === to) return sayDay(from, today);
  const plain = (day: string) => sayDay(day, today).replace(/^\w+ /, '');
  return `${plain(from)} – ${plain(to)}`;
}
