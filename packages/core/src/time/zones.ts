import { DateTime } from 'luxon';
import { PosixZone } from './posixZone';
import { SteadyZone } from './steadyZone';

/** A moment as milliseconds since 1970-01-01T00:00Z. */
export type Instant = number;
/** A floating calendar day, `YYYY-MM-DD`. */
export type Day = string;
/** A wall-clock time without zone, `YYYY-MM-DDTHH:MM`. */
export type Wall = string;
/** An IANA zone name, for example `Europe/Vienna`, or a zone given by its rules; see `PosixZone`. */
export type Zone = string;

export const MINUTE = 60_000;

/** UTC stays a name: it is written with a Z, and every other zone with its offset. */
const known = (zone: Zone): Zone | PosixZone | SteadyZone =>
  /^(?:utc|gmt)$/i.test(zone) ? zone : ((zone.startsWith('<') ? PosixZone.of(zone) : SteadyZone.of(zone)) ?? zone);

/** Whether `zone` is a zone name this machine knows. */
export function isZone(zone: string): boolean {
  return DateTime.utc().setZone(zone).isValid;
}

/**
 * Instant of a wall-clock time in a zone. A time skipped by a daylight-saving change moves forward by
 * the size of the gap; one that happens twice is the first of the two (RFC 5545, 3.3.5).
 * @throws RangeError when the text is no date-time or the zone is unknown.
 */
export function instantOf(wall: Wall, zone: Zone): Instant {
  const moment = DateTime.fromISO(wall, { zone: known(zone) });
  if (!moment.isValid) throw new RangeError(`"${wall}" in ${zone} is not a time: ${moment.invalidExplanation ?? ''}`);
  return Math.min(...moment.getPossibleOffsets().map((one) => one.toMillis()));
}

/** Wall-clock time of an instant in a zone, to the minute. */
export function wallOf(instant: Instant, zone: Zone): Wall {
  return DateTime.fromMillis(instant, { zone: known(zone) }).toFormat("yyyy-MM-dd'T'HH:mm");
}

/** Day on which an instant falls in a zone. */
export function dayOf(instant: Instant, zone: Zone): Day {
  return DateTime.fromMillis(instant, { zone: known(zone) }).toFormat('yyyy-MM-dd');
}

/** ISO 8601 with seconds and the zone's offset, for example `2026-08-03T09:00:00+02:00`. */
export function isoInZone(instant: Instant, zone: Zone): string {
  return DateTime.fromMillis(instant, { zone: known(zone) }).toISO({ suppressMilliseconds: true }) ?? '';
}

/** Instant of an ISO 8601 text; a text without offset is read in `zone`. NaN when it is no time. */
export function parseIso(text: string, zone: Zone): Instant {
  const moment = DateTime.fromISO(text, { zone: known(zone) });
  return moment.isValid ? moment.toMillis() : Number.NaN;
}

/** First instant of a day in a zone (not always 00:00: some zones change at midnight). */
export function startOfDay(day: Day, zone: Zone): Instant {
  return DateTime.fromISO(day, { zone: known(zone) })
    .startOf('day')
    .toMillis();
}

/** First instant after a day in a zone. */
export function endOfDay(day: Day, zone: Zone): Instant {
  return startOfDay(addDays(day, 1), zone);
}

/** The day `count` days later (or earlier, when negative). */
export function addDays(day: Day, count: number): Day {
  return DateTime.fromISO(day, { zone: 'utc' }).plus({ days: count }).toFormat('yyyy-MM-dd');
}

/** Whole days from one day to another. */
export function daysBetween(from: Day, to: Day): number {
  return Math.round((Date.parse(`${to}T00:00Z`) - Date.parse(`${from}T00:00Z`)) / 86_400_000);
}

/** ISO weekday of a day: 1 is Monday, 7 is Sunday. */
export function weekdayOf(day: Day): number {
  return DateTime.fromISO(day, { zone: 'utc' }).weekday;
}

/** Whether the text is a day that exists in the calendar. */
export function isDay(text: string): boolean {
  return /^\d{4}-\d{2}-\d{2}$/.test(text) && DateTime.fromISO(text, { zone: 'utc' }).isValid;
}

/** ISO week of a day, `YYYY-Www`. */
export function weekOf(day: Day): string {
  return DateTime.fromISO(day, { zone: 'utc' }).toFormat("kkkk-'W'WW");
}

/** Whether the text is an ISO week that exists. */
export function isWeek(text: string): boolean {
  return /^\d{4}-W\d{2}$/.test(text) && DateTime.fromISO(text, { zone: 'utc' }).isValid;
}

/** Monday of an ISO week. */
export function mondayOf(week: string): Day {
  return DateTime.fromISO(week, { zone: 'utc' }).toFormat('yyyy-MM-dd');
}

/** The days from `from` on, `count` of them. */
export function daysFrom(from: Day, count: number): Day[] {
  return Array.from({ length: count }, (_, index) => addDays(from, index));
}
