import { findDates } from '../time/dateText';
import { addDays, type Day, type Instant, type Zone } from '../time/zones';

/** Kinds of things that can be asked for with `+kind`. */
export const FIND_KINDS = ['mail', 'chat', 'invitation', 'card', 'note', 'typed', 'task', 'event', 'person', 'log'] as const;
export type FindKind = (typeof FIND_KINDS)[number];

/** What is looked for. Days are in the user's zone, `until` inclusive. */
export interface Find {
  words: string[];
  phrases: string[];
  people: string[];
  lists: string[];
  tags: string[];
  kinds: FindKind[];
  file: boolean;
  since: Day | null;
  until: Day | null;
}

const MARKED = /(?<![^\s])([@>#])(?:"([^"]*)"|([\p{L}\d][\p{L}\d'._@-]*))/gu;
const PLUS = /(?<![^\s])\+([a-z]+)/g;
const PHRASE = /"([^"]+)"/g;
const STRETCH = /(?<![^\s])(since|until)\s+/gi;
const MOST_WORDS = 12;

/**
 * Reads what is typed to find something: words, `"a phrase"`, `@sender`, `>list`, `#tag`, `+mail` and the other kinds,
 * `+file`, `since 1 July`, `until Friday`. What is no mark stays a word.
 */
export function readFind(text: string, { now, zone }: { now: Instant; zone: Zone }): Find {
  const find: Find = {
    words: [],
    phrases: [],
    people: [],
    lists: [],
    tags: [],
    kinds: [],
    file: false,
    since: null,
    until: null,
  };
  let rest = text.slice(0, 400);
  rest = rest.replace(MARKED, (_all, mark: string, quoted?: string, bare?: string) => {
    const name = (quoted ?? bare ?? '').trim();
    if (name)
      ({ '@': find.people, '>': find.lists, '#': find.tags })[mark as '@']?.push(mark === '#' ? name.toLowerCase() : name);
    return ' ';
  });
  rest = rest.replace(PLUS, (all, name: string) => {
    if (name === 'file') find.file = true;
    else if ((FIND_KINDS as readonly string[]).includes(name)) find.kinds.push(name as FindKind);
    else return all;
    return ' ';
  });
  rest = takeStretch(rest, find, now, zone);
  rest = rest.replace(PHRASE, (_all, phrase: string) => {
    if (phrase.trim()) find.phrases.push(phrase.trim());
    return ' ';
  });
  find.words = (rest.match(/[\p{L}\p{N}]+/gu) ?? []).slice(0, MOST_WORDS);
  return find;
}

/** `since` and `until` with the date behind them; a weekday is the one that was. */
function takeStretch(text: string, find: Find, now: Instant, zone: Zone): string {
  let rest = text;
  for (const match of text.matchAll(STRETCH)) {
    const from = match.index + match[0].length;
    const date = findDates(text.slice(from), { now, zone, language: 'en' }).find((one) => one.start === 0 && one.day);
    if (!date?.day) continue;
    const today = new Intl.DateTimeFormat('en-CA', { timeZone: zone }).format(now);
    const yearBack = `${Number(date.day.slice(0, 4)) - 1}${date.day.slice(4)}`;
    const day = date.day <= today ? date.day : addDays(date.day, -7) <= today ? addDays(date.day, -7) : yearBack;
    find[match[1]?.toLowerCase() as 'since' | 'until'] = day;
    rest = rest.replace(text.slice(match.index, from + date.end), ' ');
  }
  return rest;
}

/** The same as an FTS5 query: every word must begin a word there, phrases stand as they are; empty when there are none. */
export function ftsQuery({ words, phrases, people }: Pick<Find, 'words' | 'phrases' | 'people'>): string {
  const quote = (text: string) => `"${text.replaceAll('"', '""')}"`;
  return [
    ...words.map((word) => `${quote(word)}*`),
    ...phrases.map(quote),
    ...people.map((name) => `people : ${quote(name)} *`),
  ].join(' AND ');
}
