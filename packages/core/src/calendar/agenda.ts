import { union, type Interval } from '../time/intervals';
import type { Instant, Zone } from '../time/zones';
import type { Occurrence } from './recur';
import { repeats, seriesOccurrences, type SeriesPart } from './series';
import type { Steps } from './walk';

/** What of a calendar an agenda asks. To be looked at and to be counted are two things. */
export interface AgendaCalendar {
  id: string;
  shown: boolean;
  /** Whether its events take time. */
  busy: boolean;
}

export interface AgendaEvent extends SeriesPart {
  id: string;
  calendarId: string;
  status: 'CONFIRMED' | 'TENTATIVE' | 'CANCELLED';
  transparent: boolean;
}

/** Own time: work, quiet, break, prep, follow-up, travel. */
export interface AgendaBlock {
  id: string;
  startAt: Instant;
  endAt: Instant;
  busy: boolean;
}

/** What takes a stretch of time; a buffer has the id of its event. */
export interface Cause {
  kind: 'event' | 'block' | 'buffer';
  id: string;
  /** The date of a series. */
  occurrence: string | null;
  calendarId: string | null;
  tentative: boolean;
  /** Whether it is looked at. */
  shown: boolean;
}

/** A stretch that is taken by the same things from its start to its end. */
export interface Busy extends Interval {
  causes: Cause[];
}

interface Entry extends Interval {
  shown: boolean;
  /** Null: it is there, but takes no time. */
  cause: Cause | null;
}

/** Everything in a window, in order of time. */
export interface Agenda<E, B> {
  events: (Entry & { part: E; occurrence: Occurrence })[];
  blocks: (Entry & { block: B })[];
}

/**
 * All that touches a window, and what of it takes time: an event that is neither cancelled nor transparent, in a calendar
 * that counts, whether that is shown or not; a block that is busy.
 * @param series the parts of each UID of each calendar
 * @param steps those of the caller, where several agendas share them
 */
export function agendaOf<E extends AgendaEvent, B extends AgendaBlock>(
  series: readonly (readonly E[])[],
  blocks: readonly B[],
  calendars: readonly AgendaCalendar[],
  window: Interval,
  reader: Zone,
  steps: Steps | null = null,
): Agenda<E, B> {
  const known = new Map(calendars.map((one) => [one.id, one]));
  const events = series.flatMap((parts) => {
    const calendar = known.get(parts[0]?.calendarId ?? '');
    if (!calendar) return [];
    return seriesOccurrences(parts, window.start, window.end, reader, steps).map(({ part, occurrence }) => ({
      start: occurrence.start,
      end: occurrence.end,
      shown: calendar.shown,
      part,
      occurrence,
      cause: calendar.busy && !part.transparent && part.status !== 'CANCELLED' ? causeOf(part, occurrence, calendar.shown) : null,
    }));
  });
  const own = blocks
    .filter((block) => block.startAt < window.end && block.endAt > window.start)
    .map((block) => ({
      start: block.startAt,
      end: block.endAt,
      shown: true,
      block,
      cause: block.busy ? blockCause(block) : null,
    }));
  const inOrder = (a: Interval, b: Interval) => a.start - b.start || a.end - b.end;
  return { events: events.sort(inOrder), blocks: own.sort(inOrder) };
}

const causeOf = (part: AgendaEvent, { key }: Occurrence, shown: boolean): Cause => ({
  kind: 'event',
  id: part.id,
  occurrence: repeats(part) ? key : null,
  calendarId: part.calendarId,
  tentative: part.status === 'TENTATIVE',
  shown,
});

const blockCause = ({ id }: AgendaBlock): Cause => ({
  kind: 'block',
  id,
  occurrence: null,
  calendarId: null,
  tentative: false,
  shown: true,
});

/** What takes time, cut where the causes change, in order; see `union` for the stretches without their causes. */
export function busyOf(entries: readonly { start: Instant; end: Instant; cause: Cause | null }[]): Busy[] {
  const taking = entries.flatMap(({ start, end, cause }) => (cause && end > start ? [{ start, end, cause }] : []));
  const edges = taking.flatMap((one) => [
    { at: one.start, begins: true, cause: one.cause },
    { at: one.end, begins: false, cause: one.cause },
  ]);
  edges.sort((a, b) => a.at - b.at);
  const open = new Set<Cause>();
  const busy: Busy[] = [];
  let from = 0;
  for (const { at, begins, cause } of edges) {
    if (at > from && open.size) busy.push({ start: from, end: at, causes: [...open] });
    from = at;
    if (begins) open.add(cause);
    else open.delete(cause);
  }
  return busy;
}

/** The same stretches without their causes, joined where they touch. */
export const takenBy = (busy: readonly Busy[], causes: (cause: Cause) => boolean = () => true): Interval[] =>
  union(busy.filter((one) => one.causes.some(causes)));
