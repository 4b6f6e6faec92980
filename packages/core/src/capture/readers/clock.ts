import { clockOf, FIRST_HOUR, hourOfDay, hourNamed } from '../../time/clockWords';
import { findDateParts, weekdayNamed } from '../../time/dateText';
import { MONTHS } from '../../time/dateFound';
import type { Line, LineReader } from '../draft';
import { BEGIN } from './words';

const CLOCK =
  "(?:(\\d{1,2})(?:[:.]([0-5]\\d))?(?:\\s?([ap])\\.?m\\.?|\\s?(uhr|h|o'clock))?|(noon|midday|midnight|mittag|mitternacht))";
const NO_DAY = `(?![\\p{L}\\d:./%€]|,\\d|\\.\\d|\\s*(?:${MONTHS}|january|february)\\b)`;
const WINDOW = new RegExp(`${BEGIN}(?:between|zwischen)\\s+${CLOCK}\\s+(?:and|und)\\s+${CLOCK}${NO_DAY}`, 'iu');
const STRETCH = new RegExp(
  `${BEGIN}((?:from|von|at|um|@)\\s+)?${CLOCK}(\\s*(?:-|–|—)\\s*|\\s+(?:to|until|till|bis)\\s+)${CLOCK}${NO_DAY}`,
  'giu',
);
const SINGLE = new RegExp(
  `${BEGIN}(?:at|um|gegen|@)\\s+(one|two|three|four|five|six|seven|eight|nine|ten|eleven|twelve|eins|zwei|drei|vier|fünf|sechs|sieben|acht|neun|zehn|elf|zwölf|\\d{1,2})(?=\\s*(?:$|[,;\\u241f]|\\.(?!\\d)|(?:with|on|in|for|about|re|due|by|sharp|mit|am|im|für|wegen|bei|to|tomorrow|today|mon|tue|wed|thu|fri|sat|sun)(?!\\p{L})))`,
  'iu',
);

interface Said {
  /** Minutes after midnight. */
  minutes: number;
  /** Whether it is said beyond doubt what half of the day it is in. */
  sure: boolean;
  /** `a` or `p`, where it is written. */
  half: string;
  bare: boolean;
}

function said([hour, minutes, half, unit, word]: (string | undefined)[]): Said | null {
  if (word) return { minutes: /^mid|nacht/i.test(word) && !/midday/i.test(word) ? 1440 : 720, sure: true, half: '', bare: false };
  const number = hourNamed(hour ?? '');
  if (Number.isNaN(number) || (half && (number < 1 || number > 12))) return null;
  const low = half?.toLowerCase() ?? '';
  return {
    minutes: (half ? hourOfDay(number, low) : number) * 60 + Number(minutes ?? 0),
    sure: half !== undefined || number > 12 || number === 0 || (hour?.startsWith('0') ?? false),
    half: low,
    bare: minutes === undefined && !half && !unit,
  };
}

/** Two clock times put into the same half of the day: "2-4pm" is in the afternoon, "9 to 5" ends there, "2 to 4" is then, too. */
function stretchOf(first: Said, last: Said): [number, number] {
  let [start, end] = [first.minutes, last.minutes];
  if (last.half === 'p' && !first.sure && start + 720 < end) start += 720;
  else if (!first.sure && !last.sure && first.bare && last.bare && start < FIRST_HOUR * 60 && end <= 720)
    [start, end] = [start + 720, end + 720];
  if (end <= start && !last.sure && end + 720 > start) end += 720;
  return [start, end];
}

/** `between 2 and 4`: in which time it is to be, whenever. */
export const windowReader: LineReader = (line) => {
  const match = WINDOW.exec(line.rest);
  const [first, last] = match ? [said(match.slice(1, 6)), said(match.slice(6, 11))] : [];
  if (!match || !first || !last) return;
  line.isWindow = true;
  take(line, match.index, match[0], match.slice(6, 11), stretchOf(first, last));
};

const DAYS =
  '(?:mon(?:day)?|tue(?:s|sday)?|wed(?:nesday)?|thu(?:rs|rsday)?|fri(?:day)?|sat(?:urday)?|sun(?:day)?|montag|dienstag|mittwoch|donnerstag|freitag|samstag|sonntag|mo|di|mi|do|fr|sa|so)\\.?';
