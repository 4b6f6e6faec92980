import { union, type Interval } from '../time/intervals';
import { MINUTE, dayOf, type Zone } from '../time/zones';
import { placeKey, type BufferSettings, type EventBuffers } from './bufferRules';

/** Time that belongs to an event: before it, on the way to and from it, after it, or after a long stretch that ends with it. */
export type BufferKind = 'prep' | 'travel' | 'follow-up' | 'pause';

/** One date of an event that takes time. */
export interface Buffered extends Interval {
  id: string;
  /** The date of a series. */
  occurrence: string | null;
  calendarId: string;
  category: string;
  location: string;
  /** Somebody else called it. */
  ofOthers: boolean;
  /** What it says itself; null: what is so for its like. */
  buffers: EventBuffers | null;
  /** Minutes of the tasks that are done beside it; it takes at least as long. */
  carried: { prep: number; followUp: number };
}

/** A stretch beside an event; empty where nothing of it fits. */
export interface Buffer<E extends Buffered = Buffered> extends Interval {
  kind: BufferKind;
  of: E;
  /** Minutes it should have. */
  wanted: number;
  /** Of a way: the places it leads from and to. */
  from: string;
  to: string;
}

/** Who is on the way to somewhere else within so many minutes goes there straight, and not back first. */
const STAYS = 120;
/** Less than that between two events is no pause; minutes. */
const BREATH = 10;
/** Who gets what there is, where it is not enough for all. */
const FIRST: BufferKind[] = ['travel', 'prep', 'follow-up', 'pause'];

type Claim<E extends Buffered> = Omit<Buffer<E>, 'start' | 'end'> & { got: number };

/**
 * The time beside events, in order: each stretch touches its event, or what of the same event lies between, and takes only
 * what no event takes; where that is too little, ways come first, then what is before, after, and pauses.
 * @param dates events that take time, with an hour
 */
export function buffersOf<E extends Buffered>(dates: readonly E[], settings: BufferSettings, reader: Zone): Buffer<E>[] {
  const timed = dates.filter((one) => one.end > one.start).sort((a, b) => a.start - b.start || a.end - b.end);
  const ways = waysOf(timed, settings, reader);
  const stretches = union(timed);
  const before = new Map<number, Claim<E>[]>();
  const after = new Map<number, Claim<E>[]>();
  const lost: Buffer<E>[] = [];
  const begins = new Set(stretches.map(({ start }) => start));
  const ends = new Set(stretches.map(({ end }) => end));
  const claim = (kind: BufferKind, of: E, minutes: number, side: 'before' | 'after', from = '', to = '') => {
    if (minutes <= 0) return;
    const [edges, claims, at] = side === 'before' ? [begins, before, of.start] : [ends, after, of.end];
    // Another event stands there.
    if (!edges.has(at)) lost.push({ kind, of, wanted: minutes, from, to, start: at, end: at });
    else claims.set(at, [...(claims.get(at) ?? []), { kind, of, wanted: minutes, from, to, got: 0 }]);
  };
  timed.forEach((one, at) => {
    const { there, back } = ways[at] as Ways;
    const { prep, followUp } = minutesOf(one, settings);
    claim('travel', one, there.minutes, 'before', there.from, there.to);
    claim('prep', one, prep, 'before');
    claim('travel', one, back.minutes, 'after', back.from, back.to);
    claim('follow-up', one, followUp, 'after');
  });
  for (const { end, of } of settings.pause ? longOnes(timed, settings.pause.after) : [])
    if (ends.has(end)) claim('pause', of, settings.pause?.minutes ?? 0, 'after');
  const placed = gapsBetween(stretches).flatMap((gap) => share(gap, after.get(gap.start) ?? [], before.get(gap.end) ?? []));
  return [...placed, ...lost].sort((a, b) => a.start - b.start || a.end - b.end);
}

/** Where one comes from to a date; empty where it is at no place one goes to. */
export function comesFrom(dates: readonly Buffered[], of: Buffered, settings: BufferSettings, reader: Zone): string {
  const timed = dates.filter((one) => one.end > one.start).sort((a, b) => a.start - b.start || a.end - b.end);
  return waysOf(timed, settings, reader)[timed.indexOf(of)]?.there.from ?? '';
}

