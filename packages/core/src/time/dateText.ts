import { MONTHS, type DateContext, type DateFound, type NotADate, type Reader } from './dateFound';
import { clockOf, gesprocheneUhrzeit, hourOfDay, spokenClock } from './clockWords';
import { libraryDates, PART } from './dateLibrary';
import {
  daysOfMonth,
  dottedDate,
  endOfDayWords,
  endOfStretch,
  monthThenDay,
  ordinalDay,
  weekdayInWeeks,
  weekdayNear,
  weekdayOfMonth,
  weekdayOfWeek,
  shortDays,
  weekdayOrdinal,
  weeks,
  withinStretch,
} from './dateWords';
import { findNotTimes } from './notTimes';
import { addDays, dayOf, isDay, wallOf, type Day, type Instant, type Zone } from './zones';

export { smallNumber, weekdayNamed } from './dateFound';
export type { DateContext, DateFound, Language, NotADate } from './dateFound';

const MONTH_LENGTHS: [RegExp, number][] = [
  [/^f/i, 29],
  [/^(ap|jun|s|n)/i, 30],
  [/./, 31],
];
/** The readers, in order: an earlier one's find hides its words from the later ones. */
const READERS: Reader[] = [
  weekdayInWeeks,
  weekdayOfMonth,
  weekdayOfWeek,
  weekdayNear,
  weekdayOrdinal,
  endOfStretch,
  endOfDayWords,
  dottedDate,
  daysOfMonth,
  monthThenDay,
  ordinalDay,
  withinStretch,
  shortDays,
  weeks,
  spokenClock,
  gesprocheneUhrzeit,
  libraryDates,
];

