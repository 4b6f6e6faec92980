import type { Line, LineReader } from '../draft';

/** A mark counts at the start of the line or after white space, directly before its word; `C#`, `5 > 3` and `a@b` are none. */
const BEFORE = '(?<![^\\s])';
const QUOTED = '"([^"]+)"';

/** `#tag` */
export const tagReader: LineReader = (line) => {
  for (const match of line.rest.matchAll(new RegExp(`${BEFORE}#(?:${QUOTED}|(\\p{L}[\\p{L}\\d_-]*))`, 'gu'))) {
    const tag = (match[1] ?? match[2] ?? '').toLowerCase();
    if (!line.draft.tags.includes(tag)) line.draft.tags.push(tag);
    line.take('tag', match.index, match.index + match[0].length);
  }
};

/** `@person`, `@"Tomas Rieger"`, or a mail address after the mark; a known full name may follow without quotes. */
export const personReader: LineReader = (line, { people = [] }) => {
  const pattern = new RegExp(`${BEFORE}@(?:${QUOTED}|([\\p{L}\\d._+-]+@[\\p{L}\\d.-]+\\p{L})|(\\p{L}[\\p{L}\\d'_-]*))`, 'gu');
  for (const match of line.rest.matchAll(pattern)) {
    const known = longestName(line.rest.slice(match.index + 1), people);
    const name = match[1] ?? match[2] ?? known ?? match[3] ?? '';
    const length = match[1] || match[2] || !known ? match[0].length : known.length + 1;
    line.draft.people.push(name);
    line.take('person', match.index, match.index + length);
  }
};

const SOON =
  /(?<![^\s])(?:as soon as possible|asap|a\.s\.a\.p\.|so (?:bald|schnell) wie möglich|schnellstmöglich|baldmöglichst|ehestmöglich)(?![\p{L}\d])/giu;

/** `++` high, `--` low, standing alone; `as soon as possible` is high, too. */
export const priorityReader: LineReader = (line) => {
  for (const match of line.rest.matchAll(/(?<![^\s])(\+\+|--)(?![^\s\u241f])/g)) {
    line.draft.priority = match[1] === '++' ? 'high' : 'low';
    line.take('priority', match.index, match.index + 2);
  }
  for (const match of line.rest.matchAll(SOON)) {
    if (line.draft.priority === 'normal') line.draft.priority = 'high';
    line.take('priority', match.index, match.index + match[0].length);
  }
};

/**
 * `>list`, `>"list with spaces"`, or `>` and the longest known list name.
 * Must run last of the marks: without known names it ends where another reader's words begin.
 */
export const listReader: LineReader = (line, { lists }) => {
  for (const match of line.rest.matchAll(new RegExp(`${BEFORE}>(?:${QUOTED}|(?=[\\p{L}\\d]))`, 'gu'))) {
    const after = match.index + 1;
    const quoted = match[1];
    const name = quoted
      ? nameOf(quoted, lists)
      : lists
        ? longestName(line.rest.slice(after), lists)
        : openName(line.rest.slice(after));
    const length = quoted ? match[0].length : 1 + (name?.length ?? 0);
    if (name && !line.draft.list) {
      line.draft.list = lists?.find((list) => same(list, name)) ?? name;
      line.take('list', match.index, match.index + length);
    } else {
      const end = match.index + (quoted ? match[0].length : 1 + (/^[^\s\u241f]+/.exec(line.rest.slice(after))?.[0].length ?? 0));
      line.refuse(match.index, end, listProblem(line, line.text.slice(match.index + 1, end)));
    }
  }
};

function listProblem(line: Line, name: string): string {
  if (line.draft.list) return 'A task stands on one list only, so this stays in the title.';
  return `There is no list “${name.replaceAll('"', '')}”, so this stays in the title.`;
}

function same(a: string, b: string): boolean {
  return a.localeCompare(b, undefined, { sensitivity: 'accent' }) === 0;
}

function nameOf(quoted: string, lists: readonly string[] | undefined): string | null {
  return lists ? (lists.find((list) => same(list, quoted)) ?? null) : quoted;
}

/** The longest of the names that the text begins with, ending at a word's end, as it stands in the text. */
function longestName(text: string, names: readonly string[]): string | null {
  const fitting = names.filter((name) => same(text.slice(0, name.length), name) && !/^[\p{L}\d]/u.test(text.slice(name.length)));
  const longest = fitting.sort((a, b) => b.length - a.length)[0];
  return longest ? text.slice(0, longest.length) : null;
}

/** Names not known: up to three words when nothing but taken words or the end follows, else the first word. */
function openName(text: string): string | null {
  const words = /^[\p{L}\d][^\s\u241f]*(?: [\p{L}\d&][^\s\u241f]*){0,2}(?=\s*(?:\u241f|$))/u.exec(text);
  return words?.[0] ?? /^[\p{L}\d][^\s\u241f]*/u.exec(text)?.[0] ?? null;
}
