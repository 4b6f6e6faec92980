import { addDays, weekdayOf, type Day, type Instant, type Zone } from './zones';

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

/** One way of saying a date. */
export type Reader = (text: string, today: Day, language: Language, clock: string) => DateFound[];

export const MONTHS =
  'jan(?:uary|uar)?|feb(?:ruary|ruar)?|mar(?:ch)?|mär(?:z)?|apr(?:il)?|may|mai|june?|juni|july?|juli|aug(?:ust)?|sept?(?:ember)?|o[ck]t(?:ober)?|nov(?:ember)?|de[cz](?:ember)?';
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
  eine: 1,
  einer: 1,
  eines: 1,
  einem: 1,
  two: 2,
  zwei: 2,
  three: 3,
  drei: 3,
  four: 4,
  vier: 4,
  five: 5,
  fünf: 5,
  six: 6,
  sechs: 6,
  seven: 7,
  sieben: 7,
  eight: 8,
  acht: 8,
  ten: 10,
  zehn: 10,
  fourteen: 14,
  vierzehn: 14,
};

/** A small whole number written as digits or as a word; NaN otherwise. */
export function smallNumber(text: string): number {
  return NUMBER_WORDS[text.toLowerCase()] ?? Number(text);
}

/** ISO weekday of a weekday's name or its beginning, English or German; 0 when it is none. */
export function weekdayNamed(name: string): number {
  return WEEKDAYS.find(([pattern]) => pattern.test(name))?.[1] ?? 0;
}

export function found(match: RegExpMatchArray, parts: Partial<DateFound>): DateFound {
  const start = match.index ?? 0;
  const base = { day: null, time: null, endDay: null, endTime: null, week: null };
  return { ...base, ...parts, start, end: start + match[0].length, text: match[0] };
}

export function each(text: string, pattern: RegExp, read: (match: RegExpMatchArray) => Partial<DateFound> | null): DateFound[] {
  const all: DateFound[] = [];
  for (const match of text.matchAll(pattern)) {
    const parts = read(match);
    if (parts) all.push(found(match, parts));
  }
  return all;
}

export function nextWeekday(today: Day, weekday: number): Day {
  return addDays(today, ((weekday - weekdayOf(today) + 6) % 7) + 1);
}

export const WEEKDAY =
  'mon(?:day)?|tue(?:s|sday)?|wed(?:nesday)?|thu(?:rs|rsday)?|fri(?:day)?|sat(?:urday)?|sun(?:day)?|montag|dienstag|mittwoch|donnerstag|freitag|samstag|sonntag';
