import { addDays, instantOf, type Day } from '../time/zones';
import { occurrences } from './recur';

/** Days in which a rule has to name one. */
const AHEAD = 400;

/**
 * The first day on or after the one given that a repeat rule names; that day itself where it names none.
 * @param rule RRULE without its prefix (RFC 5545, 3.3.10)
 */
export function firstDayOf(rule: string, from: Day): Day {
  if (!rule.includes('BY')) return from;
  // DTSTART counts always: it stands a day before, and is left out.
  const start = addDays(from, -1);
  const series = { start, end: from, allDay: true, zone: 'UTC', rrule: rule, rdates: [], exdates: [start] };
  const at = instantOf(`${from}T00:00`, 'UTC');
  return occurrences(series, at, at + AHEAD * 86_400_000, 'UTC').find(({ key }) => key >= from)?.key ?? from;
}
