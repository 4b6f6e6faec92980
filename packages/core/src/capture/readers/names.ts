import { WHICH } from '../../time/notTimes';
import type { LineReader } from '../draft';
import { BEGIN } from './words';

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