/** What an event itself says, else the first rule that is for its like. */
function minutesOf(one: Buffered, { rules }: BufferSettings): { prep: number; followUp: number } {
  const length = (one.end - one.start) / MINUTE;
  const rule = rules.find(
    ({ of, calendarId, category, over }) =>
      (of === 'all' || (of === 'others') === one.ofOthers) &&
      (calendarId === null || calendarId === one.calendarId) &&
      (!category || category.toLowerCase() === one.category.toLowerCase()) &&
      length > over,
  );
  const { buffers, carried } = one;
  return {
    prep: Math.max(buffers?.prep ?? rule?.prep ?? 0, carried.prep),
    followUp: Math.max(buffers?.followUp ?? rule?.followUp ?? 0, carried.followUp),
  };
}

interface Way {
  from: string;
  to: string;
  minutes: number;
}
interface Ways {
  there: Way;
  back: Way;
}

/** The ways to and from each event: from the place of the one before, if that is on the same day and soon, else from where one is usually. */
function waysOf(timed: readonly Buffered[], { base, travel }: BufferSettings, reader: Zone): Ways[] {
  const known = new Map(travel.flatMap(({ from, to, minutes }) => [[pairKey(from, to), minutes] as const]));
  const home = placeKey(base);
  const away = timed.filter((one) => placeKey(one.location) && placeKey(one.location) !== home);
  const order = new Map(away.map((one, at) => [one, at]));
  const none = { from: '', to: '', minutes: 0 };
  const lasting = (from: string, to: string, own: number | null) => {
    if (placeKey(from) === placeKey(to)) return 0;
    const fromHome = Math.max(known.get(pairKey(base, from)) ?? 0, known.get(pairKey(base, to)) ?? 0);
    return own ?? known.get(pairKey(from, to)) ?? fromHome;
  };
  const soon = (one: Buffered | undefined, next: Buffered | undefined) =>
    one !== undefined &&
    next !== undefined &&
    next.start >= one.end &&
    next.start - one.end <= STAYS * MINUTE &&
    dayOf(one.start, reader) === dayOf(next.start, reader);
  return timed.map((one) => {
    const at = order.get(one);
    if (at === undefined) return { there: none, back: none };
    const [last, next] = [away[at - 1], away[at + 1]];
    const own = one.buffers?.travel ?? null;
    const from = last && soon(last, one) ? last.location : base;
    return {
      there: { from, to: one.location, minutes: lasting(from, one.location, own) },
      back: soon(one, next) ? none : { from: one.location, to: base, minutes: lasting(one.location, base, own) },
    };
  });
}

/** One way is as long as the other. */
const pairKey = (from: string, to: string) => [placeKey(from), placeKey(to)].sort().join('\n');

/** Ends of stretches of events, almost without a pause between, that are as long, and the event each ends with. */
function longOnes<E extends Buffered>(timed: readonly E[], after: number): { end: number; of: E }[] {
  const found: { start: number; end: number; of: E }[] = [];
  for (const one of timed) {
    const last = found.at(-1);
    if (!last || one.start - last.end >= BREATH * MINUTE) found.push({ start: one.start, end: one.end, of: one });
    else if (one.end >= last.end) Object.assign(last, { end: one.end, of: one });
  }
  return found.filter(({ start, end }) => end - start >= after * MINUTE);
}

function gapsBetween(stretches: readonly Interval[]): Interval[] {
  const first = stretches[0];
  if (!first) return [];
  return [
    { start: -Infinity, end: first.start },
    ...stretches.map(({ end }, at) => ({ start: end, end: stretches[at + 1]?.start ?? Infinity })),
  ];
}

/** Shares a gap among what comes after the event before it and what comes before the one after it. */
function share<E extends Buffered>({ start, end }: Interval, after: Claim<E>[], before: Claim<E>[]): Buffer<E>[] {
  let left = Math.floor((end - start) / MINUTE);
  for (const kind of FIRST)
    for (const one of [...after, ...before].filter((claim) => claim.kind === kind)) {
      one.got = Math.min(one.wanted, left);
      left -= one.got;
    }
  let [from, until] = [start, end];
  // A pause is only known when everything else is: it stands last on its side already.
  const behind = after.map(({ got, ...one }) => ({ ...one, start: from, end: (from += got * MINUTE) }));
  const ahead = before.map(({ got, ...one }) => ({ ...one, end: until, start: (until -= got * MINUTE) }));
  return [...behind, ...ahead];
}
