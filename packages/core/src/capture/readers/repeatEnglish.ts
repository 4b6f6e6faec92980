import { weekdayNamed } from '../../time/dateText';
import { monthNumber } from '../../time/dateWords';
import { MONTHS } from '../../time/dateFound';
import { DAY_CODES, NUMBER, numberNamed, ordinalNamed } from './words';

/** A form of saying a repeat, and the RRULE it comes to (RFC 5545, 3.3.10, without its prefix); null where it is none. */
export type RepeatForm = [string, (match: RegExpMatchArray) => string | null];

const DAY = 'mon(?:day)?s?|tue(?:s|sday)?s?|wed(?:nesday)?s?|thu(?:rs|rsday)?s?|fri(?:day)?s?|sat(?:urday)?s?|sun(?:day)?s?';
const AND = '(?:,\\s*(?:and )?|\\s+and\\s+|\\s*&\\s*|\\s*/\\s*)';
const DAYS = `(?:${DAY})(?:${AND}(?:${DAY}))*`;
const PLURAL = '(?:mon|tues|wednes|thurs|fri|satur|sun)days';
const PLURALS = `${PLURAL}(?:${AND}${PLURAL})*`;
const NTH = 'first|second|third|fourth|last|1st|2nd|3rd|4th';
const OF_MONTH = '(?: (?:of|in) (?:the|each|every|a) month)';
const EACH = '(?:every|each)';
const UNIT: Record<string, string> = { day: 'DAILY', week: 'WEEKLY', month: 'MONTHLY', year: 'YEARLY' };
const EVERY_SO_OFTEN: Record<string, string> = {
  daily: 'FREQ=DAILY',
  weekly: 'FREQ=WEEKLY',
  fortnightly: 'FREQ=WEEKLY;INTERVAL=2',
  biweekly: 'FREQ=WEEKLY;INTERVAL=2',
  monthly: 'FREQ=MONTHLY',
  quarterly: 'FREQ=MONTHLY;INTERVAL=3',
  yearly: 'FREQ=YEARLY',
  annually: 'FREQ=YEARLY',
};
const OFTEN = Object.keys(EVERY_SO_OFTEN).join('|');
const WORKDAYS = 'FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR';

const codes = (names = '') =>
  [...new Set([...names.matchAll(new RegExp(DAY, 'gi'))].map((match) => DAY_CODES[weekdayNamed(match[0])]))].join(',');
const nth = (which = '', day = '') => `BYDAY=${ordinalNamed(which)}${codes(day)}`;
const unit = (name = '') => `FREQ=${UNIT[name.toLowerCase()]}`;
const dayOfMonth = (digits = '', rule = 'FREQ=MONTHLY') =>
  Number(digits) >= 1 && Number(digits) <= 31 ? `${rule};BYMONTHDAY=${Number(digits)}` : null;
const every = (digits = '', rest = '') => (numberNamed(digits) >= 1 ? rest.replace('#', String(numberNamed(digits))) : null);
const yearly = (day = '', month = '') => dayOfMonth(day, `FREQ=YEARLY;BYMONTH=${monthNumber(month)}`);

