import * as chrono from 'chrono-node';
import { addDays, dayOf, isDay, mondayOf, weekdayOf, weekOf, wallOf, type Day, type Instant, type Zone } from './zones';

export type Language = 'en' | 'de';

/** A date or time found in running text. Offsets are in characters of that text. */
export interface DateFound {
  start: number;
  end: number;
  text: string;
  /** The day, or null for a bare time or a week. */
  day: Day | null;
  time: string | null;
  endDay: Day | null;
  endTime: string | null;
  /** ISO week, when the words name a week and no day. */
  week: string | null;
}

/** Words that look like a date or time but name none, for example `31 June` or `25:00`. */
export interface NotADate {
  start: number;
  end: number;
  text: string;
}

export interface DateContext {
  /** What "today" and "tomorrow" are counted from. */
  now: Instant;
  zone: Zone;
  language: Language;
}

const MONTHS =
  'jan(?:uary|uar)?|feb(?:ruary|ruar)?|mar(?:ch)?|mär(?:z)?|apr(?:il)?|may|mai|june?|juni|july?|juli|aug(?:ust)?|sept?(?:ember)?|o[ck]t(?:ober)?|nov(?:ember)?|de[cz](?:ember)?';
const MONTH_LENGTHS: [RegExp, number][] = [
  [/^f/i, 29],
  [/^(ap|jun|s|n)/i, 30],
  [/./, 31],
];
const WEEKDAYS: [RegExp, number][] = [
  [/^mo/i, 1],
  [/^(tu|di)/i, 2],
  [/^(we|mi)/i, 3],
  [/^(th|do)/i, 4],
  [/^fr/i, 5],
  [/^sa/i, 6],
  [/^(su|so)/i, 7],
];
const NUMBER_WORDS: Record<string, number> = {
  a: 1,
  an: 1,
  one: 1,
  einer: 1,
  einem: 1,
  two: 2,
  zwei: 2,
  three: 3,
  drei: 3,
  four: 4,
  vier: 4,
  six: 6,
  sechs: 6,
  eight: 8,
  acht: 8,
};

/** A small whole number written as digits or as a word; NaN otherwise. */
export function smallNumber(text: string): number {
  return NUMBER_WORDS[text.toLowerCase()] ?? Number(text);
}

/** ISO weekday of a weekday's name or its beginning, English or German; 0 when it is none. */
export function weekdayNamed(name: string): number {
  return WEEKDAYS.find(([pattern]) => pattern.test(name))?.[1] ?? 0;
}

type Reader = (text: string, today: Day, language: Language, clock: string) => DateFound[];

function found(match: RegExpMatchArray, parts: Partial<DateFound>): DateFound {
  const start = match.index ?? 0;
  const base = { day: null, time: null, endDay: null, endTime: null, week: null };
  return { ...base, ...parts, start, end: start + match[0].length, text: match[0] };
}

function each(text: string, pattern: RegExp, read: (match: RegExpMatchArray) => Partial<DateFound> | null): DateFound[] {
  const all: DateFound[] = [];
  for (const match of text.matchAll(pattern)) {
    const parts = read(match);
    if (parts) all.push(found(match, parts));
  }
  return all;
}

function nextWeekday(today: Day, weekday: number): Day {
  return addDays(today, ((weekday - weekdayOf(today) + 6) % 7) + 1);
}

const WEEKDAY =
  'mon(?:day)?|tue(?:s|sday)?|wed(?:nesday)?|thu(?:rs|rsday)?|fri(?:day)?|sat(?:urday)?|sun(?:day)?|montag|dienstag|mittwoch|donnerstag|freitag|samstag|sonntag';

/** "Thursday in two weeks", "Dienstag in zwei Wochen": the weekday, that many weeks after the coming one's week. */
const weekdayInWeeks: Reader = (text, today) =>
  each(text, new RegExp(`\\b(${WEEKDAY}) in (\\w+) (?:weeks?|wochen?)\\b`, 'gi'), (match) => {
    const weeks = smallNumber(match[2] ?? '');
    if (!(weeks > 0 && weeks < 60)) return null;
    const monday = mondayOf(weekOf(addDays(today, 7 * weeks)));
    return { day: addDays(monday, weekdayNamed(match[1] ?? '') - 1) };
  });

