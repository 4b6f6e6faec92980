import ICAL from 'ical.js';
import type { Interval } from '@corvun/core';
import { CalendarError } from './calendarError';
import { calendarOf } from './component';
import { instantSaid } from './times';

const NO_ZONES = new Map<string, never>();
/** So many stretches of one answer are read; nobody has more in two months. */
const MOST = 5000;
const FREE = 'FREE';

const utc = (at: number): string => `${new Date(at).toISOString().slice(0, 19).replace(/[-:]/g, '')}Z`;

/**
 * When somebody is busy, tentatively or not: VFREEBUSY (RFC 5545, 3.6.4 and 3.8.2.6).
 * @returns stretches in order, in milliseconds, ends exclusive
 * @throws CalendarError for what is no iCalendar
 */
export function readFreeBusy(text: string): Interval[] {
  const found = calendarOf(text);
  if (!found) throw new CalendarError('This is no free and busy time: there is no calendar in it.');
  return found.root
    .getAllSubcomponents('vfreebusy')
    .flatMap((one) => one.getAllProperties('freebusy'))
    .filter((one) => String(one.getFirstParameter('fbtype') ?? '').toUpperCase() !== FREE)
    .flatMap(stretchesOf)
    .slice(0, MOST)
    .sort((a, b) => a.start - b.start || a.end - b.end);
}

function stretchesOf(property: ICAL.Property): Interval[] {
  try {
    return property.getValues().flatMap((value: unknown) => {
      if (!(value instanceof ICAL.Period)) return [];
      // Always in UTC (3.8.2.6).
      const [start, end] = [value.start, value.getEnd()].map((time) => instantSaid(property, time, NO_ZONES));
      return start && end && end > start ? [{ start, end }] : [];
    });
  } catch {
    // One line that cannot be read leaves the others.
    return [];
  }
}

/** Busy time without what it is, for a stretch (RFC 4791, 7.10). @param tentative what may yet be free */
export function writeFreeBusy(busy: readonly Interval[], { start, end }: Interval, tentative: readonly Interval[] = []): string {
  const say = (kind: string) => (one: Interval) =>
    `FREEBUSY${kind}:${utc(Math.max(start, one.start))}/${utc(Math.min(end, one.end))}`;
  const lines = [...busy.map(say('')), ...tentative.map(say(';FBTYPE=BUSY-TENTATIVE'))];
  return [
    ...['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//Corvun//Corvun 0.1//EN', 'BEGIN:VFREEBUSY'],
    ...[`DTSTAMP:${utc(start)}`, `DTSTART:${utc(start)}`, `DTEND:${utc(end)}`, ...lines, 'END:VFREEBUSY', 'END:VCALENDAR', ''],
  ].join('\r\n');
}
