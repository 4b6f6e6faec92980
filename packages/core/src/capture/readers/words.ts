/** Before a word: the beginning of the line or white space. */
export const BEGIN = '(?<![^\\s])';
/** After a word: no letter and no digit. */
export const END = '(?![\\p{L}\\d])';

export const DAY_CODES = ['', 'MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'];

/** A number up to a hundred as digits or as a word, English or German; NaN otherwise. */
export function numberNamed(word: string): number {
  const low = word.toLowerCase();
  const at = NUMBERS.findIndex((names) => names.includes(low));
  return at >= 0 ? at : /^\d{1,3}$/.test(low) ? Number(low) : Number.NaN;
}

const NUMBERS = [
  [],
  ['one', 'ein', 'eine', 'einen'],
  ['two', 'zwei', 'couple of'],
  ['three', 'drei'],
  ['four', 'vier'],
  ['five', 'fünf'],
  ['six', 'sechs'],
  ['seven', 'sieben'],
  ['eight', 'acht'],
  ['nine', 'neun'],
  ['ten', 'zehn'],
  ['eleven', 'elf'],
  ['twelve', 'zwölf'],
];
export const NUMBER = `\\d{1,3}|${NUMBERS.flat().join('|')}`;

const ORDINALS: [RegExp, number][] = [
  [/^(?:first|1st|erste)/i, 1],
  [/^(?:second|2nd|zweite)/i, 2],
  [/^(?:third|3rd|dritte)/i, 3],
  [/^(?:fourth|4th|vierte)/i, 4],
  [/^(?:last|letzte)/i, -1],
];

/** Which one of a month is said: 1 to 4, or -1 for the last. */
export function ordinalNamed(word: string): number {
  return ORDINALS.find(([form]) => form.test(word))?.[1] ?? 0;
}