const OVERNIGHT = new RegExp(
  `${BEGIN}(${DAYS})((?:,|\\s+at|\\s+um)?\\s+)(${CLOCK})(\\s*(?:-|–|—|to|until|till|bis)\\s*)((${DAYS})(?:,|\\s+at|\\s+um)?\\s+(${CLOCK}))${NO_DAY}`,
  'iu',
);

/** `Fri 20:00 to Sat 4:00`: a start and an end on another day of the same week. */
export const overnightReader: LineReader = (line) => {
  const match = OVERNIGHT.exec(line.rest);
  if (!match) return;
  const [, day = '', lead = '', clock = '', ...more] = match;
  const [first, between = '', until = '', lastDay = '', last] = [
    said(more.slice(0, 5)),
    more[5],
    more[6],
    more[7],
    said(more.slice(9, 14)),
  ];
  if (!first || !last) return;
  const days = (weekdayNamed(lastDay) - weekdayNamed(day) + 7) % 7;
  const minutes = days * 1440 + last.minutes - first.minutes;
  if (days === 0 || minutes <= 0) return;
  [line.draft.time, line.draft.endTime, line.draft.minutes] = [clockOf(first.minutes), clockOf(last.minutes), minutes];
  const start = match.index + day.length + lead.length;
  line.take('time', start, start + clock.length);
  line.take('endTime', start + clock.length + between.length, start + clock.length + between.length + until.length);
};

/** `10:00-11:30`, `from 9 to 12`, `2-4pm`: a start and an end. Bare numbers count beside a day only: `pages 9-12` are none. */
export const stretchReader: LineReader = (line, { now, zone }) => {
  if (line.draft.time) return;
  for (const match of line.rest.matchAll(STRETCH)) {
    const [first, last] = [said(match.slice(2, 7)), said(match.slice(8, 13))];
    if (!first || !last || first.minutes === last.minutes) continue;
    const end = match.index + match[0].length;
    if (first.bare && last.bare && !match[1] && !besideDay(line, match.index, end, now, zone)) continue;
    if (
      first.bare &&
      last.bare &&
      match[1] &&
      /^(?:from|von)/i.test(match[1]) &&
      /^\s*(?:pages?|seiten?)/i.test(line.rest.slice(end))
    )
      continue;
    take(line, match.index, match[0], match.slice(8, 13), stretchOf(first, last));
    return;
  }
};

function besideDay(line: Line, start: number, end: number, now: number, zone: string): boolean {
  const [repeat] = line.draft.spans.filter(({ field }) => field === 'repeat');
  if (repeat && repeat.end <= start && /^,?\s*$/.test(line.text.slice(repeat.end, start))) return true;
  const masked = `${line.rest.slice(0, start)}${' '.repeat(end - start)}${line.rest.slice(end)}`;
  return findDateParts(masked, { now, zone, language: line.language }).some(
    (one) =>
      one.day !== null &&
      ((one.end <= start && /^,?\s*(?:at\s+|um\s+)?$/.test(line.rest.slice(one.end, start))) ||
        (one.start >= end && /^,?\s*(?:on\s+|am\s+)?$/.test(line.rest.slice(end, one.start)))),
  );
}

/** `at five`, `um 10`: a bare hour after a word that leads to one. */
export const hourReader: LineReader = (line) => {
  if (line.draft.time) return;
  const match = SINGLE.exec(line.rest);
  const hour = match ? hourNamed(match[1] ?? '') : Number.NaN;
  if (!match || Number.isNaN(hour)) return;
  // Digits of a German line count to 24.
  const asSaid = line.language === 'de' && /^\d/.test(match[1] ?? '');
  line.draft.time = clockOf((asSaid ? hour % 24 : hourOfDay(hour)) * 60);
  line.take('time', match.index, match.index + match[0].length);
};

function take(line: Line, start: number, text: string, last: (string | undefined)[], [from, to]: [number, number]): void {
  line.draft.time = clockOf(from);
  line.draft.endTime = clockOf(to);
  const tail = last[4] ?? last[0] ?? '';
  const cut = text.toLowerCase().lastIndexOf(tail.toLowerCase());
  const lead = /\s*(?:-|–|—|(?<=\s)(?:to|until|till|bis|and|und))\s*$/i.exec(text.slice(0, cut))?.[0].length ?? 0;
  line.take('time', start, start + cut - lead);
  line.take('endTime', start + cut, start + text.length);
}
