import { Frequency, RRule, type Options } from 'rrule';
import { addDays, dayOf, daysBetween, instantOf, startOfDay, wallOf, type Instant, type Zone } from '../time/zones';

/** What of an iCalendar event is needed to place its occurrences (RFC 5545, 3.6.1). */
export interface Recurring {
  /** Wall-clock time in `zone`, or a day for an all-day event. */
  start: string;
  end: string;
  allDay: boolean;
  /** IANA zone; null for a floating time, which is read in the reader's zone. */
  zone: Zone | null;
  rrule: string | null;
  rdates: readonly string[];
  exdates: readonly string[];
}

/** One occurrence. `key` is its original start (RECURRENCE-ID): wall-clock time or day. */
export interface Occurrence {
  key: string;
  start: Instant;
  end: Instant;
}

/** Most occurrences looked at in one window; a rule that repeats every second ends here. */
export const MAX_OCCURRENCES = 20_000;

/** More than any change of a zone's offset. */
const ZONE_MARGIN = 3 * 3_600_000;
/** A COUNT above this is taken as no end: walking there would take minutes. */
const MAX_COUNT = 50_000;

const asUtc = (wall: string) => new Date(`${wall.length === 10 ? `${wall}T00:00` : wall}Z`);
const wallOfUtc = (date: Date, allDay: boolean) => date.toISOString().slice(0, allDay ? 10 : 16);

/**
 * Occurrences that touch [from, to), in order. The rule is walked in wall-clock time, so that an event at
 * 9:00 stays at 9:00 across daylight-saving changes; a DTEND keeps its exact length (RFC 5545, 3.8.5.3).
 * @throws RangeError for a rule that cannot be read
 */
export function occurrences(event: Recurring, from: Instant, to: Instant, reader: Zone): Occurrence[] {
  const zone = event.zone ?? reader;
  const place = placing(event, zone, reader);
  const length = place(event.start).end - place(event.start).start;
  const starts = new Set<string>();
  const excluded = new Set(event.exdates);
  if (!event.rrule) starts.add(event.start);
  else {
    const first = asUtc(wallOf(from - Math.max(length, 0) - ZONE_MARGIN, zone));
    const rule = ruleOf(event, zone, first);
    const last = asUtc(wallOf(to + 86_400_000, zone));
    rule.between(first, last, true, (date, seen) => {
      starts.add(wallOfUtc(date, event.allDay));
      return (seen ?? 0) < MAX_OCCURRENCES;
    });
    // DTSTART is the first instance even where it does not match the rule (3.8.5.3).
    if (!excluded.has(event.start)) starts.add(event.start);
  }
  for (const extra of event.rdates) starts.add(extra);
  return [...starts]
    .filter((start) => !excluded.has(start) && !(event.allDay ? false : excluded.has(start.slice(0, 10))))
    .map((start) => ({ key: start, ...place(start) }))
    .filter((one) => one.start < to && (one.end > from || (one.end === one.start && one.start >= from)))
    .sort((a, b) => a.start - b.start);
}

function placing(event: Recurring, zone: Zone, reader: Zone): (start: string) => { start: Instant; end: Instant } {
  if (event.allDay) {
    const days = Math.max(1, daysBetween(event.start, event.end));
    return (start) => ({
      start: startOfDay(start.slice(0, 10), reader),
      end: startOfDay(addDays(start.slice(0, 10), days), reader),
    });
  }
  const length = Math.max(0, instantOf(event.end, zone) - instantOf(event.start, zone));
  return (start) => {
    const at = instantOf(start.length === 10 ? `${start}T${event.start.slice(11)}` : start, zone);
    return { start: at, end: at + length };
  };
}

const STEPS: Partial<Record<Frequency, number>> = {
  [Frequency.SECONDLY]: 1000,
  [Frequency.MINUTELY]: 60_000,
  [Frequency.HOURLY]: 3_600_000,
  [Frequency.DAILY]: 86_400_000,
  [Frequency.WEEKLY]: 7 * 86_400_000,
};

/** Where the walk may begin: a whole number of intervals on from DTSTART, so that far windows are not walked to. */
function nearStart(options: Partial<Options>, start: Date, first: Date): Date {
  const step = (STEPS[options.freq ?? Frequency.YEARLY] ?? 0) * (options.interval ?? 1);
  const counted = options.count !== undefined && options.count !== null && options.count <= MAX_COUNT;
  if (!step || counted || first <= start) return start;
  return new Date(start.getTime() + Math.floor((first.getTime() - start.getTime()) / step) * step);
}

function ruleOf(event: Recurring, zone: Zone, first: Date): RRule {
  let options: Partial<Options>;
  try {
    options = RRule.parseString(event.rrule ?? '');
  } catch (problem) {
    throw new RangeError(
      `The repeat rule "${event.rrule}" cannot be read: ${problem instanceof Error ? problem.message : 'unknown'}`,
    );
  }
  if (options.until) options.until = untilInWall(event, options.until, zone);
  if (options.count && options.count > MAX_COUNT) delete options.count;
  return new RRule({ ...options, dtstart: nearStart(options, asUtc(event.start), first), tzid: null }, true);
}

/** UNTIL is in UTC for zoned events (3.3.10); the walk is in wall-clock time. A bare date includes its whole day. */
function untilInWall(event: Recurring, until: Date, zone: Zone): Date {
  const text = /UNTIL=([0-9TZ]+)/i.exec(event.rrule ?? '')?.[1] ?? '';
  if (text.length === 8) return new Date(until.getTime() + (event.allDay ? 0 : 86_399_000));
  return text.endsWith('Z') && !event.allDay
    ? asUtc(wallOf(until.getTime(), zone))
    : event.allDay
      ? asUtc(dayOf(until.getTime(), zone))
      : until;
}
