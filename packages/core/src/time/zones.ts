import { DateTime } from 'luxon';
import { ListedZone } from './listedZone';
import { PosixZone } from './posixZone';
import { SteadyZone } from './steadyZone';

/** A moment as milliseconds since 1970-01-01T00:00Z. */
export type Instant = number;
/** A floating calendar day, `YYYY-MM-DD`. */
export type Day = string;
/** A wall-clock time without zone, `YYYY-MM-DDTHH:MM`. */
export type Wall = string;
/** An IANA zone name, for example `Europe/Vienna`, or a zone given by its rules or its changes; see `PosixZone`, `ListedZone`. */
export type Zone = string;

export const MINUTE = 60_000;

/** Whole minutes from one instant to another, both in milliseconds. */
export const minutesBetween = (start: number, end: number): number => Math.round((end - start) / MINUTE);

/** What a zone can say of a moment: minutes ahead of UTC. */
interface Offsets {
  offset(instant: Instant): number;
  /** It never changes. */
  isUniversal: boolean;
}

/** UTC stays a name: it is written with a Z, and every other zone with its offset. */
const known = (zone: Zone): Zone | PosixZone | ListedZone | SteadyZone =>
  /^(?:utc|gmt)$/i.test(zone)
    ? zone
    : ((zone.startsWith('<') ? (PosixZone.of(zone) ?? ListedZone.of(zone)) : SteadyZone.of(zone)) ?? zone);

const UTC: Offsets = { offset: () => 0, isUniversal: true };
const offsets = new Map<Zone, Offsets | null>();

/** The offsets of a zone, looked up by its name once; null where only the library can say. */
function offsetsOf(zone: Zone): Offsets | null {
  let found = offsets.get(zone);
  if (found === undefined) {
    const one = known(zone);
    found = typeof one !== 'string' ? one : /^(?:utc|gmt)$/i.test(zone) ? UTC : fixedOf(zone);
    if (offsets.size > 2000) offsets.clear();
    offsets.set(zone, found);
  }
  return found;
}

/** A zone that is an offset alone, as mail headers give it: `UTC+2`. */
function fixedOf(zone: Zone): Offsets | null {
  const there = DateTime.utc().setZone(zone);
  return there.isValid ? there.zone : null;
}

/** Whether `zone` is a zone name this machine knows. */
export function isZone(zone: string): boolean {
  return !zone.startsWith('<') && offsetsOf(zone) !== null;
}

const WALL = /^(\d{4})-(\d{2})-(\d{2})T(\d{2}):(\d{2})$/;
const DAY = 86_400_000;
/** The years that are written with four digits, but for the first century, which numbers alone do not reach. */
const FIRST = Date.UTC(100, 0, 1);
const LAST = Date.UTC(9998, 11, 31);

/** A wall-clock time as the instant it would be in UTC; NaN for one that is none, or written in another way. */
function asIfUtc(wall: string): number {
  const parts = WALL.exec(wall);
  if (!parts) return Number.NaN;
  const [year, month, day, hour, minute] = [
    Number(parts[1]),
    Number(parts[2]),
    Number(parts[3]),
    Number(parts[4]),
    Number(parts[5]),
  ];
  if (year < 100 || month < 1 || month > 12 || day < 1 || hour > 23 || minute > 59) return Number.NaN;
  const utc = Date.UTC(year, month - 1, day, hour, minute);
  // The 31st of a month of thirty days would be the first of the next.
  return utc <= LAST && (day < 29 || new Date(utc).getUTCDate() === day) ? utc : Number.NaN;
}

/**
 * Instant of a wall-clock time in a zone. A time skipped by a daylight-saving change moves forward by
 * the size of the gap; one that happens twice is the first of the two (RFC 5545, 3.3.5).
 * @throws RangeError when the text is no date-time or the zone is unknown.
 */
export function instantOf(wall: Wall, zone: Zone): Instant {
  const utc = asIfUtc(wall);
  const there = Number.isNaN(utc) ? null : offsetsOf(zone);
  if (there) return firstOf(utc, there);
  const moment = DateTime.fromISO(wall, { zone: known(zone) });
  if (!moment.isValid) throw new RangeError(`"${wall}" in ${zone} is not a time: ${moment.invalidExplanation ?? ''}`);
  return Math.min(...moment.getPossibleOffsets().map((one) => one.toMillis()));
}

