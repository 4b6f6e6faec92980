import { HUES } from './hues';

/** Colour and code of a category: the same name has the same ones everywhere. */
export function ofCategory(name: string): { hue: number; code: string } {
  let sum = 7;
  for (const letter of name.toLowerCase()) sum = (sum * 31 + (letter.codePointAt(0) ?? 0)) % 9973;
  const letters = name
    .replace(/[^\p{L}\d]/gu, '')
    .slice(0, 2)
    .toUpperCase();
  return { hue: sum % HUES.length, code: letters.padEnd(2, '·') };
}
