import { isDay } from '@corvun/core';

/**
 * What a task line of a Markdown note says, after its check mark.
 *
 *     - [ ] Order larch boards #site {due 2026-08-14 | high} <!--corvun:k3f9x2ab-->
 *
 * The braces at the end of the line hold, separated by bars, any of: `due DATE` (fixed), `by DATE` (flexible),
 * `on DATE` (the day it is planned for), `done DATE`, `high` or `low`, `every RULE` (an RRULE without its prefix).
 * Braces that hold anything else are part of the text. The comment is the line's stable name.
 */
export interface TaskLine {
  title: string;
  done: boolean;
  tags: string[];
  due: string | null;
  fixed: boolean;
  day: string | null;
  doneOn: string | null;
  priority: 'high' | 'normal' | 'low';
  repeat: string | null;
  id: string | null;
}

const LINE = /^(\s*(?:>\s*)*(?:[-*+]|\d{1,9}[.)])\s+)\[([ xX])\](\s+)(.*?)(\s*)$/;
const NAME = /\s*<!--corvun:([a-z0-9]{4,40})-->$/;
const BRACES = /\s*\{([^{}]*)\}\s*$/;
const TAG = /(?<=^|\s)#([\p{L}][\p{L}\p{N}_-]*)/gu;

/** Reads a line; null when it is no task-list item (GitHub Flavored Markdown, task list items). */
export function readTaskLine(line: string): TaskLine | null {
  const match = LINE.exec(line);
  if (!match) return null;
  const [, , mark = '', , rest = ''] = match;
  const id = NAME.exec(rest)?.[1] ?? null;
  let text = rest.replace(NAME, '').trimEnd();
  const said = BRACES.exec(text);
  const notes = said ? readBraces(said[1] ?? '') : null;
  if (notes) text = text.slice(0, said?.index).trimEnd();
  const tags = [...text.matchAll(TAG)].map((tag) => tag[1] ?? '');
  const title = text
    .replace(TAG, '')
    .replace(/\s{2,}/g, ' ')
    .trim();
  return {
    title: title || text.trim(),
    done: mark !== ' ',
    tags: [...new Set(tags)],
    due: null,
    fixed: false,
    day: null,
    doneOn: null,
    priority: 'normal',
    repeat: null,
    ...notes,
    id,
  };
}

type Noted = Partial<Pick<TaskLine, 'due' | 'fixed' | 'day' | 'doneOn' | 'priority' | 'repeat'>>;

function readBraces(text: string): Noted | null {
  const noted: Noted = {};
  for (const part of text.split('|').map((one) => one.trim())) {
    const [word = '', ...others] = part.split(/\s+/);
    const value = others.join(' ');
    if (word === 'due' && isDay(value)) Object.assign(noted, { due: value, fixed: true });
    else if (word === 'by' && isDay(value)) Object.assign(noted, { due: value, fixed: false });
    else if (word === 'on' && isDay(value)) noted.day = value;
    else if (word === 'done' && isDay(value)) noted.doneOn = value;
    else if ((word === 'high' || word === 'low') && !value) noted.priority = word;
    else if (word === 'every' && /^FREQ=[A-Z]+(?:;[A-Z]+=[A-Z0-9,+-]+)*$/.test(value)) noted.repeat = value;
    else return null;
  }
  return noted;
}

export type LineChange = Partial<
  Pick<TaskLine, 'title' | 'done' | 'due' | 'fixed' | 'day' | 'doneOn' | 'priority' | 'repeat' | 'id'>
>;

/**
 * The line with what changed, and not a character more: marker, indent, tags and spaces stay. A new title keeps the
 * tags that stood in the old one.
 */
export function changeTaskLine(line: string, change: LineChange): string {
  const match = LINE.exec(line);
  const before = readTaskLine(line);
  if (!match || !before) return line;
  const [, lead = '', mark = ' ', gap = ' ', rest = '', tail = ''] = match;
  const after = { ...before, ...change };
  const id = NAME.exec(rest);
  let text = rest.replace(NAME, '').trimEnd();
  const said = BRACES.exec(text);
  const known = said ? readBraces(said[1] ?? '') : null;
  let braces = '';
  if (said && known) {
    braces = text.slice(said.index).trimEnd();
    text = text.slice(0, said.index).trimEnd();
  }
  if (change.title !== undefined && change.title !== before.title)
    text = [change.title, ...before.tags.map((tag) => `#${tag}`)].join(' ');
  const keys = ['due', 'fixed', 'day', 'doneOn', 'priority', 'repeat'] as const;
  if (keys.some((key) => after[key] !== before[key])) braces = writeBraces(after);
  const newMark = after.done === before.done ? mark : after.done ? 'x' : ' ';
  const name = after.id ? (after.id === before.id ? (id?.[0] ?? '') : ` <!--corvun:${after.id}-->`) : '';
  return `${lead}[${newMark}]${gap}${text}${braces}${name}${tail}`;
}

function writeBraces(line: TaskLine): string {
  const parts = [
    line.due ? `${line.fixed ? 'due' : 'by'} ${line.due.slice(0, 10)}` : '',
    line.day ? `on ${line.day}` : '',
    line.priority === 'normal' ? '' : line.priority,
    line.repeat ? `every ${line.repeat}` : '',
    line.doneOn ? `done ${line.doneOn}` : '',
  ].filter(Boolean);
  return parts.length ? ` {${parts.join(' | ')}}` : '';
}