/** No zone is more than a day from UTC, so the offsets a day before and a day after are those the wall clock can show. */
function firstOf(utc: number, zone: Offsets): Instant {
  const [before, after] = [zone.offset(utc - DAY), zone.offset(utc + DAY)];
  const early = utc - Math.max(before, after) * MINUTE;
  if (before === after || zone.offset(early) === Math.max(before, after)) return early;
  // Either it is past the change, or the clock skips it.
  const late = utc - Math.min(before, after) * MINUTE;
  return zone.offset(late) === Math.min(before, after) ? late : utc - before * MINUTE;
}

/** The wall clock of an instant, as ISO 8601 without a zone; null where only the library can say. */
function clockAt(instant: Instant, zone: Zone): string | null {
  const there = instant >= FIRST + DAY && instant <= LAST - DAY ? offsetsOf(zone) : null;
  return there ? new Date(instant + there.offset(instant) * MINUTE).toISOString() : null;
}

/** Wall-clock time of an instant in a zone, to the minute. */
export function wallOf(instant: Instant, zone: Zone): Wall {
  return (
    clockAt(instant, zone)?.slice(0, 16) ?? DateTime.fromMillis(instant, { zone: known(zone) }).toFormat("yyyy-MM-dd'T'HH:mm")
  );
}

/** Day on which an instant falls in a zone. */
export function dayOf(instant: Instant, zone: Zone): Day {
  return clockAt(instant, zone)?.slice(0, 10) ?? DateTime.fromMillis(instant, { zone: known(zone) }).toFormat('yyyy-MM-dd');
}

/** ISO 8601 with seconds and the zone's offset, for example `2026-08-03T09:00:00+02:00`. */
export function isoInZone(instant: Instant, zone: Zone): string {
  const there = instant >= FIRST + DAY && instant <= LAST - DAY && Number.isInteger(instant) ? offsetsOf(zone) : null;
  const offset = there?.offset(instant) ?? Number.NaN;
  if (!there || !Number.isInteger(offset))
    return DateTime.fromMillis(instant, { zone: known(zone) }).toISO({ suppressMilliseconds: true }) ?? '';
  const clock = new Date(instant + offset * MINUTE).toISOString();
  return `${clock.slice(0, instant % 1000 === 0 ? 19 : 23)}${offset === 0 && there.isUniversal ? 'Z' : offsetText(offset)}`;
}

function offsetText(offset: number): string {
  const minutes = Math.abs(offset);
  const two = (number: number) => String(number).padStart(2, '0');
  return `${offset < 0 ? '-' : '+'}${two(Math.floor(minutes / 60))}:${two(minutes % 60)}`;
}

/** Instant of an ISO 8601 text; a text without offset is read in `zone`. NaN when it is no time. */
export function parseIso(text: string, zone: Zone): Instant {
  const moment = DateTime.fromISO(text, { zone: known(zone) });
  return moment.isValid ? moment.toMillis() : Number.NaN;
}

/** First instant of a day in a zone (not always 00:00: some zones change at midnight). */
export function startOfDay(day: Day, zone: Zone): Instant {
  const utc = asIfUtc(`${day}T00:00`);
  const there = Number.isNaN(utc) ? null : offsetsOf(zone);
  return there
    ? firstOf(utc, there)
    : DateTime.fromISO(day, { zone: known(zone) })
        .startOf('day')
        .toMillis();
}

/** First instant after a day in a zone. */
export function endOfDay(day: Day, zone: Zone): Instant {
  return startOfDay(addDays(day, 1), zone);
}

/** The day `count` days later (or earlier, when negative). */
export function addDays(day: Day, count: number): Day {
  const utc = asIfUtc(`${day}T00:00`) + count * DAY;
  if (utc >= FIRST && utc <= LAST) return new Date(utc).toISOString().slice(0, 10);
  return DateTime.fromISO(day, { zone: 'utc' }).plus({ days: count }).toFormat('yyyy-MM-dd');
}

/** Whole days from one day to another. */
export function daysBetween(from: Day, to: Day): number {
  return Math.round((Date.parse(`${to}T00:00Z`) - Date.parse(`${from}T00:00Z`)) / 86_400_000);
}

/** ISO weekday of a day: 1 is Monday, 7 is Sunday. */
export function weekdayOf(day: Day): number {
  const utc = asIfUtc(`${day}T00:00`);
  return Number.isNaN(utc) ? DateTime.fromISO(day, { zone: 'utc' }).weekday : ((new Date(utc).getUTCDay() + 6) % 7) + 1;
}

/** Whether the text is a day that exists in the calendar. */
export function isDay(text: string): boolean {
  return (
    /^\d{4}-\d{2}-\d{2}$/.test(text) &&
    (!Number.isNaN(asIfUtc(`${text}T00:00`)) || DateTime.fromISO(text, { zone: 'utc' }).isValid)
  );
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
