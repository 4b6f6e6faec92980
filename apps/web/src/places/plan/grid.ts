import type { AgendaEntry } from '@corvun/contract';
import { minutesBetween, sayClock, wallOf } from '@corvun/core';

/** Height of an hour in the time grid, in pixels. */
export const HOUR = 44;

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

/** Lays entries out side by side where they overlap; each keeps one column from top to bottom. */
export function layOut(entries: readonly AgendaEntry[], day: string, zone: string): Laid[] {
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
