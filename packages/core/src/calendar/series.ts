import { instantOf, wallOf, type Instant, type Zone } from '../time/zones';
import { occurrences, type Occurrence, type Recurring } from './recur';
import { placing } from './times';
import { asWall, wallText, type Steps } from './walk';

/** A series, or a change of one of its dates (RFC 5545, 3.8.4.4). */
export interface SeriesPart extends Recurring {
  /** Empty for the series; else the start of the date that is changed, as wall-clock time or day in the series' own zone. */
  recurrenceId: string;
  /** RANGE=THISANDFUTURE: the change holds for all dates after it, too. */
  following: boolean;
}

/** Whether an event stands for more than one date. */
export const repeats = (part: Pick<SeriesPart, 'rrule' | 'rdates' | 'following'>): boolean =>
  part.rrule !== null || part.rdates.length > 0 || part.following;

const DAY = 86_400_000;
const YEAR = 366 * DAY;
/** How far one looks at first for a date in a stretch, and then: nearly all series have one soon. */
const WIDER = [3 * DAY, 40 * DAY, YEAR, 12 * YEAR, 100 * YEAR];

/**
 * Whether a series has a date that touches [from, to), without placing all of them.
 * @param steps shared with other series; what is not found within them counts as not there
 */
export function touches(parts: readonly SeriesPart[], from: Instant, to: Instant, reader: Zone, steps: Steps): boolean {
  const begins = Math.min(...parts.map((part) => instantOf(firstWall(part), part.zone ?? reader)));
  const first = Math.max(from, begins - YEAR);
  const soonest = Math.max(from, begins);
  return WIDER.map((far) => Math.min(to, soonest + far)).some(
    (end, index, all) => end !== all[index - 1] && first < end && seriesOccurrences(parts, first, end, reader, steps).length > 0,
  );
}

const firstWall = ({ start }: SeriesPart) => (start.length === 10 ? `${start}T00:00` : start);

/**
 * A RECURRENCE-ID in the zone of its series: they are written in UTC, or in the zone of the changed date, and mean the
 * same date all the same.
 * @param from the zone it is written in; null for a floating time
 */
export function inSeriesZone(
  recurrenceId: string,
  from: Zone | null,
  series: { zone: Zone | null; allDay: boolean },
  reader: Zone,
): string {
  if (recurrenceId.length === 10) return recurrenceId;
  const [there, here] = [from ?? reader, series.zone ?? reader];
  const wall = there === here ? recurrenceId : wallOf(instantOf(recurrenceId, there), here);
  return series.allDay ? wall.slice(0, 10) : wall;
}

/**
 * Occurrences of a series with its changed dates, that touch [from, to): a changed date replaces the one it names.
 * @param parts all of one UID
 * @param steps those of the caller, where several series share them
 */
export function seriesOccurrences<T extends SeriesPart>(
  parts: readonly T[],
  from: Instant,
  to: Instant,
  reader: Zone,
  steps: Steps | null = null,
): { part: T; occurrence: Occurrence }[] {
  const series = parts.find((part) => !part.recurrenceId);
  const changes = parts.filter((part) => part.recurrenceId);
  const found = changes.flatMap((part) =>
    occurrences({ ...part, rrule: null, exrule: null, rdates: [], exdates: [] }, from, to, reader).map((occurrence) => ({
      part,
      occurrence: { ...occurrence, key: part.recurrenceId },
    })),
  );
  if (!series) return found;
  const changed = new Set(changes.map((part) => part.recurrenceId));
  const following = changes
    .filter((part) => part.following)
    .map((part) => ({ part, shift: shiftOf(part, series, reader) }))
    .sort((a, b) => a.part.recurrenceId.localeCompare(b.part.recurrenceId));
  const reach = Math.max(0, ...following.map(({ shift }) => Math.abs(shift) + 2 * DAY));
  for (const occurrence of occurrences(series, from - reach, to + reach, reader, steps)) {
    if (changed.has(occurrence.key) || changed.has(occurrence.key.slice(0, 10))) continue;
    const later = following.findLast(({ part }) => part.recurrenceId <= occurrence.key);
    const one = later ? moved(later.part, later.shift, occurrence, series, reader) : occurrence;
    if (one.start < to && (one.end > from || (one.end === one.start && one.start >= from)))
      found.push({ part: later?.part ?? series, occurrence: one });
  }
  return found.sort((a, b) => a.occurrence.start - b.occurrence.start || a.occurrence.end - b.occurrence.end);
}

/** How far a change moves the dates after it, in wall-clock time of the changed date's zone. */
function shiftOf(part: SeriesPart, series: SeriesPart, reader: Zone): number {
  return asWall(part.start) - asWall(inZoneOf(part, part.recurrenceId, series, reader));
}

function inZoneOf(part: SeriesPart, wall: string, series: SeriesPart, reader: Zone): string {
  if (wall.length === 10 || part.allDay) return wall.slice(0, 10);
  const [there, here] = [series.zone ?? reader, part.zone ?? reader];
  return there === here ? wall : wallOf(instantOf(wall, there), here);
}

function moved(part: SeriesPart, shift: number, { key }: Occurrence, series: SeriesPart, reader: Zone): Occurrence {
  const start = wallText(asWall(inZoneOf(part, key, series, reader)) + shift, part.allDay);
  return { ...placing(part, reader)(start), key };
}
