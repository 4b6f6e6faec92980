import MarkdownIt from 'markdown-it';
import { changeTaskLine, readTaskLine, type LineChange, type TaskLine } from './taskNotation';

/** One round of a repeating task, as a line of its own that is ticked. */
export type DoneRound = Pick<TaskLine, 'doneOn' | 'day' | 'due'>;

/** What changes at a line, and which rounds that are done stand above it from then on, or no more. */
export type NoteChange = LineChange & { rounds?: readonly { round: DoneRound; stands: boolean }[] };

/** A task-list item of a note, with where it stands. */
export interface NoteTask extends TaskLine {
  /** Line in the file, from 0. */
  line: number;
  /** Line of the item it stands under. */
  parent: number | null;
  /** The heading above it. */
  heading: string;
}

/** A note that cannot be read; the message is a sentence for the user. */
export class NoteError extends Error {
  readonly code = 'not-a-note';
}

export const NOTE_LIMITS = { maxBytes: 4 * 1024 * 1024, maxTasks: 20_000 };

/** So many lines above a repeating task its rounds are looked for. */
const ROUNDS_ABOVE = 20;

const parser = new MarkdownIt('commonmark', { html: true });

/** Text of a note; what is not UTF-8 is refused, because writing it back would change other bytes. @throws NoteError */
export function noteText(bytes: Buffer): string {
  if (bytes.length > NOTE_LIMITS.maxBytes) throw new NoteError(`The note is larger than ${NOTE_LIMITS.maxBytes / 1048576} MB.`);
  try {
    return new TextDecoder('utf-8', { fatal: true, ignoreBOM: true }).decode(bytes);
  } catch {
    throw new NoteError('The note is not written in UTF-8.');
  }
}

/** Task-list items of a note. What looks like one inside a code block or an HTML block is none (CommonMark). */
export function tasksInNote(text: string): NoteTask[] {
  const lines = linesOf(text);
  const tasks: NoteTask[] = [];
  const open: (number | null)[] = [];
  let heading = '';
  const tokens = parser.parse(text.replace(/^\uFEFF/, ''), {});
  for (const [at, token] of tokens.entries()) {
    if (token.type === 'heading_open') heading = tokens[at + 1]?.content ?? '';
    if (token.type === 'list_item_close') open.pop();
    if (token.type !== 'list_item_open') continue;
    const line = token.map?.[0] ?? -1;
    const task = readTaskLine(lines[line]?.text ?? '');
    const parent = open.findLast((one) => one !== null) ?? null;
    open.push(task ? line : null);
    if (task && tasks.length < NOTE_LIMITS.maxTasks) tasks.push({ ...task, line, parent, heading });
  }
  return tasks;
}

/** The note with some lines changed; every other byte stays, line endings included. */
export function changeNote(text: string, changes: ReadonlyMap<number, NoteChange>): string {
  const lines = linesOf(text);
  const ending = lines.find(({ end }) => end)?.end ?? '\n';
  const after: { text: string; end: string }[] = [];
  for (const [at, { text: line, end }] of lines.entries()) {
    const { rounds = [], ...change } = changes.get(at) ?? {};
    for (const { round, stands } of rounds) {
      const done = changeTaskLine(line, { ...round, done: true, repeat: null, id: null });
      const where = after.findLastIndex((one, place) => place >= after.length - ROUNDS_ABOVE && one.text === done);
      if (stands && where < 0) after.push({ text: done, end: ending });
      if (!stands && where >= 0) after.splice(where, 1);
    }
    after.push({ text: Object.keys(change).length ? changeTaskLine(line, change) : line, end });
  }
  return after.map((one) => one.text + one.end).join('');
}

function linesOf(text: string): { text: string; end: string }[] {
  return [...text.matchAll(/([^\r\n]*)(\r\n|\n|\r|$)/g)]
    .map(([, line = '', end = '']) => ({ text: line, end }))
    .filter((one, at, all) => one.text || one.end || at < all.length - 1);
}
