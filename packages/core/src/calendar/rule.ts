/** A repeat rule (RFC 5545, 3.3.10), read. Weekdays are 1 for Monday to 7 for Sunday. */
export interface Rule {
  freq: Frequency;
  interval: number;
  count: number | null;
  /** As written: a day, or a date-time with or without Z. */
  until: string | null;
  weekStart: number;
  bySecond: number[];
  byMinute: number[];
  byHour: number[];
  /** `nth` is 0 where every such weekday is meant. */
  byDay: { weekday: number; nth: number }[];
  byMonthDay: number[];
  byYearDay: number[];
  byWeekNo: number[];
  byMonth: number[];
  bySetPos: number[];
}

export const FREQUENCIES = ['SECONDLY', 'MINUTELY', 'HOURLY', 'DAILY', 'WEEKLY', 'MONTHLY', 'YEARLY'] as const;
export type Frequency = (typeof FREQUENCIES)[number];

export const WEEKDAYS = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'];
/** Longest list of one part: more than a year has days says nothing more. */
const MOST_PARTS = 800;

type Lists = 'bySecond' | 'byMinute' | 'byHour' | 'byMonthDay' | 'byYearDay' | 'byWeekNo' | 'byMonth' | 'bySetPos';
const LISTS: Record<string, { part: Lists; least: number; most: number; signed: boolean }> = {
  BYSECOND: { part: 'bySecond', least: 0, most: 60, signed: false },
  BYMINUTE: { part: 'byMinute', least: 0, most: 59, signed: false },
  BYHOUR: { part: 'byHour', least: 0, most: 23, signed: false },
  BYMONTHDAY: { part: 'byMonthDay', least: 1, most: 31, signed: true },
  BYYEARDAY: { part: 'byYearDay', least: 1, most: 366, signed: true },
  BYWEEKNO: { part: 'byWeekNo', least: 1, most: 53, signed: true },
  BYMONTH: { part: 'byMonth', least: 1, most: 12, signed: false },
  BYSETPOS: { part: 'bySetPos', least: 1, most: 366, signed: true },
};

const blank = (freq: Frequency): Rule => ({
  freq,
  interval: 1,
  count: null,
  until: null,
  weekStart: 1,
  bySecond: [],
  byMinute: [],
  byHour: [],
  byDay: [],
  byMonthDay: [],
  byYearDay: [],
  byWeekNo: [],
  byMonth: [],
  bySetPos: [],
});

/**
 * Reads a rule without its prefix. Parts that are not known are left out.
 * @throws RangeError with a sentence
 */
export function readRule(text: string): Rule {
  const parts = new Map(
    text
      .toUpperCase()
      .replace(/^RRULE:/, '')
      .split(';')
      .map((part) => [part.split('=')[0]?.trim() ?? '', part.split('=')[1]?.trim() ?? '']),
  );
  const wrong = (part: string) => new RangeError(`The repeat rule “${text.slice(0, 100)}” cannot be read: ${part}.`);
  const freq = parts.get('FREQ') as Frequency;
  if (!FREQUENCIES.includes(freq)) throw wrong('it does not say how often');
  const rule = blank(freq);
  const whole = (part: string, value: string, most: number) => {
    if (!/^\d{1,10}$/.test(value) || Number(value) < 1) throw wrong(`${part} is “${value.slice(0, 40)}”`);
    return Math.min(Number(value), most);
  };
  for (const [part, value] of parts) {
    if (part === 'INTERVAL') rule.interval = whole(part, value, 1_000_000);
    else if (part === 'COUNT') rule.count = whole(part, value, Number.MAX_SAFE_INTEGER);
    else if (part === 'UNTIL') {
      if (!/^\d{8}(?:T\d{6}Z?)?$/.test(value)) throw wrong(`UNTIL is “${value.slice(0, 40)}”`);
      rule.until = value;
    } else if (part === 'WKST') rule.weekStart = WEEKDAYS.indexOf(value) + 1 || 1;
    else if (part === 'BYDAY') rule.byDay = listOf(value).map((one) => weekdayOf(one) ?? fail(wrong(`BYDAY has “${one}”`)));
    const list = LISTS[part];
    if (list)
      rule[list.part] = listOf(value).map((one) => {
        const number = /^[+-]?\d{1,4}$/.test(one) ? Number(one) : NaN;
        const size = list.signed ? Math.abs(number) : number;
        if (!(size >= list.least && size <= list.most)) throw wrong(`${part} has “${one.slice(0, 40)}”`);
        return number;
      });
  }
  return rule;
}

const listOf = (value: string) => value.split(',', MOST_PARTS);

function fail(problem: Error): never {
  throw problem;
}

function weekdayOf(text: string): { weekday: number; nth: number } | null {
  const match = /^([+-]?\d{1,2})?(MO|TU|WE|TH|FR|SA|SU)$/.exec(text.trim());
  return match ? { weekday: WEEKDAYS.indexOf(match[2] ?? '') + 1, nth: Number(match[1] ?? 0) } : null;
}

/** Whether a text is a rule that can be read. */
export function isRule(text: string): boolean {
  try {
    readRule(text);
    return true;
  } catch {
    return false;
  }
}
