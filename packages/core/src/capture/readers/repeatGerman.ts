import { weekdayNamed } from '../../time/dateText';
import { monthNumber } from '../../time/dateWords';
import type { RepeatForm } from './repeatEnglish';
import { DAY_CODES, NUMBER, numberNamed, ordinalNamed } from './words';

const TAG = 'montag|dienstag|mittwoch|donnerstag|freitag|samstag|sonntag';
const UND = '(?:,\\s*|\\s+und\\s+|\\s*&\\s*)';
const TAGE = `(?:${TAG})s?(?:${UND}(?:jeden )?(?:${TAG})s?)*`;
const NTE = 'ersten?|zweiten?|dritten?|vierten?|letzten?';
const MONAT = '(?:im monat|(?:des|eines|jede[sn]|im) monate?s?|jeden monat)';
const MONATE = 'januar|jänner|februar|feber|märz|april|mai|juni|juli|august|september|oktober|november|dezember';
const JEDE = 'jede[nrsm]?';
const EINHEIT: [RegExp, string][] = [
  [/^tag/i, 'FREQ=DAILY'],
  [/^woche/i, 'FREQ=WEEKLY'],
  [/^monat/i, 'FREQ=MONTHLY'],
  [/^quartal/i, 'FREQ=MONTHLY;INTERVAL=3'],
  [/^jahr/i, 'FREQ=YEARLY'],
];
const SO_OFT: Record<string, string> = {
  täglich: 'FREQ=DAILY',
  wöchentlich: 'FREQ=WEEKLY',
  vierzehntägig: 'FREQ=WEEKLY;INTERVAL=2',
  monatlich: 'FREQ=MONTHLY',
  vierteljährlich: 'FREQ=MONTHLY;INTERVAL=3',
  halbjährlich: 'FREQ=MONTHLY;INTERVAL=6',
  jährlich: 'FREQ=YEARLY',
};
const WERKTAGS = 'FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR';

const codes = (names = '') =>
  [...new Set([...names.matchAll(new RegExp(TAG, 'gi'))].map((match) => DAY_CODES[weekdayNamed(match[0])]))].join(',');
const unit = (name = '') => EINHEIT.find(([form]) => form.test(name))?.[1] ?? '';
const nth = (which = '', day = '') => `FREQ=MONTHLY;BYDAY=${ordinalNamed(which)}${codes(day)}`;
const dayOfMonth = (digits = '', rule = 'FREQ=MONTHLY') =>
  Number(digits) >= 1 && Number(digits) <= 31 ? `${rule};BYMONTHDAY=${Number(digits)}` : null;
const month = (name = '') => (/^\d/.test(name) ? Number(name) : /^jän/i.test(name) ? 1 : monthNumber(name));
const yearly = (day = '', name = '') =>
  month(name) >= 1 && month(name) <= 12 ? dayOfMonth(day, `FREQ=YEARLY;BYMONTH=${month(name)}`) : null;

/** „jeden …“ and its kin, most telling first. */
export const GERMAN_REPEATS: RepeatForm[] = [
  [`(?:(?:am|an jedem) )?(?:${JEDE} )?(${NTE}) (${TAG}) ${MONAT}`, (m) => nth(m[1], m[2])],
  [
    `(?:am )?(?:letzten tag (?:im|des|jedes|jeden) monate?s?|monatsende jeden monats)|${JEDE} monatsende`,
    () => 'FREQ=MONTHLY;BYMONTHDAY=-1',
  ],
  [`(?:(?:am|zum) )?(\\d{1,2})\\. (?:jede[sn]|eines jeden|im|des) monat(?:s|es)?`, (m) => dayOfMonth(m[1])],
  [`(?:monatlich|jeden monat) (?:am|zum) (\\d{1,2})\\.`, (m) => dayOfMonth(m[1])],
  [`jeden (\\d{1,2})\\.(?: (?:des|im) monats?)?(?!\\s?(?:\\d|${MONATE}))`, (m) => dayOfMonth(m[1])],
  [
    `(?:jährlich|jedes jahr|jeden)(?: am| zum)? (\\d{1,2})\\. ?(\\d{1,2}\\.|${MONATE})`,
    (m) => yearly(m[1], m[2]?.replace('.', '')),
  ],
  [`${JEDE} zweiten? (${TAGE})`, (m) => `FREQ=WEEKLY;INTERVAL=2;BYDAY=${codes(m[1])}`],
  [`${JEDE} (${NTE}) (${TAG})`, (m) => nth(m[1], m[2])],
  [`${JEDE} zweiten? (tag|woche|monat|jahr)`, (m) => `${unit(m[1])};INTERVAL=2`],
  [`${JEDE} dritten? (tag|woche|monat|jahr)`, (m) => `${unit(m[1])};INTERVAL=3`],
  [
    `alle (${NUMBER}) wochen (?:am )?(${TAGE})|(?:am )?(${TAGE}) alle (${NUMBER}) wochen`,
    (m) => {
      const many = numberNamed(m[1] ?? m[4] ?? '');
      return many >= 1 ? `FREQ=WEEKLY;INTERVAL=${many};BYDAY=${codes(m[2] ?? m[3])}` : null;
    },
  ],
  [
    `alle (${NUMBER}) (tage|wochen|monate|jahre)`,
    (m) => (numberNamed(m[1] ?? '') >= 1 ? `${unit(m[2])};INTERVAL=${numberNamed(m[1] ?? '')}` : null),
  ],
  [`(?:an )?${JEDE} (?:werktag|arbeitstag)e?|(?:werktags|an werktagen|wochentags)`, () => WERKTAGS],
  [`(?:am |an )?(?:jedes wochenende|jedem wochenende)|an wochenenden`, () => 'FREQ=WEEKLY;BYDAY=SA,SU'],
  [`(?:an )?${JEDE} (${TAGE})(?: ?(?:früh|morgen|vormittag|nachmittag|abend))?`, (m) => `FREQ=WEEKLY;BYDAY=${codes(m[1])}`],
  [`((?:${TAG})s(?:${UND}(?:${TAG})s)*)`, (m) => `FREQ=WEEKLY;BYDAY=${codes(m[1])}`],
  [`(?:wöchentlich|jede woche) (?:am )?(${TAGE})`, (m) => `FREQ=WEEKLY;BYDAY=${codes(m[1])}`],
  [`${JEDE} (?:tag|morgen|vormittag|mittag|nachmittag|abend|nacht)`, () => 'FREQ=DAILY'],
  ['zweimal (?:im|pro) (monat|jahr)', (m) => (/monat/i.test(m[1] ?? '') ? 'FREQ=WEEKLY;INTERVAL=2' : 'FREQ=MONTHLY;INTERVAL=6')],
  [`${JEDE} (woche|monat|quartal|jahr)|einmal (?:am|in der|im|pro) (tag|woche|monat|jahr)`, (m) => unit(m[1] ?? m[2])],
  [
    `(${Object.keys(SO_OFT).join('|')})(?=\\s*(?:$|[,;:.\\u241f]|(?:am|um|ab|bis|von|für) |\\d))`,
    (m) => SO_OFT[(m[1] ?? '').toLowerCase()] ?? null,
  ],
];
