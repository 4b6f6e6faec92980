import { addDays, endOfDay, dayOf, type Zone } from '../time/zones';
import type { SeriesScope, StoredPart } from './command';
import { linesOf } from './recur';
import { readRule } from './rule';
import { repeats, seriesOccurrences } from './series';
import { placeOf } from './times';

/** How many dates a command is about. */
export interface SeriesReach {
  /** Null: without end. */
  dates: number | null;
  /** How many of them were changed by hand before. */
  byHand: number;
}

/** Years in which the dates of what ends are counted. */
const YEARS = 60;

/**
 * How many dates of an event a command reaches.
 * @param occurrence the date that is meant, as it is named
 */
export function reachOf(parts: readonly StoredPart[], scope: SeriesScope, occurrence: string | null, reader: Zone): SeriesReach {
  const series = parts.find((part) => !part.recurrenceId);
  const changes = parts.filter((part) => part.recurrenceId);
  const from = scope === 'following' && occurrence ? occurrence : '';
  if (!series || !repeats(series) || scope === 'this')
    return { dates: 1, byHand: changes.some((part) => part.recurrenceId === occurrence) ? 1 : 0 };
  const byHand = changes.filter((part) => part.recurrenceId >= from).length;
  const rules = linesOf(series.rrule).map(readRule);
  if (rules.some((rule) => rule.count === null && rule.until === null)) return { dates: null, byHand };
  const first = placeOf(series, reader).start;
  const last = endOfDay(addDays(dayOf(first, reader), YEARS * 366), reader);
  const all = seriesOccurrences(parts, first - 86_400_000, last, reader);
  return { dates: all.filter(({ occurrence: { key } }) => key >= from).length, byHand };
}
