import { isRule } from '../calendar/rule';
import { parseLine } from '../capture/parseLine';
import { dayForTime, findDates, type DateFound } from '../time/dateText';
import { findDurations } from '../time/durationText';
import { isDay, isWeek, weekOf, dayOf, type Day, type Instant, type Zone } from '../time/zones';

/** What “today” is counted from, and where. */
export interface FieldContext {
  now: Instant;
  zone: Zone;
}

const LONGEST = 6000;

function dateIn(text: string, context: FieldContext): DateFound | null {
  for (const language of ['en', 'de'] as const) {
    const [found] = findDates(text, { ...context, language });
    if (found) return found;
  }
  return null;
}

/** A day in words, `Fri`, `14 Aug`, `2026-08-14`; null where they name none. */
export function readDay(text: string, context: FieldContext): Day | null {
  const words = text.trim();
  return isDay(words) ? words : (dateIn(words, context)?.day ?? null);
}

/** The day or the week in which something is to be done; null where the words name neither. */
export function readWhen(text: string, context: FieldContext): { plannedDay: Day | null; plannedWeek: string | null } | null {
  const words = text.trim();
  if (isWeek(words)) return { plannedDay: null, plannedWeek: words };
  const day = isDay(words) ? words : null;
  const found = day ? null : dateIn(words, context);
  if (found?.week) return { plannedDay: null, plannedWeek: found.week };
  const plannedDay = day ?? found?.day ?? null;
  if (plannedDay) return { plannedDay, plannedWeek: null };
  return /^any day$/i.test(words) ? { plannedDay: null, plannedWeek: weekOf(dayOf(context.now, context.zone)) } : null;
}

/** A deadline: `Fri`, `31 August 12:00`, `due Monday`. `fixed` is null where the words do not say it. */
export function readDeadline(text: string, context: FieldContext): { deadline: string; fixed: boolean | null } | null {
  const words = text.trim();
  if (/^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}$/.test(words) && isDay(words.slice(0, 10))) return { deadline: words, fixed: null };
  const day = readDay(words, context);
  const found = dateIn(words, context);
  const fixed = /\b(?:due|fixed)\b/i.test(words) ? true : /\bflexible\b/i.test(words) ? false : null;
  if (day) return { deadline: found?.time ? `${day}T${found.time}` : day, fixed };
  return found?.time ? { deadline: `${dayForTime(found.time, context.now, context.zone)}T${found.time}`, fixed } : null;
}

/** A day with a time, for a reminder; without a time it is nine o’clock. */
export function readMoment(text: string, context: FieldContext): string | null {
  const read = readDeadline(text, context);
  return read && (read.deadline.length > 10 ? read.deadline : `${read.deadline}T09:00`);
}

/** How long, in minutes: `1 h 30`, `45 min`, or a bare number of minutes. */
export function readLength(text: string): number | null {
  const words = text.trim();
  const minutes = /^\d{1,4}$/.test(words) ? Number(words) : findDurations(words)[0]?.minutes;
  return minutes !== undefined && minutes > 0 && minutes <= LONGEST ? minutes : null;
}

/** A repeat rule in words, `every other Tuesday`, or as it is (RFC 5545, 3.3.10); null where other words are left. */
export function readRepeat(text: string, context: FieldContext): string | null {
  const words = text.trim();
  if (/^(?:RRULE:)?FREQ=/i.test(words)) return isRule(words) ? words.toUpperCase().replace(/^RRULE:/, '') : null;
  const { repeat, title } = parseLine(words, context);
  return title ? null : repeat;
}
