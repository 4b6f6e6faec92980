import { sayTime } from '../text/say';
import { dayOf, type Instant, type Zone } from '../time/zones';
import type { Timed } from './running';

/** What of an entry of a day says when it runs. Times are ISO 8601. */
export interface DayEntry {
  kind: 'event' | 'block' | 'task';
  id: string;
  start: string | null;
  end: string | null;
  allDay: boolean;
  status: string;
  showAs: string;
  /** What belongs to an event, in order of time. */
  buffers: readonly { minutes: number; start: string; end: string }[];
}

/** An entry of the day as something that runs or comes. */
export interface TimedEntry<Entry> extends Timed {
  entry: Entry;
}

/** What of a day has a time, and when one has to get up for it. */
export function timedOf<Entry extends DayEntry>(entries: readonly Entry[]): TimedEntry<Entry>[] {
  return entries.flatMap((entry): TimedEntry<Entry>[] => {
    const { kind, id, start, end, allDay, status, showAs, buffers } = entry;
    if (kind === 'task' || allDay || start === null || end === null) return [];
    const begins = Date.parse(start);
    const before = buffers.filter((one) => one.minutes > 0 && Date.parse(one.end) <= begins).map((one) => Date.parse(one.start));
    return [
      {
        ...{ id, kind, entry, start: begins, end: Date.parse(end) },
        done: status === 'COMPLETED' || status === 'CANCELLED',
        takes: kind === 'block' || showAs !== 'free',
        leave: before.length ? Math.min(...before) : null,
      },
    ];
  });
}

/** What comes next, in a line. */
export function sayNext(next: TimedEntry<{ title: string; location: string }>, now: Instant, zone: Zone): string {
  const { title, location } = next.entry;
  const day = dayOf(next.start, zone) === dayOf(now, zone);
  const leave = next.leave === null ? '' : `, get up at ${sayTime(next.leave, zone)}`;
  return `${title} ${day ? 'at' : 'tomorrow at'} ${sayTime(next.start, zone)}${leave}${location ? `, ${location}` : ''}`;
}
