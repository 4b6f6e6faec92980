import { dayOf, occurrences, type Instant, type Zone } from '@corvun/core';
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
  const changed = new Map<string, CalendarEvent>();
  const latest = new Map<string, CalendarEvent>();
  for (const event of events) {
    const key = `${event.uid}\n${event.recurrenceId ?? ''}`;
    const known = event.recurrenceId ? changed.get(key) : latest.get(event.uid);
    if (known && known.sequence > event.sequence) continue;
    if (event.recurrenceId) changed.set(key, event);
    else latest.set(event.uid || `${key}${latest.size}`, event);
  }
  const all: ExpandedEvent[] = [];
  const add = (event: CalendarEvent) => {
    for (const one of occurrences(event, from, to, reader)) {
      if (!event.recurrenceId && changed.has(`${event.uid}\n${one.key}`)) continue;
      all.push({
        uid: event.uid,
        start: one.start,
        end: one.end,
        allDay: event.allDay,
        startDay: dayOf(one.start, reader),
        endDay: dayOf(one.end, reader),
        title: event.title,
        status: event.status,
        busy: event.status !== 'CANCELLED' && !event.transparent,
      });
    }
  };
  for (const event of latest.values()) add(event);
  for (const event of changed.values()) add({ ...event, rrule: null, rdates: [], exdates: [] });
  return all.sort((a, b) => a.start - b.start || a.end - b.end || a.uid.localeCompare(b.uid));
}
