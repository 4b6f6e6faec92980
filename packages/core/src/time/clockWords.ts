import { each, type Reader } from './dateFound';

const ENGLISH = ['', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten', 'eleven', 'twelve'];
const GERMAN = ['', 'eins', 'zwei', 'drei', 'vier', 'fünf', 'sechs', 'sieben', 'acht', 'neun', 'zehn', 'elf', 'zwölf'];
const HOUR = `${ENGLISH.slice(1).join('|')}|\\d{1,2}`;
const STUNDE = `${GERMAN.slice(1).join('|')}|\\d{1,2}`;
const PART_OF_DAY = '(?: (?:in the (?:morning|afternoon|evening)|at night|[ap]\\.?m\\.?(?!\\p{L})))?';
const TAGESZEIT = '(?: (?:in der früh|morgens|vormittags|nachmittags|abends))?';
const PARTS: Record<string, number> = {
  half: 30,
  quarter: 15,
  'a quarter': 15,
  five: 5,
  ten: 10,
  twenty: 20,
  'twenty-five': 25,
  viertel: 15,
  fünf: 5,
  zehn: 10,
  zwanzig: 20,
};

/** Hours before this one are in the afternoon when nothing else is said: people at work meet then. */
export const FIRST_HOUR = 8;

/** The hour of the day that is said as `hour` of the clock, with the words for the part of the day if there are any. */
export function hourOfDay(hour: number, part = ''): number {
  if (/morning|früh|morgens|vormittag|^a(?:\.?m|$)/i.test(part.trim())) return hour === 12 ? 0 : hour;
  if (/afternoon|evening|night|nachmittag|abend|^p(?:\.?m|$)/i.test(part.trim())) return hour < 12 ? hour + 12 : hour;
  return hour < FIRST_HOUR && hour > 0 ? hour + 12 : hour;
}

/** `HH:MM` of so many minutes after midnight. */
export function clockOf(minutes: number): string {
  const whole = ((minutes % 1440) + 1440) % 1440;
  return `${String(Math.floor(whole / 60)).padStart(2, '0')}:${String(whole % 60).padStart(2, '0')}`;
}

/** The number of an hour that is written as a word or in digits; NaN where it is no hour. */
export function hourNamed(word: string): number {
  const low = word.toLowerCase();
  const named = Math.max(ENGLISH.indexOf(low), GERMAN.indexOf(low), low === 'ein' ? 1 : -1);
  const hour = named > 0 ? named : Number(low);
  return hour >= 0 && hour <= 24 ? hour : Number.NaN;
}

const timeAt = (hour: string, part: string | undefined, minutes = 0) => {
  const number = hourNamed(hour);
  return Number.isNaN(number) ? null : { time: clockOf(hourOfDay(number, part ?? '') * 60 + minutes) };
};

/** "quarter to five", "half past seven in the evening", "nine o'clock", "midday". */
export const spokenClock: Reader = (text) => [
  ...each(
    text,
    new RegExp(
      `\\b(?:(?:at|around|about) )?(half|a quarter|quarter|five|ten|twenty|twenty-five)(?: minutes)? (past|to) (${HOUR})\\b(?: o['’]clock)?(${PART_OF_DAY})(?![\\d:.]| (?:days?|weeks?|hours?|minutes?)\\b)`,
      'giu',
    ),
    (match) =>
      timeAt(
        match[3] ?? '',
        match[4],
        (PARTS[(match[1] ?? '').toLowerCase()] ?? 0) * ((match[2] ?? '').toLowerCase() === 'to' ? -1 : 1),
      ),
  ),
  // "by three tomorrow afternoon", "at 4 tomorrow".
  ...each(
    text,
    new RegExp(
      `(?<=\\b(?:at|by|around|about|before|until|till) )(${HOUR})(?= (?:today|tomorrow|this)\\b( morning| afternoon| evening)?)`,
      'giu',
    ),
    // Early hours are as likely in the morning as after noon.
    (match) => (match[2] || hourNamed(match[1] ?? '') >= FIRST_HOUR ? timeAt(match[1] ?? '', match[2]) : null),
  ),
  // "at half twelve": half past it.
  ...each(
    text,
    new RegExp(`\\b(?:at|around|about|by|before|from) half (${ENGLISH.slice(1).join('|')})(${PART_OF_DAY})(?!\\p{L})`, 'giu'),
    (match) => timeAt(match[1] ?? '', match[2], 30),
  ),
  ...each(text, new RegExp(`\\b(?:(?:at|around|about) )?(${HOUR}) o['’]clock\\b(${PART_OF_DAY})`, 'giu'), (match) =>
    timeAt(match[1] ?? '', match[2]),
  ),
  ...each(text, /\b(?:at |around |about )?(?:noon|midday|twelve noon)\b/gi, () => ({ time: '12:00' })),
];

/** "halb drei", "viertel vor acht", "zehn Uhr", "um sechs", "14.30 Uhr", "mittags". */
export const gesprocheneUhrzeit: Reader = (text) => [
  ...each(
    text,
    new RegExp(`(?<!\\p{L})(?:(?:um|gegen) )?halb (${STUNDE})(?: uhr)?(${TAGESZEIT})(?![\\p{L}\\d])`, 'giu'),
    (match) => timeAt(match[1] ?? '', match[2], -30),
  ),
  ...each(
    text,
    new RegExp(
      `(?<!\\p{L})(?:(?:um|gegen) )?(viertel|fünf|zehn|zwanzig) (vor|nach) (${STUNDE})(?: uhr)?(${TAGESZEIT})(?![\\p{L}\\d])`,
      'giu',
    ),
    (match) =>
      timeAt(
        match[3] ?? '',
        match[4],
        (PARTS[(match[1] ?? '').toLowerCase()] ?? 0) * ((match[2] ?? '').toLowerCase() === 'vor' ? -1 : 1),
      ),
  ),
  ...each(
    text,
    new RegExp(`(?<!\\p{L})(?:(?:um|gegen) )?(${GERMAN.slice(1).join('|')}|ein) uhr(${TAGESZEIT})(?![\\p{L}\\d])`, 'giu'),
    (match) => timeAt(match[1] ?? '', match[2]),
  ),
  ...each(
    text,
    new RegExp(
      `(?<!\\p{L})(?:um|gegen) (${GERMAN.slice(1).join('|')})(${TAGESZEIT})(?![\\p{L}\\d]| (?:\\p{Lu}|prozent|euro|tage|stunden|minuten|wochen))`,
      'gu',
    ),
    (match) => timeAt(match[1] ?? '', match[2]),
  ),
  ...each(text, /(?<![\p{L}\d:.])(?:(?:um|gegen) )?(\d{1,2})[.:](\d{2}) uhr(?!\p{L})/giu, (match) =>
    Number(match[1]) < 24 && Number(match[2]) < 60 ? { time: clockOf(Number(match[1]) * 60 + Number(match[2])) } : null,
  ),
  ...each(text, /(?<!\p{L})(?:zu mittag|mittags)(?!\p{L})/giu, () => ({ time: '12:00' })),
];
