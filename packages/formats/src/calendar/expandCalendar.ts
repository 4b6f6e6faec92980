import { dayOf, inSeriesZone, seriesOccurrences, type Instant, type SeriesPart, type Zone } from '@corvun/core';
import type { CalendarEvent } from './readCalendar';

/** One occurrence of an event within a window. */
export interface ExpandedEvent {
  uid: string;
  start: Instant;
  end: Instant;
  allDay: boolean;
  startDay: string;
  endDay: string;
  title: string;
  status: CalendarEvent['status'];
  busy: boolean;
}

/** All occurrences that touch [from, to), in order; a changed occurrence replaces its original (RECURRENCE-ID). */
export function expandEvents(events: readonly CalendarEvent[], from: Instant, to: Instant, reader: Zone): ExpandedEvent[] {
  const series = new Map<string, CalendarEvent[]>();
  for (const [at, event] of events.entries()) {
    const uid = event.uid || `without ${at}`;
    series.set(uid, [...(series.get(uid) ?? []), event]);
  }
  const all = [...series.values()].flatMap((parts) =>
    seriesOccurrences(latestOf(parts, reader), from, to, reader).map(({ part, occurrence: { start, end, days } }) => ({
      uid: part.uid,
      start,
      end,
      allDay: part.allDay,
      startDay: days?.first ?? dayOf(start, reader),
      endDay: days?.after ?? dayOf(end, reader),
      title: part.title,
      status: part.status,
      busy: part.status !== 'CANCELLED' && !part.transparent,
    })),
  );
  return all.sort((a, b) => a.start - b.start || a.end - b.end || a.uid.localeCompare(b.uid));
}

/** The newest of each date, named in the zone of the series; what has no known time is left out, and so is a rule that cannot be read. */
export function latestOf(parts: readonly CalendarEvent[], reader: Zone): (CalendarEvent & SeriesPart)[] {
  const placed = parts.filter((part) => !part.unplaced);
  const master = placed.findLast((part) => part.recurrenceId === null);
  const latest = new Map<string, CalendarEvent & SeriesPart>();
  for (const part of placed) {
    const named = part.recurrenceId;
    const recurrenceId = named && master ? inSeriesZone(named, part.zone, master, reader) : (named ?? '');
    const known = latest.get(recurrenceId);
    if (!known || known.sequence <= part.sequence) latest.set(recurrenceId, { ...part, recurrenceId });
  }
  return [...latest.values()];
}
