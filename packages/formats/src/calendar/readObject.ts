import type { Zone } from '@corvun/core';
import { CalendarError } from './calendarError';
import { calendarOf } from './component';
import { eventOf, zonesOf, type CalendarEvent } from './readCalendar';
import { todoOf, type CalendarTodo } from './todo';

/** Events and tasks of one calendar object (RFC 4791, 4.1). @throws CalendarError when it is no iCalendar, or has a METHOD */
export function readObject(text: Buffer | string, reader: Zone): { events: CalendarEvent[]; todos: CalendarTodo[] } {
  const found = calendarOf(text);
  if (!found) throw new CalendarError('This is not an iCalendar object: there is no calendar in it.');
  if (found.root.getFirstProperty('method')) throw new CalendarError('An object of a calendar has no METHOD.');
  const zones = zonesOf(found.root, reader);
  return {
    events: found.root.getAllSubcomponents('vevent').flatMap((one) => eventOf(one, zones, found.problems) ?? []),
    todos: found.root.getAllSubcomponents('vtodo').map((one) => todoOf(one, zones, reader)),
  };
}
