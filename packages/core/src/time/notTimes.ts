import { MONTHS, WEEKDAY } from './dateFound';

interface Stretch {
  start: number;
  end: number;
}

const UNIT =
  '(?:mm|cm|dm|km|m²|m³|m2|m3|kg|mg|ml|cl|dl|ha|kW|kWh|MB|GB|px|bar|°C|°|%|‰|€|EUR|euros?|Hz|dB|pages?|boxes|pieces|Seiten|Stück)';

const FULL_DAY = '(?:mon|tues|wednes|thurs|fri|satur|sun)day';
const CLOCK = "\\d{1,2}(?:[:.]\\d{2})?\\s?(?:o['’]clock|[ap]\\.?m\\.?)|\\d{1,2}:\\d{2}";
/** What follows a day or a time that stands for itself. */
const NO_NOUN =
  '(?:after|before|morning|afternoon|evening|night|noon|and|or|at|on|in|by|to|from|of|for|with|next|this|then|until|till|is|are|was|as|about|if|when|that|we|you|would|works?|week|instead|starting|through|slot)';
/** "the Friday group", "my 3 o'clock call": a day or a time that says which one. */
export const WHICH = new RegExp(
  `(?<![^\\s])(?:the|an?|my|our|your|his|her|their)\\s+(?:${FULL_DAY}|${CLOCK})(?=\\s+(?!(?:${NO_NOUN}|${MONTHS})(?!\\p{L}))\\p{L}{3,})`,
  'giu',
);

/** Forms that hold numbers or names of days and months, but name no time. */
const FORMS: RegExp[] = [
  new RegExp(`(?<![\\p{L}\\d.:])\\d+(?:[.,]\\d+)?\\s?${UNIT}(?![\\p{L}\\d])`, 'giu'),
  // "2.4 m", "0.5 l": the date library would read minutes of "m".
  /(?<![\p{L}\d.:])\d+[.,]\d+\s?[mglt](?![\p{L}\d])/gu,
  /(?<![\p{L}\d])\d+\s?[x×]\s?\d+(?![\p{L}\d])/giu,
  /\bv\.?\s?\d+(?:\.\d+)*\b|\bversion \d+(?:\.\d+)*\b|(?<![\d.])\d+\.\d+\.(?:\d|\d{3})(?![\d])/giu,
  /\b(?:pages?|pp?\.|chapters?|sections?|rooms?|items?|questions?|points?|grades?|no\.?|nr\.?|seiten?|kapitel|raum|zimmer|büro|punkte?|nummer)\s?\d+(?:[.,]\d+)?(?:\s?[-–]\s?\d+)?(?![\d:])/giu,
  // "2.4" alone: a measure, a chapter, a mark; hardly a time.
  /(?<![\d.]|\b(?:am|bis|zum|vom|ab|on|by|due|um|at) )\d+\.\d(?![\d.])/giu,
  new RegExp(
    `\\b(?:${WEEKDAY}|today|tomorrow|yesterday|tonight|${MONTHS}|(?:last |this |next )?(?:week|month|year))['’]s\\b`,
    'giu',
  ),
  new RegExp(`\\bat (?:${WEEKDAY})\\b`, 'giu'),
  // "Parents' evening Thursday": the evening belongs to its name, the day comes after it.
  new RegExp(
    `(?<!\\b(?:this|that|the|every|each|tomorrow|today|yesterday|on|in|${WEEKDAY}) )\\b(?:evening|morning|afternoon|night)(?=,? (?:on )?(?:${WEEKDAY}|tomorrow|today|\\d))`,
    'giu',
  ),
  new RegExp(
    `(?<=\\b(?:the|a|an|our|my|your|their|each) )(?:${WEEKDAY})(?= (?:\\p{Ll}+ )?(?:meetings?|minutes|notes|group|class|course|shift|team|market|report|call|round|session|edition|issue|paper)\\b)`,
    'giu',
  ),
  WHICH,
  /(?<![\d/])\d{1,4}\/(?:19|20)\d{2}\b|\b(?:19|20)\d{2}\/\d{1,4}\b(?!\/)/g,
  /\b24\/7\b/g,
  /\b(?:good|guten?|schönen|schöne) (?:morning|afternoon|evening|day|night|morgen|abend|tag|nacht)\b/giu,
];

const PARTS = /(?<![\d/.])(\d{1,2})\/(\d{1,2})(?![\d/])/g;
const LEADS_TO_A_DATE = new RegExp(
  `(?:\\b(?:on|by|due|until|till|before|from|since|am|bis|vom|zum|ab|${WEEKDAY})[,:]?\\s+(?:the\\s+)?|^)$`,
  'i',
);
const PART_OF = /^\s*(?:of|done|ready|back|full|through|finished|in|der|von|fertig|paid|pupils|are|is|were|have)\b/i;

/** What looks like a date or a time but is a measure, a fraction, a version, a possessive or part of a name. */
export function findNotTimes(text: string): Stretch[] {
  const all = FORMS.flatMap((form) =>
    [...text.matchAll(form)].map((match) => ({ start: match.index, end: match.index + match[0].length })),
  );
  for (const match of text.matchAll(PARTS)) {
    const end = match.index + match[0].length;
    const [day, month] = [Number(match[1]), Number(match[2])];
    const led = match.index > 0 && LEADS_TO_A_DATE.test(text.slice(0, match.index));
    const isDate = day >= 1 && day <= 31 && month >= 1 && month <= 12 && (led || (day > 12 && !PART_OF.test(text.slice(end))));
    if (!isDate) all.push({ start: match.index, end });
  }
  return all;
}
