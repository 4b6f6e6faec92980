import type { Zone } from '../src/time/zones';
import { readMessage, type MessageFacts } from '../src/message/facts';

/** A stretch that a careful reader marked: an ask, a date with its role, or a duration. */
export interface Marked {
  kind: 'ask' | 'date' | 'duration';
  /** `deadline 2026-08-07`, `45`; empty for an ask. */
  value: string;
  start: number;
  end: number;
}

export interface MarkedMessage {
  text: string;
  bulk: boolean;
  marks: Marked[];
}

const OPEN = /\[(?:(\?) |(by|meet|on|takes) ([^\]:]*(?::\d\d)?): )/y;
const ROLES: Record<string, string> = { by: 'deadline', meet: 'meeting', on: 'mention' };

/**
 * Reads a marked corpus. Messages begin with `=== kind`; in them `[? …?]` is an ask, `[by DATE: …]` a deadline,
 * `[meet DATE: …]` a proposed meeting, `[on DATE: …]` a mention and `[takes MINUTES: …]` a duration.
 */
export function readCorpus(source: string): MarkedMessage[] {
  return source
    .split(/^=== /m)
    .slice(1)
    .map((part) => {
      const [head = '', ...rest] = part.split('\n');
      return { bulk: head.includes('bulk'), ...unmark(rest.join('\n').trim()) };
    });
}

function unmark(source: string): { text: string; marks: Marked[] } {
  let text = '';
  const marks: Marked[] = [];
  const opened: Marked[] = [];
  for (let at = 0; at < source.length;) {
    OPEN.lastIndex = at;
    const begin = OPEN.exec(source);
    const ends = source.startsWith(' ?]', at) ? 3 : source[at] === ']' ? 1 : 0;
    if (begin) {
      const [, ask, word = '', value = ''] = begin;
      const kind = ask ? 'ask' : word === 'takes' ? 'duration' : 'date';
      opened.push({ kind, value: kind === 'date' ? `${ROLES[word] ?? ''} ${value}` : value, start: text.length, end: 0 });
      at += begin[0].length;
    } else if (ends && opened.length) {
      const closed = opened.pop();
      if (closed) marks.push({ ...closed, end: text.length });
      at += ends;
    } else {
      text += source[at] ?? '';
      at += 1;
    }
  }
  if (opened.length) throw new Error(`A mark is not closed: ${source.slice(0, 60)}`);
  return { text, marks };
}

/** What the readers found of one kind: how much of it was right, and how much there was. */
export interface Score {
  right: number;
  found: number;
  wanted: number;
  /** What went wrong, in words. */
  wrong: string[];
}

const KINDS = ['ask', 'date', 'duration'] as const;

function foundIn(facts: MessageFacts): Marked[] {
  return [
    ...facts.asks.map(({ start, end }): Marked => ({ kind: 'ask', value: '', start, end })),
    ...facts.dates.map(({ start, end, role, value }): Marked => ({ kind: 'date', value: `${role} ${value}`, start, end })),
    ...facts.durations.map(({ start, end, minutes }): Marked => ({ kind: 'duration', value: String(minutes), start, end })),
  ];
}

/**
 * Compares the readers with the marks: a find is right when kind and value agree and the stretches overlap by half or more.
 * @param written when all messages were written
 */
export function scoreCorpus(
  messages: readonly MarkedMessage[],
  written: number,
  zone: Zone,
  names: readonly string[],
): Record<(typeof KINDS)[number], Score> {
  const scores = Object.fromEntries(KINDS.map((kind) => [kind, { right: 0, found: 0, wanted: 0, wrong: [] as string[] }]));
  for (const { text, marks, bulk } of messages) {
    const left = [...marks];
    const say = (mark: Marked) => `${mark.kind} ${mark.value} “${text.slice(mark.start, mark.end).replace(/\s+/g, ' ')}”`;
    for (const mark of marks) if (scores[mark.kind]) (scores[mark.kind] as Score).wanted += 1;
    for (const one of foundIn(readMessage({ text, written, zone, names, bulk }))) {
      const score = scores[one.kind] as Score;
      score.found += 1;
      const at = left.findIndex(
        (mark) =>
          mark.kind === one.kind &&
          mark.value === one.value &&
          2 * (Math.min(mark.end, one.end) - Math.max(mark.start, one.start)) >=
            Math.min(mark.end - mark.start, one.end - one.start),
      );
      if (at < 0) score.wrong.push(`not there: ${say(one)}`);
      else {
        left.splice(at, 1);
        score.right += 1;
      }
    }
    for (const mark of left) (scores[mark.kind] as Score).wrong.push(`missed: ${say(mark)}`);
  }
  return scores as Record<(typeof KINDS)[number], Score>;
}
