import { weekdayNamed } from '../../time/dateText';
import type { LineReader } from '../draft';

const CODES = ['', 'MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'];
const NTH: Record<string, number> = {
  first: 1,
  second: 2,
  third: 3,
  fourth: 4,
  last: -1,
  '1st': 1,
  '2nd': 2,
  '3rd': 3,
  '4th': 4,
};
const UNIT: Record<string, string> = { day: 'DAILY', week: 'WEEKLY', month: 'MONTHLY', year: 'YEARLY' };
const DAY = 'mon(?:day)?s?|tue(?:sday)?s?|wed(?:nesday)?s?|thu(?:rsday)?s?|fri(?:day)?s?|sat(?:urday)?s?|sun(?:day)?s?';
const DAYS = `(?:${DAY})(?:(?:, | and |, and )(?:${DAY}))*`;

const codesOf = (names: string) =>
  [...names.matchAll(new RegExp(DAY, 'gi'))].map((match) => CODES[weekdayNamed(match[0])]).join(',');

/** The forms of `every …`, each to an RRULE without its prefix (RFC 5545, 3.3.10); most telling first. */
const FORMS: [string, (match: RegExpMatchArray) => string | null][] = [
  [
    `every (first|second|third|fourth|last|1st|2nd|3rd|4th) (${DAY})(?: of (?:the|each|every) month)?`,
    (m) => `FREQ=MONTHLY;BYDAY=${NTH[(m[1] ?? '').toLowerCase()]}${codesOf(m[2] ?? '')}`,
  ],
  ['every last day of the month', () => 'FREQ=MONTHLY;BYMONTHDAY=-1'],
  [
    'every (\\d{1,2})(?:st|nd|rd|th)(?: (?:day )?of (?:the|each|every) month)?',
    (m) => (Number(m[1]) >= 1 && Number(m[1]) <= 31 ? `FREQ=MONTHLY;BYMONTHDAY=${Number(m[1])}` : null),
  ],
  ['every (?:weekday|workday|working day)', () => 'FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR'],
  ['every weekend', () => 'FREQ=WEEKLY;BYDAY=SA,SU'],
  [`every other (${DAYS})`, (m) => `FREQ=WEEKLY;INTERVAL=2;BYDAY=${codesOf(m[1] ?? '')}`],
  ['every other (day|week|month|year)', (m) => `FREQ=${UNIT[(m[1] ?? '').toLowerCase()]};INTERVAL=2`],
  [`every (\\d{1,3}) weeks? on (${DAYS})`, (m) => `FREQ=WEEKLY;INTERVAL=${Number(m[1])};BYDAY=${codesOf(m[2] ?? '')}`],
  [
    'every (\\d{1,3}) (day|week|month|year)s?',
    (m) => (Number(m[1]) >= 1 ? `FREQ=${UNIT[(m[2] ?? '').toLowerCase()]};INTERVAL=${Number(m[1])}` : null),
  ],
  ['every quarter', () => 'FREQ=MONTHLY;INTERVAL=3'],
  [`every week on (${DAYS})`, (m) => `FREQ=WEEKLY;BYDAY=${codesOf(m[1] ?? '')}`],
  [`every (${DAYS})`, (m) => `FREQ=WEEKLY;BYDAY=${codesOf(m[1] ?? '')}`],
  ['every (day|week|month|year)', (m) => `FREQ=${UNIT[(m[1] ?? '').toLowerCase()]}`],
];

/** `every day`, `every Mon and Thu`, `every 2 weeks`, `every last Friday`: a repeat rule. `Every report …` is none. */
export const repeatReader: LineReader = (line) => {
  for (const [form, rule] of FORMS) {
    const match = new RegExp(`(?<![^\\s])${form}(?![\\p{L}\\d])`, 'iu').exec(line.rest);
    const repeat = match && rule(match);
    if (!match || !repeat) continue;
    line.draft.repeat = repeat.replace(/;INTERVAL=1(?!\d)/, '');
    line.take('repeat', match.index, match.index + match[0].length);
    return;
  }
};