/** "every …" and its kin, most telling first. */
export const ENGLISH_REPEATS: RepeatForm[] = [
  [
    `(?:(?:on )?(?:the )?|${EACH} )(${NTH}) (${DAY}) (?:of|in) (?:the|each|every|a) (month|quarter|year)`,
    (m) =>
      /month/i.test(m[3] ?? '')
        ? `FREQ=MONTHLY;${nth(m[1], m[2])}`
        : /quarter/i.test(m[3] ?? '')
          ? `FREQ=MONTHLY;INTERVAL=3;${nth(m[1], m[2])}`
          : `FREQ=YEARLY;${nth(m[1], m[2])}`,
  ],
  [
    `(?:on )?(?:the )?last (?:working day|workday|weekday)(?: (?:of|in) (?:the|each|every) month)`,
    () => 'FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-1',
  ],
  [
    `(?:on )?(?:the )?first (?:working day|workday|weekday)(?: (?:of|in) (?:the|each|every) month)`,
    () => 'FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=1',
  ],
  [`(?:(?:on|at) )?(?:the )?(?:last day|end) of (?:each|every) month`, () => 'FREQ=MONTHLY;BYMONTHDAY=-1'],
  [`${EACH} (?:last day of the month|month end|end of (?:the )?month)`, () => 'FREQ=MONTHLY;BYMONTHDAY=-1'],
  [`(?:on )?(?:the )?(\\d{1,2})(?:st|nd|rd|th)?(?: day)? (?:of|in) (?:each|every) month`, (m) => dayOfMonth(m[1])],
  [`(?:every month|each month|monthly) on (?:the )?(${NTH}) (${DAY})`, (m) => `FREQ=MONTHLY;${nth(m[1], m[2])}`],
  [`(?:every month|each month|monthly) on (?:the )?(\\d{1,2})(?:st|nd|rd|th)?`, (m) => dayOfMonth(m[1])],
  [`${EACH} (${NUMBER}) months? on (?:the )?(${NTH}) (${DAY})`, (m) => every(m[1], `FREQ=MONTHLY;INTERVAL=#;${nth(m[2], m[3])}`)],
  [
    `${EACH} (${NUMBER}) months? on (?:the )?(\\d{1,2})(?:st|nd|rd|th)?`,
    (m) => every(m[1], dayOfMonth(m[2], 'FREQ=MONTHLY;INTERVAL=#') ?? ''),
  ],
  [
    `(?:(?:every|each) year|yearly|annually|every) (?:on )?(?:the )?(\\d{1,2})(?:st|nd|rd|th)?(?: of)? (${MONTHS})`,
    (m) => yearly(m[1], m[2]),
  ],
  [`(?:(?:every|each) year|yearly|annually|every) (?:on )?(${MONTHS}) (\\d{1,2})(?:st|nd|rd|th)?`, (m) => yearly(m[2], m[1])],
  [
    `every (january|february|march|april|may|june|july|august|september|october|november|december)`,
    (m) => `FREQ=YEARLY;BYMONTH=${monthNumber(m[1] ?? '')}`,
  ],
  [`every (?:second|2nd) (${DAY})(?!${OF_MONTH})`, (m) => `FREQ=WEEKLY;INTERVAL=2;BYDAY=${codes(m[1])}`],
  [`${EACH} (${NTH}) (${DAY})${OF_MONTH}?`, (m) => `FREQ=MONTHLY;${nth(m[1], m[2])}`],
  [`every (?:second|2nd) (day|week|month|year)`, (m) => `${unit(m[1])};INTERVAL=2`],
  [`every (?:third|3rd) (day|week|month|year)`, (m) => `${unit(m[1])};INTERVAL=3`],
  [`${EACH} (\\d{1,2})(?:st|nd|rd|th)(?: (?:day )?of (?:the|each|every) month)?(?! \\p{L})`, (m) => dayOfMonth(m[1])],
  [`(?:on )?${EACH} (?:weekday|workday|working day)s?`, () => WORKDAYS],
  [`(?:on )?(?:weekdays|workdays|working days)`, () => WORKDAYS],
  [`(?:at |on )?(?:${EACH} weekend|weekends)`, () => 'FREQ=WEEKLY;BYDAY=SA,SU'],
  [`every other (${DAYS})`, (m) => `FREQ=WEEKLY;INTERVAL=2;BYDAY=${codes(m[1])}`],
  ['every other (day|week|month|year)', (m) => `${unit(m[1])};INTERVAL=2`],
  [`every (?:other|second) week on (${DAYS})`, (m) => `FREQ=WEEKLY;INTERVAL=2;BYDAY=${codes(m[1])}`],
  [`${EACH} (${NUMBER}) weeks? on (${DAYS})`, (m) => every(m[1], `FREQ=WEEKLY;INTERVAL=#;BYDAY=${codes(m[2])}`)],
  [`${EACH} (${NUMBER}) (day|week|month|year)s?`, (m) => every(m[1], `${unit(m[2])};INTERVAL=#`)],
  ['every half[- ]year', () => 'FREQ=MONTHLY;INTERVAL=6'],
  [`${EACH} quarter`, () => 'FREQ=MONTHLY;INTERVAL=3'],
  ['every fortnight', () => 'FREQ=WEEKLY;INTERVAL=2'],
  [`(?:${EACH} week|weekly) on (${DAYS})`, (m) => `FREQ=WEEKLY;BYDAY=${codes(m[1])}`],
  [`(?:fortnightly|biweekly) on (${DAYS})`, (m) => `FREQ=WEEKLY;INTERVAL=2;BYDAY=${codes(m[1])}`],
  [`(?:on )?${EACH} (${DAYS})(?: (?:mornings?|afternoons?|evenings?))?`, (m) => `FREQ=WEEKLY;BYDAY=${codes(m[1])}`],
  [`(?:on )?(${PLURALS})(?: (?:mornings?|afternoons?|evenings?))?(?!['’])`, (m) => `FREQ=WEEKLY;BYDAY=${codes(m[1])}`],
  [`(?:in the )?${EACH} (?:single )?(?:day|morning|afternoon|evening|night)`, () => 'FREQ=DAILY'],
  ['twice an? (month|year)', (m) => (/month/i.test(m[1] ?? '') ? 'FREQ=WEEKLY;INTERVAL=2' : 'FREQ=MONTHLY;INTERVAL=6')],
  ['four times a year', () => 'FREQ=MONTHLY;INTERVAL=3'],
  [`once an? (day|week|month|year)|${EACH} (week|month|year)`, (m) => unit(m[1] ?? m[2])],
  // "weekly report" names a report; said last, or before a time, it says how often.
  [
    `(${OFTEN})(?=\\s*(?:$|[,;:.\\u241f]|(?:at|on|from|until|till|for|starting|by) |\\d))`,
    (m) => EVERY_SO_OFTEN[(m[1] ?? '').toLowerCase()] ?? null,
  ],
];
