import type { Language } from '../time/dateText';

const GERMAN =
  /\b(?:und|der|die|das|nicht|ist|wir|sie|ich|mit|für|bitte|können|könnten|auf|ein|eine|den|dem|von|zum|zur|bis|uns|noch|wird|haben|grüße|hallo|sehr|geehrte)\b/gi;
const ENGLISH =
  /\b(?:and|the|of|to|is|we|you|with|for|please|could|on|an?|that|this|from|are|have|will|not|your|our|hello|dear|regards)\b/gi;

/** The language a text is mostly in, by its commonest words; English when neither is clear. */
export function languageOf(text: string): Language {
  const sample = text.slice(0, 4000);
  return (sample.match(GERMAN)?.length ?? 0) > (sample.match(ENGLISH)?.length ?? 0) ? 'de' : 'en';
}
