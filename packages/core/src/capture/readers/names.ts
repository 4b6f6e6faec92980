import { MONTHS } from '../../time/dateFound';
import type { LineReader } from '../draft';
import { BEGIN } from './words';

const DAY = '(?:mon|tues|wednes|thurs|fri|satur|sun)day';
const CLOCK = "\\d{1,2}(?:[:.]\\d{2})?\\s?(?:o['’]clock|[ap]\\.?m\\.?)|\\d{1,2}:\\d{2}";
/** What follows a day or a time that stands for itself. */
const NO_NOUN =
  '(?:after|before|morning|afternoon|evening|night|noon|and|or|at|on|in|by|to|from|of|for|with|next|this|then|until|till|is|are|was|as|about|if|when|that|we|you|would|works?|week|instead|starting|through|slot)';
/** "the Friday group", "my 3 o'clock call": a day or a time that says which one. */
const WHICH = new RegExp(
  `${BEGIN}(?:the|an?|my|our|your|his|her|their)\\s+(?:${DAY}|${CLOCK})(?=\\s+(?!(?:${NO_NOUN}|${MONTHS})(?!\\p{L}))\\p{L}{3,})`,
  'giu',
);
/** „den 8 Uhr Zug“: nouns have a capital. */
const WELCHE =
  /(?<![^\s])(?:[Dd](?:er|ie|as|en|em)|[Ee]ine?[nmr]?|[Uu]nsere?[nmr]?|[Mm]eine?[nmr]?) \d{1,2}(?::\d{2})?[ -]Uhr(?=[ -]\p{Lu})/gu;
/** "release 2.10", "Kapitel 2.3": a number that is no time. */
const NUMBERED = new RegExp(
  `${BEGIN}(?:release|version|build|section|chapter|paragraph|clause|appendix|item|point|figure|table|exercise|part|rule|kapitel|abschnitt|absatz|anhang|punkt|tabelle|abbildung|aufgabe|übung|teil|ausgabe)\\s+\\d{1,3}(?:\\.\\d{1,3})+(?![\\p{L}\\d])`,
  'giu',
);

/** A day, a time or a number that is part of a name stays in the title. */
export const nameReader: LineReader = (line) => {
  for (const pattern of [WHICH, WELCHE, NUMBERED])
    for (const { index, 0: words } of line.rest.matchAll(pattern)) line.spare(index, index + words.length);
};
