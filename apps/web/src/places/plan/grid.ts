import type { AgendaEntry, DayInfo } from '@corvun/contract';
import { useSettings } from '../../state/settings';
import { minutesBetween, sayClock, sayMinutes, wallOf } from '@corvun/core';

/** Least and most height of an hour in the time grid, in pixels. */
export const HOURS = { least: 26, most: 110, step: 9 };

/** Height of an hour in the time grid as it is now, in pixels. */
export const useHour = (): number => useSettings((state) => state.plan.hour);
export const hourNow = (): number => useSettings.getState().plan.hour;

export interface Laid {
  entry: AgendaEntry;
  /** Minutes after midnight. */
  from: number;
  to: number;
  column: number;
  columns: number;
}

const clock = (wall: string) => Number(wall.slice(11, 13)) * 60 + Number(wall.slice(14, 16));

/** Minutes after midnight of an instant on a day; clipped to that day. */
export function minuteOn(iso: string, day: string, zone: string): number {
  const wall = wallOf(Date.parse(iso), zone);
  if (wall.slice(0, 10) < day) return 0;
  return wall.slice(0, 10) > day ? 1440 : clock(wall);
}

/** Lays entries out side by side where they overlap; each keeps one column from top to bottom. Quiet time lies behind, whole. */
export function layOut(entries: readonly AgendaEntry[], day: string, zone: string): Laid[] {
  const quiet = entries.filter((entry) => entry.blockKind === 'quiet');
  return [
    ...sideBySide(quiet, day, zone),
    ...sideBySide(
      entries.filter((entry) => entry.blockKind !== 'quiet'),
      day,
      zone,
    ),
  ];
}

function sideBySide(entries: readonly AgendaEntry[], day: string, zone: string): Laid[] {
  const laid = entries
    .filter((entry) => entry.start && entry.end && !entry.allDay && entry.kind !== 'task')
    .map((entry): Laid => ({
      entry,
      from: minuteOn(entry.start ?? '', day, zone),
      to: minuteOn(entry.end ?? '', day, zone),
      column: 0,
      columns: 1,
    }))
    .sort((a, b) => a.from - b.from || b.to - a.to);
  let group: Laid[] = [];
  let groupEnd = -1;
  const close = () => {
    const columns = Math.max(0, ...group.map((one) => one.column)) + 1;
    for (const one of group) one.columns = columns;
    group = [];
  };
  for (const one of laid) {
    if (one.from >= groupEnd) close();
    const taken = new Set(group.filter((other) => other.to > one.from).map((other) => other.column));
    while (taken.has(one.column)) one.column += 1;
    group.push(one);
    groupEnd = Math.max(one.from >= groupEnd ? 0 : groupEnd, one.to);
  }
  close();
  return laid;
}

/** Minutes to the nearest of the steps that were chosen. */
export const snap = (minutes: number, step: number): number => Math.round(minutes / step) * step;

/** `HH:MM` of minutes after midnight. */
export const clockText = (minutes: number): string =>
  sayClock([Math.floor(minutes / 60), minutes % 60].map((part) => String(part).padStart(2, '0')).join(':'));

export const minutesOf = (entry: AgendaEntry): number =>
  entry.start && entry.end && !entry.allDay
    ? minutesBetween(Date.parse(entry.start), Date.parse(entry.end))
    : (entry.minutes ?? 30);

/** What something of so many minutes would meet, put at a minute of a day. */
export interface Shadow {
  /** Titles of what takes that time already; work may lie on quiet time. */
  over: string[];
  /** Minutes that stay of the gap it lies in; null where it does not lie in one. */
  left: number | null;
}

/** @param without what is being moved itself */
export function shadowOf(
  day: DayInfo,
  from: number,
  minutes: number,
  zone: string,
  without: { id: string; start: string | null } | null = null,
): Shadow {
  const to = from + minutes;
  const at = (iso: string) => minuteOn(iso, day.day, zone);
  const meets = (start: string, end: string) => at(start) < to && at(end) > from;
  const isItself = (entry: AgendaEntry) => without !== null && entry.id === without.id && entry.start === without.start;
  const over = day.entries.filter(
    (entry) =>
      !entry.allDay &&
      entry.showAs !== 'free' &&
      entry.blockKind !== 'quiet' &&
      entry.status !== 'CANCELLED' &&
      !isItself(entry) &&
      meets(entry.start ?? '', entry.end ?? ''),
  );
  const gap = day.gaps.find(({ start, end }) => at(start) <= from && at(end) >= to);
  return { over: over.map((entry) => entry.title), left: gap ? at(gap.end) - at(gap.start) - minutes : null };
}

/** A shadow in words: `over Stand-up`, `1 h of the gap stays`. */
export function sayShadow({ over, left }: Shadow): string {
  if (over.length) return `over ${over.length > 2 ? `${over[0]} and ${over.length - 1} more` : over.join(' and ')}`;
  if (left === null) return '';
  return left === 0 ? 'fills the gap' : `${sayMinutes(left)} of the gap stay${left === 60 ? 's' : ''}`;
}

/** Where things of some lengths come to lie, one after the other from a minute of a day on, in what is free; else right behind each other. */
export function inARow(lengths: readonly number[], day: DayInfo, from: number, zone: string): number[] {
  const gaps = day.gaps
    .map(({ start, end }) => ({ start: minuteOn(start, day.day, zone), end: minuteOn(end, day.day, zone) }))
    .sort((a, b) => a.start - b.start);
  let at = from;
  return lengths.map((minutes, index) => {
    const fits = (gap: { start: number; end: number }) => Math.max(gap.start, at) + minutes <= gap.end;
    const gap = index === 0 ? undefined : gaps.find((one) => one.end > at && fits(one));
    const start = gap ? Math.max(gap.start, at) : at;
    at = start + minutes;
    return start;
  });
}