/** "end of next week", "Ende der Woche": its Friday. "end of the month", "end of August": its last day. */
const endOfStretch: Reader = (text, today) => [
  ...each(text, /\b(?:the )?end of (this |the |next )?week\b|\bende (dieser |der |nächster )?woche\b/gi, (match) => {
    const next = /next|nächst/i.test(match[1] ?? match[2] ?? '');
    return { day: addDays(mondayOf(weekOf(addDays(today, next ? 7 : 0))), 4) };
  }),
  ...each(
    text,
    new RegExp(`\\b(?:the )?(?:end of|ende) (this month|the month|next month|(?:des|diesen|nächsten) monats|${MONTHS})\\b`, 'gi'),
    (match) => {
      const word = (match[1] ?? '').toLowerCase();
      let [year, month] = today.split('-').map(Number) as [number, number];
      if (/^(next|nächsten) /.test(word)) month += 1;
      else if (!/month|monats/.test(word)) {
        const named = monthNumber(word);
        if (named < month) year += 1;
        month = named;
      }
      return { day: new Date(Date.UTC(year, month, 0)).toISOString().slice(0, 10) };
    },
  ),
];

/** "end of the day", "close of business", "by tonight's close": today. */
const endOfDayWords: Reader = (text, today) =>
  each(
    text,
    /\b(?:end of (?:the )?day|close of business|cob|eod|ende des tages|heute noch)\b(?:\s+(?:today|tomorrow|on (?:mon|tues|wednes|thurs|fri)day)\b)?/gi,
    (match) => {
      const tail = /(today|tomorrow|on (\w+))$/i.exec(match[0]);
      if (tail && /tomorrow/i.test(tail[0])) return { day: addDays(today, 1) };
      return { day: tail?.[2] ? nextWeekday(today, weekdayNamed(tail[2])) : today };
    },
  );

function monthNumber(name: string): number {
  const starts = [
    /^jan/i,
    /^feb/i,
    /^m[aä]r/i,
    /^apr/i,
    /^ma[yi]/i,
    /^jun/i,
    /^jul/i,
    /^aug/i,
    /^sep/i,
    /^o[ck]t/i,
    /^nov/i,
    /^de[cz]/i,
  ];
  return starts.findIndex((pattern) => pattern.test(name)) + 1;
}

/** "14.8.", "14.08.2026": day before month, as written in much of Europe. */
const dottedDate: Reader = (text, today) =>
  each(text, /(?<![\d.])(\d{1,2})\.(\d{1,2})\.(\d{4}|\d{2}(?!\d))?(?!\d)/g, (match) => {
    const two = (part = '') => part.padStart(2, '0');
    const written = match[3];
    const year = written ? (written.length === 2 ? `20${written}` : written) : today.slice(0, 4);
    const day = `${year}-${two(match[2])}-${two(match[1])}`;
    if (!isDay(day)) return null;
    return { day: !written && day < today ? `${Number(year) + 1}${day.slice(4)}` : day };
  });

/** "the 14th": the coming one. */
const ordinalDay: Reader = (text, today) =>
  each(
    text,
    new RegExp(`\\bthe (\\d{1,2})(?:st|nd|rd|th)\\b(?!\\s+(?:of\\s+)?(?:${MONTHS}|\\w+day\\b)|-| \\w+ing\\b)`, 'gi'),
    (match) => {
      const wanted = Number(match[1]);
      for (let ahead = 0; ahead < 62; ahead += 1) {
        const day = addDays(today, ahead);
        if (Number(day.slice(8)) === wanted) return { day };
      }
      return null;
    },
  );

/** "this week", "next week", "in week 34", "KW 34": a week without a day. A week that is over means next year's. */
const weeks: Reader = (text, today) => [
  ...each(text, /\b(?:(?:in|during|sometime) )?(this|next|last|past|diese|nächste|letzte) (?:week|woche)\b/gi, (match) => ({
    week: weekOf(addDays(today, /this|diese/i.test(match[1] ?? '') ? 0 : /next|nächste/i.test(match[1] ?? '') ? 7 : -7)),
  })),
  ...each(text, /\b(?:in |during )?(?:calendar )?(?:week|kw|kalenderwoche)\s?(\d{1,2})\b(?!\s*(?::|weeks?|%))/gi, (match) => {
    const number = Number(match[1]);
    if (number < 1 || number > 53) return null;
    const thisYear = weekOf(today).slice(0, 4);
    const named = (year: string | number) => `${year}-W${String(number).padStart(2, '0')}`;
    const week = named(thisYear) < weekOf(today) ? named(Number(thisYear) + 1) : named(thisYear);
    return weekOf(mondayOf(week)) === week ? { week } : null;
  }),
];

/** Words the date library reads as dates, but which are common words when they stand alone in lower case. */
const COMMON_WORDS = /^(?:sun|sat|wed|mar|march|may|now|so|mi|do|fr|second)$/;

/** Words of time that name no day: "the minutes", "in the next days". */
const NO_DAY = /^(?:in )?(?:the )?(?:(?:next|coming|last|past|few) ?)*(?:minutes?|seconds?|hours?|days)$/i;

