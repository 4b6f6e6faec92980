import type { Draft } from '../src/capture/draft';
import { parseLine } from '../src/capture/parseLine';
import type { Zone } from '../src/time/zones';

/** A typed line and what a careful reader takes from it: the fields that are said, as words. */
export interface MarkedLine {
  text: string;
  said: Record<string, string>;
}

const FIELDS = ['title', 'date', 'endDate', 'time', 'endTime', 'minutes', 'week', 'deadline', 'priority', 'repeat'] as const;

/** Reads marked lines: `TEXT => field: value; field: value`. */
export function readLines(source: string): MarkedLine[] {
  return source
    .split('\n')
    .filter((line) => line.includes(' => '))
    .map((line) => {
      const [text = '', said = ''] = line.split(' => ');
      return {
        text,
        said: Object.fromEntries(said.split('; ').map((part) => part.split(/: (.*)/s).slice(0, 2))) as MarkedLine['said'],
      };
    });
}

/** What was read of a line otherwise than it is marked, in words; nothing where all is right. */
export function differs({ text, said }: MarkedLine, now: number, zone: Zone): string[] {
  const draft: Partial<Record<(typeof FIELDS)[number], unknown>> & Draft = parseLine(text, { now, zone });
  const found = (field: (typeof FIELDS)[number]) => {
    const value = draft[field] ?? '';
    return value === 'normal' ? '' : String(value);
  };
  return [
    ...FIELDS.filter((field) => found(field) !== (said[field] ?? '')).map(
      (field) => `${field} “${found(field)}”, not “${said[field] ?? ''}”`,
    ),
    ...('repeatFrom' in said && draft.repeatFrom !== said['repeatFrom'] ? ['repeatFrom'] : []),
    ...('deadlineFixed' in said && String(draft.deadlineFixed) !== said['deadlineFixed'] ? ['deadlineFixed'] : []),
  ];
}
