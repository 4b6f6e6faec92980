import type { Grace } from '../doing/heldSites';
import { DESTINATIONS, type Destination } from '../decide/destinations';
import { count, sayMinutes, sayTime } from '../text/say';
import type { Interval } from '../time/intervals';
import { MINUTE, minutesBetween, type Day, type Instant, type Zone } from '../time/zones';

/** What of a day is told: what one took part in, finished, worked on in quiet or not, decided, wrote, sent, went through, noted and answered. */
export const LOG_KINDS = ['attended', 'done', 'spent', 'quiet', 'sorted', 'written', 'sent', 'pass', 'line', 'check-in'] as const;
export type LogKind = (typeof LOG_KINDS)[number];

/** What something leads back to. */
export interface LogThing {
  kind: 'task' | 'event' | 'incoming' | 'note' | 'checkIn' | 'line';
  id: string;
  /** The date of a series. */
  occurrence: string | null;
}

/** One of several things that were done in one go. */
export interface LogPart {
  title: string;
  text: string;
  thing: LogThing | null;
}

/** One thing of a day. */
export interface LogEntry {
  kind: LogKind;
  /** Its own name among those of the day. */
  id: string;
  /** When it was, or began; null: it was for the whole day. */
  at: Instant | null;
  title: string;
  /** What became of it, in a few words. */
  text: string;
  thing: LogThing | null;
  parts: LogPart[];
  /** In what colour it stands: of which list, or which calendar; null: of none. */
  listId: string | null;
  calendarId: string | null;
}

/** In the order of the day, what was for all of it first, and lines that have no time last. */
export const inLogOrder = <Entry extends Pick<LogEntry, 'at' | 'id' | 'kind'>>(entries: readonly Entry[]): Entry[] => {
  const place = ({ at, kind }: Entry) => at ?? (kind === 'line' ? Number.MAX_SAFE_INTEGER : 0);
  return [...entries].sort((a, b) => place(a) - place(b) || (a.id < b.id ? -1 : 1));
};

/** A line of one's own: `9:30 Fog` says when it was. @returns time as `HH:MM`; null: it says none */
export function readLogLine(line: string): { time: string | null; text: string } {
  const [, hour = '', minute = '', text] = /^([01]?\d|2[0-3])[:.]([0-5]\d)\s+(\S.*)$/s.exec(line.trim()) ?? [];
  return text === undefined ? { time: null, text: line.trim() } : { time: `${hour.padStart(2, '0')}:${minute}`, text };
}

/** An incoming that was decided on. */
export interface LogDecision {
  id: string;
  at: Instant;
  title: string;
  to: Destination;
}

/** What lies further apart was not done in one go. */
const PAUSE = 20 * MINUTE;

/** Decisions as they were made in one go, each go in its order. */
export function runsOf(decisions: readonly LogDecision[]): LogDecision[][] {
  const runs: LogDecision[][] = [];
  for (const one of [...decisions].sort((a, b) => a.at - b.at || (a.id < b.id ? -1 : 1))) {
    const run = runs.at(-1);
    if (run && one.at - (run.at(-1)?.at ?? 0) <= PAUSE) run.push(one);
    else runs.push([one]);
  }
  return runs;
}

/** What became of them: `6 on a list, 3 given time, 2 dropped`; in the order in which destinations are offered. */
export function tellRun(run: readonly LogDecision[]): string {
  const counts = (Object.keys(DESTINATIONS) as Destination[]).map(
    (to) => [to, run.filter((one) => one.to === to).length] as const,
  );
  return counts
    .filter(([, number]) => number)
    .map(([to, number]) => `${number} ${DESTINATIONS[to].counted}`)
    .join(', ');
}

/** What was spent on a task on a day, and whether that finished it. Minutes. */
export interface SpentOn {
  done: boolean;
  /** On the day. */
  spent: number;
  /** In all. */
  took: number;
  /** What it was thought to take; null: nobody said. */
  estimate: number | null;
}

/** `done, planned 30 min, took 45 min`, or `1 h 30 of 4 h, still open`. */
export function tellSpentOn({ done, spent, took, estimate }: SpentOn): string {
  if (!done)
    return `${sayMinutes(spent)}${estimate === null ? '' : ` of ${sayMinutes(estimate)}`}${
      took > spent ? `, ${sayMinutes(took)} in all` : ''
    }, still open`;
  const planned = estimate === null ? '' : `planned ${sayMinutes(estimate)}`;
  const all = took > 0 ? `took ${sayMinutes(took)}` : '';
  const before = spent > 0 && took > spent ? `${sayMinutes(spent)} of it on this day` : '';
  return ['done', planned, all, before].filter(Boolean).join(', ');
}

/** Quiet time that is over, and what is known of what was held back in it. */
export interface QuietTold extends Interval {
  /** From when on sites were held back; null: what does it was not there. */
  held: { start: Instant; sites: readonly string[] } | null;
  /** Whether there was something that could have held them back. */
  awaited: boolean;
  graces: readonly Grace[];
}

/** `quiet for 1 h 30, 4 sites held back from 10:20 on, news.example looked at for 5 min`. */
export function tellQuiet({ start, end, held, awaited, graces }: QuietTold, zone: Zone): string {
  const late = held && held.start - start >= MINUTE ? ` from ${sayTime(held.start, zone)} on` : '';
  const looks = [...new Set(graces.map(({ site }) => site))].map((site) => {
    const own = graces.filter((one) => one.site === site);
    const minutes = own.reduce((sum, one) => sum + minutesBetween(one.start, one.end), 0);
    return `${site} looked at ${own.length > 1 ? `${own.length} times, ` : 'for '}${sayMinutes(minutes)}`;
  });
  return [
    `quiet for ${sayMinutes(minutesBetween(start, end))}`,
    held?.sites.length && `${count(held.sites.length, 'site')} held back${late}`,
    !held && awaited && 'nothing was held back: the extension was away',
    ...looks,
  ]
    .filter(Boolean)
    .join(', ');
}

/** Days as Markdown (CommonMark): a heading each, and a list of what was, with what it is made of below it. */
export function dayLogMarkdown(
  days: readonly { day: Day; entries: readonly LogEntry[] }[],
  heading: (day: Day) => string,
  zone: Zone,
): string {
  const item = (title: string, text: string, time = '') =>
    `- ${time && `${time} `}**${plain(title)}**${text && `: ${plain(text)}`}`;
  return days
    .map(({ day, entries }) =>
      [
        `# ${heading(day)}`,
        '',
        ...entries.flatMap(({ at, kind, title, text, parts }) => [
          kind === 'line'
            ? `- ${at === null ? '' : `${sayTime(at, zone)} `}${plain(title)}`
            : item(title, text, at === null ? '' : sayTime(at, zone)),
          ...parts.map((part) => `  ${item(part.title, part.text)}`),
        ]),
        ...(entries.length ? [] : ['Nothing is written down for this day.']),
        '',
      ].join('\n'),
    )
    .join('\n');
}

/** Text that means nothing in Markdown, on one line. */
const plain = (text: string): string =>
  text
    .replace(/\s+/g, ' ')
    .trim()
    .replace(/[\\`*_[\]<>#~|]/g, '\\$&');
