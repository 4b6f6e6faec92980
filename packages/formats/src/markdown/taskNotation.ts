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

/** Everything up to the text. Each kind of space stands in one place only: two that meet could share a run of them in many ways. */
const HEAD = /^([\s>]*(?:[-*+]|\d{1,9}[.)])\s+)\[([ xX])\](\s+)/;
const NAME = /<!--corvun:([a-z0-9]{4,40})-->$/;
const BRACES = /\{([^{}]*)\}$/;
/** Characters of a line that is read as a task; a longer one is text. */
const LONGEST = 4000;
const TAG = /(?<=^|\s)#([\p{L}][\p{L}\p{N}_-]*)/gu;

interface Pieces {
  lead: string;
  mark: string;
  gap: string;
  /** The text, with the space before what follows it. */
  text: string;
  braces: string;
  name: string;
  tail: string;
}

/** A task line cut into its pieces, which give it back when they are put together; null when it is none. */
function piecesOf(line: string): Pieces | null {
  if (line.length > LONGEST) return null;
  const head = HEAD.exec(line);
  if (!head) return null;
  const all = line.slice(head[0].length);
  const whole = all.trimEnd();
  const [beforeName, name] = cutEnd(whole, NAME);
  const [text, braces] = cutEnd(beforeName, BRACES);
  const known = braces && readBraces(BRACES.exec(braces.trim())?.[1] ?? '') !== null;
  return {
    lead: head[1] ?? '',
    mark: head[2] ?? ' ',
    gap: head[3] ?? ' ',
    text: known ? text : beforeName,
    braces: known ? braces : '',
    name,
    tail: all.slice(whole.length),
  };
}

/** A text without its end, and the end with the space before it. */
function cutEnd(text: string, end: RegExp): [string, string] {
  const found = end.exec(text);
  const before = found ? text.slice(0, found.index).trimEnd() : text;
  return [before, text.slice(before.length)];
}

/** Reads a line; null when it is no task-list item (GitHub Flavored Markdown, task list items). */
export function readTaskLine(line: string): TaskLine | null {
  const pieces = piecesOf(line);
  if (!pieces) return null;
  const { mark, text } = pieces;
  const id = NAME.exec(pieces.name)?.[1] ?? null;
  const notes = pieces.braces ? readBraces(BRACES.exec(pieces.braces)?.[1] ?? '') : null;
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
  const pieces = piecesOf(line);
  const before = readTaskLine(line);
  if (!pieces || !before) return line;
  const { lead, mark, gap, tail } = pieces;
  const after = { ...before, ...change };
  let { text, braces } = pieces;
  if (change.title !== undefined && change.title !== before.title)
    text = [change.title, ...before.tags.map((tag) => `#${tag}`)].join(' ');
  const keys = ['due', 'fixed', 'day', 'doneOn', 'priority', 'repeat'] as const;
  if (keys.some((key) => after[key] !== before[key])) braces = writeBraces(after);
  const newMark = after.done === before.done ? mark : after.done ? 'x' : ' ';
  const name = after.id ? (after.id === before.id ? pieces.name : ` <!--corvun:${after.id}-->`) : '';
  return `${lead}[${newMark}]${gap}${text}${braces}${name}${tail}`;
}

/** A new line of a task list. @param depth how deep it is indented */
export function writeTaskLine(line: Omit<TaskLine, 'id'>, depth = 0): string {
  const text = [line.title.replace(/\s+/g, ' '), ...line.tags.map((tag) => `#${tag}`)].join(' ');
  return `${'  '.repeat(depth)}- [${line.done ? 'x' : ' '}] ${text}${writeBraces({ ...line, id: null })}`;
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
