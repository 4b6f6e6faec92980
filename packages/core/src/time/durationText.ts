/** A duration found in running text; offsets are in characters of that text. */
export interface DurationFound {
  start: number;
  end: number;
  text: string;
  minutes: number;
}

const NUMBERS: Record<string, number> = {
  a: 1,
  an: 1,
  one: 1,
  eine: 1,
  einer: 1,
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
  nine: 9,
  neun: 9,
  ten: 10,
  zehn: 10,
  twelve: 12,
  zwölf: 12,
  fifteen: 15,
  fünfzehn: 15,
  twenty: 20,
  zwanzig: 20,
  thirty: 30,
  dreißig: 30,
  forty: 40,
  vierzig: 40,
  'forty-five': 45,
  fünfundvierzig: 45,
  fifty: 50,
  fünfzig: 50,
  sixty: 60,
  sechzig: 60,
  ninety: 90,
  neunzig: 90,
};
const WORDS = Object.keys(NUMBERS)
  .sort((a, b) => b.length - a.length)
  .join('|');
const HOUR = '(?:hours?|hrs?|h|stunden?|std\\.?)';
const MINUTES = '(?:minutes?|mins?|min\\.?|minuten)';
const END = '(?![\\p{L}\\d])';
const BEGIN = '(?<![\\p{L}\\d.,:/#-])';

const value = (text: string) => NUMBERS[text.toLowerCase()] ?? Number(text.replace(',', '.'));

/** The forms, most telling first; each gives minutes. */
const FORMS: [RegExp, (match: RegExpMatchArray) => number][] = [
  [
    new RegExp(`${BEGIN}(?:about |some )?three[- ]quarters of an hour${END}|${BEGIN}(?:eine )?dreiviertelstunde${END}`, 'giu'),
    () => 45,
  ],
  [new RegExp(`${BEGIN}an hour and a quarter${END}|${BEGIN}fünf ?viertelstunden${END}`, 'giu'), () => 75],
  [new RegExp(`${BEGIN}(?:a )?quarter of an hour${END}|${BEGIN}(?:eine )?viertelstunde${END}`, 'giu'), () => 15],
  [
    new RegExp(`${BEGIN}(?:an hour and a half|one and a half hours|anderthalb stunden|eineinhalb stunden)${END}`, 'giu'),
    () => 90,
  ],
  [new RegExp(`${BEGIN}(\\d{1,2}|${WORDS}) and a half hours${END}`, 'giu'), (m) => value(m[1] ?? '') * 60 + 30],
  [new RegExp(`${BEGIN}(?:half an hour|half-hour|(?:a )?half hour|eine halbe stunde|halbe stunde)${END}`, 'giu'), () => 30],
  [
    new RegExp(`${BEGIN}(\\d{1,2})\\s?${HOUR}\\s?(?:and )?(\\d{1,2})(?:\\s?${MINUTES}|\\s?m)?${END}`, 'giu'),
    (m) => (Number(m[2]) < 60 ? Number(m[1]) * 60 + Number(m[2]) : Number.NaN),
  ],
  [
    new RegExp(`${BEGIN}(\\d{1,3}(?:[.,]\\d{1,2})?|(?:${WORDS})(?=[\\s-]))[\\s-]?${HOUR}${END}`, 'giu'),
    (m) => value(m[1] ?? '') * 60,
  ],
  [
    new RegExp(`${BEGIN}(\\d{1,4}|${WORDS})[\\s-]?${MINUTES}${END}|${BEGIN}(\\d{1,4})m${END}`, 'giu'),
    (m) => value(m[1] ?? m[2] ?? ''),
  ],
];

/** What stands before or after a stretch of time that makes it a point in time instead. */
const POINT_BEFORE =
  /\b(?:in|by|within|every|after|since|vor|nach|alle|binnen|letzten?|last|past|next)\s+(?:the\s+)?(?:about\s+)?$/i;
const POINT_AFTER = /^\s*(?:ago|later|earlier|before|after|from now|notice|late|early|older|vorher|später|zuvor|away)\b/i;

/** "When you have a minute": whenever it is. */
const NO_LENGTH = /\b(?:have|find|got|for|just|only) $/i;

/** Every duration names a unit; most sentences name none, and looking for each form costs more. */
const MAY_NAME_A_DURATION = /hour|\bhrs?\b|\bh\b|\dh|std|stund|viertel|quarter|min|\dm/i;

/** All durations a text names, in order, in whole minutes (at least 1, at most 100 hours). */
export function findDurations(text: string): DurationFound[] {
  const all: DurationFound[] = [];
  if (!MAY_NAME_A_DURATION.test(text)) return all;
  for (const [pattern, minutesOf] of FORMS) {
    for (const match of text.matchAll(pattern)) {
      const start = match.index;
      const end = start + match[0].length;
      if (all.some((one) => start < one.end && one.start < end)) continue;
      if (POINT_BEFORE.test(text.slice(Math.max(0, start - 24), start)) || POINT_AFTER.test(text.slice(end, end + 16))) continue;
      if (/^a min/i.test(match[0]) && NO_LENGTH.test(text.slice(Math.max(0, start - 8), start))) continue;
      const minutes = Math.round(minutesOf(match));
      if (minutes >= 1 && minutes <= 6000) all.push({ start, end, text: match[0], minutes });
    }
  }
  return all.sort((a, b) => a.start - b.start);
}
