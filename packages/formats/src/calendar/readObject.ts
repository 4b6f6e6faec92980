import type ICAL from 'ical.js';
import type { Zone } from '@corvun/core';
import { CalendarError } from './calendarError';
import { calendarOf } from './component';
import { calendarOfZones, takeApart, unknownZones, zoneTexts, type OwnText } from './ownText';
import { eventOf, zonesOf, type CalendarEvent } from './readCalendar';
import { todoOf, type CalendarTodo } from './todo';

/** Events and tasks of one calendar object (RFC 4791, 4.1). @throws CalendarError when it is no iCalendar, or has a METHOD */
export function readObject(text: Buffer | string, reader: Zone): { events: CalendarEvent[]; todos: CalendarTodo[] } {
  const found = calendarOf(text);
  if (!found) throw new CalendarError('This is not an iCalendar object: there is no calendar in it.');
  if (found.root.getFirstProperty('method')) throw new CalendarError('An object of a calendar has no METHOD.');
  const zones = zonesOf(found.root, reader);
  const own = ownTexts(text, found.root);
  return {
    events: own('vevent').flatMap(([one, said]) => {
      const event = eventOf(one, zones, found.problems);
      return event ? [{ ...event, own: said }] : [];
    }),
    todos: own('vtodo').map(([one, said]) => ({ ...todoOf(one, zones, reader), own: said })),
  };
}

/** Gives the components of one kind, each with its text. What is too broken to be taken apart as it is written is written anew. */
export function ownTexts(text: Buffer | string, root: ICAL.Component) {
  return (kind: 'vevent' | 'vtodo'): [ICAL.Component, OwnText][] => {
    const all = root.getAllSubcomponents(kind);
    if (!all.length) return [];
    let { around, texts } = takeApart(text.toString(), kind);
    if (texts.length !== all.length) ({ around, texts } = takeApart(root.toString(), kind));
    // What stood around them is kept once, beside the first: there may be thousands of dates in a large calendar.
    const zones = zoneTexts(around);
    return all.map((one, at) => {
      const text = texts[at] ?? '';
      return [one, { text, around: at === 0 ? around : calendarOfZones(unknownZones(text, zones)) }];
    });
  };
}