/** Everything the date library finds that names a day or a clock time for certain. */
const libraryDates: Reader = (text, today, language, clock) => {
  const [year, month, day] = today.split('-').map(Number) as [number, number, number];
  const [hour, minute] = clock.split(':').map(Number) as [number, number];
  const reference = new Date(year, month - 1, day, hour, minute);
  const reader = language === 'de' ? chrono.de : chrono.en.GB;
  return reader.parse(text, reference, { forwardDate: true }).flatMap((result): DateFound[] => {
    const { start, end } = result;
    const named = start.isCertain('day') || start.isCertain('weekday');
    const timed = start.isCertain('hour');
    if ((!named && !timed) || COMMON_WORDS.test(result.text) || NO_DAY.test(result.text) || /^\d+$/.test(result.text)) return [];
    const dayOfPart = (part: chrono.ParsedComponents) =>
      [part.get('year'), part.get('month'), part.get('day')].map((n) => String(n).padStart(2, '0')).join('-');
    const timeOfPart = (part: chrono.ParsedComponents) =>
      part.isCertain('hour')
        ? `${String(part.get('hour')).padStart(2, '0')}:${String(part.get('minute') ?? 0).padStart(2, '0')}`
        : null;
    let first = named ? dayOfPart(start) : null;
    // Said on a Monday, "Monday" is the coming one: today would be called today.
    const comes = first === today && start.isCertain('weekday') && !start.isCertain('day') ? 7 : 0;
    if (first) first = addDays(first, comes);
    const lastDay = end && named && dayOfPart(end) !== dayOfPart(start) ? addDays(dayOfPart(end), comes) : null;
    return [
      {
        start: result.index,
        end: result.index + result.text.length,
        text: result.text,
        day: first,
        time: timeOfPart(start),
        endDay: lastDay,
        endTime: end ? timeOfPart(end) : null,
        week: null,
      },
    ];
  });
};

/** The readers, in order: an earlier one's find hides its words from the later ones. */
const READERS: Reader[] = [weekdayInWeeks, endOfStretch, endOfDayWords, dottedDate, ordinalDay, weeks, libraryDates];

/** Every date names a number or one of these; most sentences hold neither, and the library is slow to find nothing. */
const MAY_NAME_A_DATE =
  /\d|über|nächst|\b(?:mon|tue|wed|thu|fri|sat|sun|jan|feb|mar|apr|may|jun|jul|aug|sep|o[ck]t|nov|de[cz]|mär|mai|montag|dienstag|mittwoch|donners|freitag|samstag|sonn|today|toni|tomo|now|yester|noon|mid|morning|after|even|night|week|month|year|quarter|day|hour|minute|moment|ago|last|next|this|eod|cob|close|end|heut|morg|über|gest|woche|monat|jahr|tag|stunde|mittag|abend|nacht|jetzt|übermorgen|vorgestern|nächst|letzt)|(?:day|tag|abend|mittag)\b/i;

/** Spans that look like a calendar date or a clock time but are none. */
export function findNotDates(text: string): NotADate[] {
  const bad: NotADate[] = [];
  const add = (match: RegExpMatchArray) =>
    bad.push({ start: match.index ?? 0, end: (match.index ?? 0) + match[0].length, text: match[0] });
  const lengthOf = (month: string) => MONTH_LENGTHS.find(([pattern]) => pattern.test(month))?.[1] ?? 31;
  for (const match of text.matchAll(
    new RegExp(`\\b(\\d{1,2})(?:st|nd|rd|th|\\.)?(?: of)? (${MONTHS})\\b(?: \\d{4}\\b)?`, 'gi'),
  )) {
    const year = /\d{4}$/.exec(match[0])?.[0];
    const leapless = year !== undefined && /^f/i.test(match[2] ?? '') && Number(match[1]) === 29 && !isDay(`${year}-02-29`);
    if (Number(match[1]) < 1 || Number(match[1]) > lengthOf(match[2] ?? '') || leapless) add(match);
  }
  for (const match of text.matchAll(new RegExp(`\\b(${MONTHS}) (\\d{1,2})(?:st|nd|rd|th)?\\b(?![:\\d])`, 'gi'))) {
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
export function findDates(text: string, { now, zone, language }: DateContext): DateFound[] {
  if (!MAY_NAME_A_DATE.test(text)) return [];
  const today = dayOf(now, zone);
  const clock = wallOf(now, zone).slice(11);
  const all: DateFound[] = [];
  let rest = mask(text, findNotDates(text));
  for (const reader of READERS) {
    const more = reader(rest, today, language, clock);
    all.push(...more);
    rest = mask(rest, more);
  }
  return all.sort((a, b) => a.start - b.start);
}

/** Day for a bare time: today while it is still ahead, else tomorrow. */
export function dayForTime(time: string, now: Instant, zone: Zone): Day {
  const wall = wallOf(now, zone);
  return time > wall.slice(11) ? wall.slice(0, 10) : addDays(wall.slice(0, 10), 1);
}
