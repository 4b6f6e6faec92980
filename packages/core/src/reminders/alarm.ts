import { readSigned } from '../calendar/duration';
import { count, sayClock, sayMinutes, sayMoment } from '../text/say';
import { findDurations } from '../time/durationText';
import { addDays, instantOf, parseIso, wallOf, type Instant, type Zone } from '../time/zones';

/** An alarm of an event or task (RFC 5545, 3.6.6). */
export interface Alarm {
  action: 'DISPLAY' | 'EMAIL' | 'AUDIO';
  /** TRIGGER as it is written: a duration, `-PT15M`, or an instant in UTC, `20260803T090000Z`. */
  trigger: string;
  /** What a duration is counted from. */
  related: 'START' | 'END';
}

/** More of one event are left out. */
export const MOST_ALARMS = 10;
const INSTANT = /^(\d{4})(\d{2})(\d{2})T(\d{2})(\d{2})(\d{2})Z$/;
const DAY = 1440;
/** Furthest before, in days. */
const FURTHEST = 366;

/** Whether a text is a trigger: a duration of at most a year, or an instant in UTC. */
export function isTrigger(text: string): boolean {
  if (INSTANT.test(text)) return Number.isFinite(instantIn(text));
  const read = /\d/.test(text) ? readSigned(text) : null;
  return read !== null && read.days + read.time / 86_400_000 <= FURTHEST;
}

function instantIn(trigger: string): Instant {
  const [, year, month, day, hour, minute, second] = INSTANT.exec(trigger) ?? [];
  return parseIso(`${year}-${month}-${day}T${hour}:${minute}:${second}Z`, 'UTC');
}

/**
 * When an alarm of an occurrence is due; null where its trigger cannot be read. Days of a duration are those of the
 * calendar: a day before is at the same hour, also where clocks change in between.
 * @param zone the zone of the event, or of whoever reads it
 */
export function alarmAt(
  { trigger, related }: Pick<Alarm, 'trigger' | 'related'>,
  { start, end }: { start: Instant; end: Instant },
  zone: Zone,
): Instant | null {
  if (INSTANT.test(trigger)) return instantIn(trigger);
  const read = readSigned(trigger);
  if (!read) return null;
  const from = related === 'END' ? end : start;
  const sign = read.back ? -1 : 1;
  const wall = wallOf(from, zone);
  const day = read.days
    ? instantOf(`${addDays(wall.slice(0, 10), sign * read.days)}${wall.slice(10)}`, zone) + (from % 60_000)
    : from;
  return day + sign * read.time;
}

const written = (minutes: number): string => {
  const [days, rest] = [Math.floor(minutes / DAY), minutes % DAY];
  const [hours, left] = [Math.floor(rest / 60), rest % 60];
  return `P${days ? `${days}D` : ''}${rest || !days ? `T${hours ? `${hours}H` : ''}${left || !hours ? `${left}M` : ''}` : ''}`;
};

const display = (trigger: string): Alarm => ({ action: 'DISPLAY', trigger, related: 'START' });
/** So many minutes before the start; after it where they are less than none. */
const before = (minutes: number): Alarm => display(minutes > 0 ? `-${written(minutes)}` : written(-minutes));

const NONE = /^(?:none|no|never|off)$/i;
const AT_START = /^(?:at (?:the|its) (?:start|beginning)|when it (?:starts|begins)|on time)$/i;
const ON_DAY = /^(?:on the day|(?:the |a |(\d{1,3}) )days? (before|after))(?:,? at)? (\d{1,2})(?:[:.](\d{2}))?\s*(am|pm)?$/i;

/**
 * Reminders in words: `10 min before`, `1 h and 10 min`, `at the start`, `the day before at 18:00`, `none`.
 * @returns null where one of them is not understood
 */
export function readAlarms(text: string): Alarm[] | null {
  const words = text.trim();
  if (NONE.test(words)) return [];
  const parts = words.split(/\s*(?:;|,(?! at)|\band\b)\s*/i).filter(Boolean);
  if (!parts.length || parts.length > MOST_ALARMS) return null;
  const read = parts.map(oneOf);
  return read.every((one) => one !== null) ? read : null;
}

function oneOf(words: string): Alarm | null {
  if (AT_START.test(words)) return display('PT0M');
  const day = ON_DAY.exec(words);
  if (day) {
    const [, number, side, hour = '', minute = '00', half] = day;
    const hours = half ? (Number(hour) % 12) + (/pm/i.test(half) ? 12 : 0) : Number(hour);
    const days = side ? Number(number ?? 1) * (/after/i.test(side) ? -1 : 1) : 0;
    return hours > 23 || Number(minute) > 59 ? null : before(days * DAY - hours * 60 - Number(minute));
  }
  const [, long = '', after] = /^(.*?)\s*(?:\b(before|after)\b.*)?$/i.exec(words) ?? [];
  const minutes = lengthOf(long);
  return minutes === null || minutes > FURTHEST * DAY ? null : before(after?.toLowerCase() === 'after' ? -minutes : minutes);
}

/** `2 days`, `1 day 2 h`, `a week`, `45 min`, or a bare number of minutes; null for what is none of them. */
function lengthOf(text: string): number | null {
  const [whole, count, unit = '', rest = ''] = /^(?:an? |(\d{1,3}) )(day|week)s?\b ?(.*)$/i.exec(text) ?? [];
  const days = whole ? Number(count ?? 1) * (/week/i.test(unit) ? 7 : 1) * DAY : 0;
  const left = whole ? rest : text;
  if (whole && !left) return days;
  if (/^\d{1,4}$/.test(left)) return days + Number(left);
  const [found, more] = findDurations(left);
  return found && !more && found.start === 0 && found.end === left.length ? days + found.minutes : null;
}

/** Minutes before the start; null where it is counted from elsewhere. */
function minutesBefore({ trigger, related }: Alarm): number | null {
  const read = related === 'START' ? readSigned(trigger) : null;
  return read && (read.back ? 1 : -1) * (read.days * DAY + read.time / 60_000);
}

function sayLong(minutes: number): string {
  const [days, rest] = [Math.floor(minutes / DAY), minutes % DAY];
  return [days ? count(days, 'day') : '', rest || !days ? sayMinutes(rest) : ''].filter(Boolean).join(' ');
}

/** @param allDay counted from the midnight its first day begins with */
function sayOne(alarm: Alarm, allDay: boolean, zone: Zone): string {
  const minutes = minutesBefore(alarm);
  if (minutes === null) {
    const at = INSTANT.test(alarm.trigger) ? wallOf(instantIn(alarm.trigger), zone) : null;
    return at ? sayMoment(at, at.slice(0, 10)) : 'around its end';
  }
  if (allDay) {
    const days = Math.ceil(minutes / DAY);
    const left = days * DAY - minutes;
    const clock = sayClock(`${String(Math.floor(left / 60)).padStart(2, '0')}:${String(Math.floor(left % 60)).padStart(2, '0')}`);
    const far = Math.abs(days) === 1 ? 'the day' : `${Math.abs(days)} days`;
    return `${days === 0 ? 'on the day' : `${far} ${days > 0 ? 'before' : 'after'}`} at ${clock}`;
  }
  if (minutes === 0) return 'at the start';
  return minutes > 0 ? `${sayLong(minutes)} before` : `${sayLong(-minutes)} after the start`;
}

/** Reminders in words, as `readAlarms` reads them. */
export const sayAlarms = (alarms: readonly Alarm[], allDay: boolean, zone: Zone): string =>
  alarms.length ? alarms.map((one) => sayOne(one, allDay, zone)).join(' and ') : 'none';
