import { manner } from '../text/manner';
import { findDates, type DateContext, type DateFound, type Language } from '../time/dateText';

/** German words for times; one of them is enough: a line is too short for anything else to tell. */
const GERMAN =
  /(?<!\p{L})(?:heute|morgen|übermorgen|gestern|montags?|dienstags?|mittwochs?|donnerstags?|freitags?|samstags?|sonntags?|januar|februar|märz|mai|juni|juli|oktober|dezember|jede[nrsm]?|täglich|wöchentlich|monatlich|jährlich|werktags|vierzehntägig|alle (?:zwei|drei|vier|sechs|\d+)|bis|spätestens|uhr|halb|viertel|mittags|nachmittags?|vormittags?|abends?|morgens|stunden?|minuten|woche|wochen|nächste[nrs]?|kommende[nrs]?|kw|kalenderwoche|zwischen|für|ganztägig|innerhalb|binnen|am \d|vom \d|ab (?:dem )?\d|um \d)(?!\p{L})/iu;

/** The language in which a line names its times: the one its writer chose, else told from the line. */
export function lineLanguage(text: string): Language {
  const { typed } = manner();
  return typed === 'any' ? (GERMAN.test(text) ? 'de' : 'en') : typed;
}

/** All dates of words that were typed into a field, in the language in which they name them. */
export const typedDates = (text: string, context: Omit<DateContext, 'language'>): DateFound[] =>
  findDates(text, { ...context, language: lineLanguage(text) });
