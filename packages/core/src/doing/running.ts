import { subtract, type Interval } from '../time/intervals';
import { MINUTE, minutesBetween, type Instant } from '../time/zones';

/** Something of a day that has a time. */
export interface Timed extends Interval {
  id: string;
  kind: 'event' | 'block';
  /** Whether it is done, so that its time is free. */
  done: boolean;
  /** Whether it takes the time. */
  takes: boolean;
  /** When one has to get up for it; null: when it begins. */
  leave: Instant | null;
}

/** What there is to say of a moment. */
export interface Running<T> {
  /** What runs: of several, what is promised to others, else what began last. */
  now: T | null;
  /** What else runs. */
  also: T[];
  /** Minutes until it ends. */
  left: number;
  next: T | null;
  /** Minutes between what runs, or now, and getting up for what comes next; null: nothing comes. */
  gap: number | null;
}

/** What runs at a moment, what comes next, and what lies between. */
export function runningAt<T extends Timed>(entries: readonly T[], now: Instant): Running<T> {
  const open = entries.filter(({ done, takes, end }) => !done && takes && end > now);
  const [first, ...also] = open
    .filter(({ start }) => start <= now)
    .sort((a, b) => Number(a.kind === 'block') - Number(b.kind === 'block') || b.start - a.start || (a.id < b.id ? -1 : 1));
  const next =
    open
      .filter(({ start }) => start > now)
      .sort((a, b) => (a.leave ?? a.start) - (b.leave ?? b.start) || (a.id < b.id ? -1 : 1))[0] ?? null;
  const free = first ? first.end : now;
  return {
    ...{ now: first ?? null, also, left: first ? Math.max(0, Math.ceil((first.end - now) / MINUTE)) : 0, next },
    gap: next ? Math.max(0, minutesBetween(free, next.leave ?? next.start)) : null,
  };
}

/** Own time as it gives way. */
export interface GivesWay extends Interval {
  id: string;
  pinned: boolean;
}

/** What becomes of a day when something takes longer. */
export interface Pushed {
  /** When what runs ends now, and more of its time, where something lies in between. */
  end: Instant;
  more: Interval[];
  /** Minutes of what was wanted for which there was no room. */
  short: number;
  moves: { id: string; start: Instant; end: Instant }[];
  /** Ids of what has no room any more until the end. */
  out: string[];
}

/**
 * Lets what runs take longer: it goes on to the next thing that does not give way, and after it; own time that is in the way
 * goes to the first room after it, in its order, until `until`.
 * @param fixed what does not give way
 * @param later own time that begins after now, in any order
 */
export function pushRest(
  runs: Interval,
  minutes: number,
  fixed: readonly Interval[],
  later: readonly GivesWay[],
  until: Instant,
): Pushed {
  const firm = [...fixed, ...later.filter(({ pinned }) => pinned)];
  const taken: Interval[] = [];
  const roomsFrom = (from: Instant) => subtract([{ start: from, end: until }], [...firm, ...taken]);
  let left = minutes * MINUTE;
  for (const room of roomsFrom(runs.end)) {
    if (left <= 0) break;
    const end = Math.min(room.end, room.start + left);
    taken.push({ start: room.start, end });
    left -= end - room.start;
  }
  const [first] = taken;
  const goesOn = first?.start === runs.end;
  const made: Pushed = {
    ...{ end: goesOn ? first.end : runs.end, more: goesOn ? taken.slice(1) : [...taken] },
    ...{ short: Math.round(left / MINUTE), moves: [], out: [] },
  };
  const movable = later.filter(({ pinned }) => !pinned).sort((a, b) => a.start - b.start || (a.id < b.id ? -1 : 1));
  for (const { id, start, end } of movable) {
    const length = end - start;
    const inTheWay = [...firm, ...taken].some((one) => one.start < end && start < one.end);
    const room = roomsFrom(start).find((one) => one.end - one.start >= length);
    if (!inTheWay) taken.push({ start, end });
    else if (!room) made.out.push(id);
    else {
      taken.push({ start: room.start, end: room.start + length });
      made.moves.push({ id, start: room.start, end: room.start + length });
    }
  }
  return made;
}