/** Every date names a number or one of these; most sentences hold neither, and the library is slow to find nothing. */
const MAY_NAME_A_DATE =
  /\d|o['’]clock|halb|viertel|half|uhr\b|tmrw|über|nächst|\b(?:mon|tue|wed|thu|fri|sat|sun|jan|feb|mar|apr|may|jun|jul|aug|sep|o[ck]t|nov|de[cz]|mär|mai|montag|dienstag|mittwoch|donners|freitag|samstag|sonn|today|toni|tomo|now|yester|noon|mid|morning|after|even|night|week|month|year|quarter|day|hour|minute|moment|ago|last|next|this|eod|cob|close|end|heut|morg|über|gest|woche|monat|jahr|tag|stunde|mittag|abend|nacht|jetzt|übermorgen|vorgestern|nächst|letzt)|(?:day|tag|abend|mittag)\b/i;

const DAY_OF_MONTH = new RegExp(`\\b(\\d{1,2})(?:st|nd|rd|th|\\.)?(?: of)? (${MONTHS})\\b(?: \\d{4}\\b)?`, 'gi');
const MONTH_AND_DAY = new RegExp(`\\b(${MONTHS}) (\\d{1,2})(?:st|nd|rd|th)?\\b(?![:\\d])`, 'gi');

/** Spans that look like a calendar date or a clock time but are none. */
export function findNotDates(text: string): NotADate[] {
  const bad: NotADate[] = [];
  if (!/\d/.test(text)) return bad;
  const add = (match: RegExpMatchArray) =>
    bad.push({ start: match.index ?? 0, end: (match.index ?? 0) + match[0].length, text: match[0] });
  const lengthOf = (month: string) => MONTH_LENGTHS.find(([pattern]) => pattern.test(month))?.[1] ?? 31;
  for (const match of text.matchAll(DAY_OF_MONTH)) {
    const year = /\d{4}$/.exec(match[0])?.[0];
    const leapless = year !== undefined && /^f/i.test(match[2] ?? '') && Number(match[1]) === 29 && !isDay(`${year}-02-29`);
    if (Number(match[1]) < 1 || Number(match[1]) > lengthOf(match[2] ?? '') || leapless) add(match);
  }
  for (const match of text.matchAll(MONTH_AND_DAY)) {
    if (Number(match[2]) < 1 || Number(match[2]) > lengthOf(match[1] ?? '')) add(match);
  }
  for (const match of text.matchAll(/\b\d{4}-\d{2}-\d{2}\b/g)) if (!isDay(match[0])) add(match);
  for (const match of text.matchAll(/(?<![\d:.])(\d{1,2}):(\d{2})(?![\d:])/g)) {
    if (Number(match[1]) > 23 || Number(match[2]) > 59) add(match);
  }
  return bad;
}

/** `text` with the given stretches blanked by a letter no reader reads; offsets stay. */
export function mask(text: string, spans: readonly { start: number; end: number }[]): string {
  let masked = text;
  for (const { start, end } of spans) masked = masked.slice(0, start) + '\u241f'.repeat(end - start) + masked.slice(end);
  return masked;
}

/**
 * All dates, times and weeks that a text names, in order.
 * Dates without a year are the coming ones; what is not a date (`31 June`) is left out.
 */
export function findDates(text: string, context: DateContext): DateFound[] {
  const joined = findDateParts(text, context).reduce<DateFound[]>((all, one) => {
    const last = all.at(-1);
    const both = last && joinedWith(last, one, text);
    return both ? [...all.slice(0, -1), both] : [...all, one];
  }, []);
  return joined.map((one) => withSpokenTime(one, text));
}

const BETWEEN = /^,?\s*(?:(?:at|around|um|gegen|on|am)\s+)?$/i;

/** A day and a clock time that stand side by side are one date: "Thursday half past five". */
function joinedWith(one: DateFound, next: DateFound, text: string): DateFound | null {
  const alone = (part: DateFound) => (part.day && !part.time ? 'day' : part.time && !part.day ? 'time' : 'both');
  const kinds = `${alone(one)} ${alone(next)}`;
  if ((kinds !== 'day time' && kinds !== 'time day') || one.endDay || next.endDay) return null;
  if (!BETWEEN.test(text.slice(one.end, next.start))) return null;
  const [day, time] = kinds === 'day time' ? [one, next] : [next, one];
  return {
    ...day,
    time: time.time,
    endTime: time.endTime,
    start: one.start,
    end: next.end,
    text: text.slice(one.start, next.end),
  };
}

/** What {@link findDates} finds, days and times that stand side by side not yet put together. */
export function findDateParts(text: string, { now, zone, language }: DateContext): DateFound[] {
  if (!MAY_NAME_A_DATE.test(text)) return [];
  const today = dayOf(now, zone);
  const clock = wallOf(now, zone).slice(11);
  const all: DateFound[] = [];
  const parts = [...text.matchAll(PART)].map((match) => ({ start: match.index, end: match.index + match[0].length }));
  let rest = mask(text, [...findNotDates(text), ...findNotTimes(text), ...parts]);
  for (const reader of READERS) {
    const more = reader(rest, today, language, clock);
    all.push(...more);
    rest = mask(rest, more);
  }
  return all.sort((a, b) => a.start - b.start);
}

const HOURS = 'one|two|three|four|five|six|seven|eight|nine|ten|eleven|twelve';
const SPOKEN = new RegExp(
  `^(?:,? at|,? (?:let['’]?s )?say(?: at)?|,? sagen wir(?: um)?) (?:(half|a quarter|quarter) (past|to) )?(${HOURS}|\\d{1,2}(?![\\d:]|\\.\\d))(?: o'clock| uhr)?\\b(?! (?:hours?|of\\b|minutes?|${HOURS}))`,
  'i',
);
/** A day with the clock time that is said in words after it: "Thursday at five", "on Friday at half past eight". */
function withSpokenTime(found: DateFound, text: string): DateFound {
  const match = found.day && !found.time ? SPOKEN.exec(text.slice(found.end, found.end + 40)) : null;
  if (!match) return found;
  const [said, part, side, word = ''] = match;
  const hour = /^\d/.test(word) ? Number(word) : HOURS.split('|').indexOf(word.toLowerCase()) + 1;
  if (hour > 23) return found;
  const past = part ? (part.toLowerCase() === 'half' ? 30 : 15) * (side?.toLowerCase() === 'to' ? -1 : 1) : 0;
  const minutes = hourOfDay(hour) * 60 + past;
  return {
    ...found,
    time: clockOf(minutes),
    end: found.end + said.length,
    text: text.slice(found.start, found.end + said.length),
  };
}

/** Day for a bare time: today while it is still ahead, else tomorrow. */
export function dayForTime(time: string, now: Instant, zone: Zone): Day {
  const wall = wallOf(now, zone);
  return time > wall.slice(11) ? wall.slice(0, 10) : addDays(wall.slice(0, 10), 1);
}
