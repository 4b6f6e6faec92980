import { wallOf, type Instant, type Zone } from '../time/zones';
import { readRule, type Rule } from './rule';
import { placing, type EventTimes, type Placed } from './times';
import { Steps, asWall, walk, wallText, type WallTime } from './walk';

/** What of an iCalendar event is needed to place its occurrences (RFC 5545, 3.6.1). */
export interface Recurring extends EventTimes {
  /** RRULE without its prefix; several are parted by line breaks. */
  rrule: string | null;
  /** Starts; one with a length of its own (a PERIOD) is `start/end`. */
  rdates: readonly string[];
  exdates: readonly string[];
  /** EXRULE (RFC 2445), like `rrule`. */
  exrule?: string | null;
}

/** One occurrence. `key` is its original start (RECURRENCE-ID): wall-clock time or day. */
export interface Occurrence extends Placed {
  key: string;
}

/** Most occurrences looked at in one window; a rule that repeats every second ends here. */
export const MAX_OCCURRENCES = 20_000;
/** Most steps of one walk; see `Steps`. */
export const MAX_STEPS = 200_000;

/** Steps after which a rule counts as one that never matches: a 29 February on a given weekday comes within forty years. */
const NEVER_STEPS = 40_000;

/** More than any change of a zone's offset. */
const ZONE_MARGIN = 3 * 3_600_000;
/** A COUNT above this is taken as no end: walking there would take minutes. */
const MAX_COUNT = 50_000;
const DAY = 86_400_000;

/** Rules as they are kept: several are parted by line breaks. */
export const linesOf = (rules: string | null | undefined) => (rules ?? '').split('\n').filter(Boolean);

/**
 * Occurrences that touch [from, to), in order. The rule is walked in wall-clock time, so that an event at 9:00 stays at
 * 9:00 across daylight-saving changes; a DTEND keeps its exact length (RFC 5545, 3.8.5.3). DTSTART is the first one and
 * counts for COUNT, even where it does not fit its rule.
 * @param steps those of the caller, where several events share them; else each rule has its own
 * @throws RangeError for a rule that cannot be read
 */
export function occurrences(
  event: Recurring,
  from: Instant,
  to: Instant,
  reader: Zone,
  steps: Steps | null = null,
): Occurrence[] {
  const zone = event.zone ?? reader;
  const placed = placing(event, reader);
  const place = (start: string): Occurrence => ({ key: keyOf(start), ...placed(start) });
  const first = place(event.start);
  const length = Math.max(0, first.end - first.start, ...lengthsOf(event, place));
  const window = {
    first: asWall(wallOf(from - length - ZONE_MARGIN, zone)),
    last: asWall(wallOf(to + DAY, zone)),
  };
  const starts = new Set([event.start]);
  for (const rule of linesOf(event.rrule))
    for (const time of datesOf(readRule(rule), event, zone, window, true, steps)) starts.add(wallText(time, event.allDay));
  for (const extra of event.rdates) starts.add(extra);
  const excluded = new Set(event.exdates);
  for (const rule of linesOf(event.exrule))
    for (const time of datesOf(readRule(rule), event, zone, window, false, steps)) excluded.add(wallText(time, event.allDay));
  return [...starts]
    .filter((start) => !excluded.has(keyOf(start)) && (event.allDay || !excluded.has(start.slice(0, 10))))
    .map((start) => place(start))
    .filter((one) => one.start < to && (one.end > from || (one.end === one.start && one.start >= from)))
    .sort((a, b) => a.start - b.start);
}

/**
 * Whether a rule gives no date besides DTSTART, ever; such an event is kept as a single one.
 * @throws RangeError for a rule that cannot be read
 */
export function neverRepeats(event: Pick<Recurring, 'start' | 'rrule'>): boolean {
  const start = asWall(event.start);
  return linesOf(event.rrule).every((text) => {
    const rule = readRule(text);
    if (rule.count === 1) return true;
    for (const time of walk(rule, start, start, new Steps(NEVER_STEPS))) if (time > start) return false;
    return true;
  });
}

/** Dates of one rule that can touch the window. @param inclusive DTSTART is the first, even where the rule does not give it */
function* datesOf(
  rule: Rule,
  event: Recurring,
  zone: Zone,
  window: { first: WallTime; last: WallTime },
  inclusive: boolean,
  steps: Steps | null,
): Generator<WallTime> {
  const start = asWall(event.start);
  const count = rule.count !== null && rule.count <= MAX_COUNT ? rule.count : Infinity;
  const until = rule.until === null ? Infinity : untilInWall(rule.until, event.allDay, zone);
  let [seen, given] = [inclusive ? 1 : 0, 0];
  if (seen >= count) return;
  // What is counted is counted from the start; everything else begins near the window.
  const near = count === Infinity ? window.first : start;
  for (const time of walk(rule, start, near, steps ?? new Steps(MAX_STEPS), window.last)) {
    if (time > window.last || time > until) return;
    if (inclusive && time === start) continue;
    seen += 1;
    if (seen > count) return;
    if (time < window.first) continue;
    given += 1;
    if (given > MAX_OCCURRENCES) return;
    yield time;
  }
}

/** The name of a start: a PERIOD is named by its beginning. */
export const keyOf = (start: string) => start.split('/')[0] ?? start;

/** Lengths of extra dates that have one of their own. */
function lengthsOf(event: Recurring, place: (start: string) => Occurrence): number[] {
  return event.rdates.filter((one) => one.includes('/')).map((one) => place(one).end - place(one).start);
}

/** UNTIL is in UTC for zoned events (3.3.10); the walk is in wall-clock time. A bare date includes its whole day. */
export function untilInWall(until: string, allDay: boolean, zone: Zone): WallTime {
  const iso = until.replace(/^(\d{4})(\d{2})(\d{2})(?:T(\d{2})(\d{2})(\d{2})(Z?))?$/, '$1-$2-$3T$4:$5:$6Z');
  if (until.length === 8) return asWall(`${iso.slice(0, 10)}T00:00`) + (allDay ? 0 : DAY - 1000);
  const instant = Date.parse(iso);
  if (Number.isNaN(instant)) return Infinity;
  if (!until.endsWith('Z')) return instant;
  const wall = wallOf(instant, zone);
  return allDay ? asWall(wall.slice(0, 10)) : asWall(wall) + (instant % 60_000);
}
