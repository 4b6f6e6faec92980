import type ICAL from 'ical.js';
import { Steps, neverRepeats, readRule, type Alarm, type Recurring, type Zone } from '@corvun/core';
import { CalendarError } from './calendarError';
import { calendarOf } from './component';
import { alarmsOf } from './alarms';
import { aboutOf, type About } from './about';
import type { OwnText } from './ownText';
import { textOf } from './text';
import { Times, wallText } from './times';
import { resolveZone, type FoundZone, type Zones } from './zone';

export { CalendarError };

/** One VEVENT (RFC 5545, 3.6.1): a series, a single event, or a changed occurrence of a series. */
export interface CalendarEvent extends Recurring, About {
  uid: string;
  sequence: number;
  /** RECURRENCE-ID as wall-clock time or day in this event's own zone; null for the series itself. */
  recurrenceId: string | null;
  /** RANGE=THISANDFUTURE: it changes all dates after it, too. */
  following: boolean;
  exrule: string | null;
  duration: string | null;
  /** The zone its end is said in, where that is another than the zone it begins in. */
  endZone: Zone | null;
  title: string;
  description: string;
  location: string;
  status: 'CONFIRMED' | 'TENTATIVE' | 'CANCELLED';
  transparent: boolean;
  /** Null where none is said. */
  alarms: Alarm[] | null;
  /** Sentences on what of it could not be read or kept. */
  problems: string[];
  /** Why its time cannot be known, as a sentence; null when it is known. No guess is made. */
  unplaced: string | null;
  /** As it is written; absent where it was not read from a text that is kept. */
  own?: OwnText;
}

/** Zones of one calendar; more are no calendar of people. */
const MOST_ZONES = 200;
/** Steps for the clocks of all of them. */
export const CALENDAR_STEPS = 3_000_000;

/**
 * Events of an iCalendar text.
 * @param reader the reader's zone, tried first for a private zone name
 * @throws CalendarError when it is no iCalendar
 */
export function readCalendar(text: Buffer | string, reader: Zone): CalendarEvent[] {
  const found = calendarOf(text);
  if (!found) throw new CalendarError('This is not an iCalendar file: there is no calendar in it.');
  const zones = zonesOf(found.root, reader);
  return found.root.getAllSubcomponents('vevent').flatMap((component) => eventOf(component, zones, found.problems) ?? []);
}

/** @param steps what is left of them for the whole file */
export function zonesOf(root: ICAL.Component, reader: Zone, steps = new Steps(CALENDAR_STEPS)): Map<string, FoundZone> {
  const zones = new Map<string, FoundZone>();
  for (const component of root.getAllSubcomponents('vtimezone').slice(0, MOST_ZONES)) {
    const id = component.getFirstPropertyValue('tzid');
    if (typeof id === 'string') zones.set(id, resolveZone(id, component, reader, steps));
  }
  return zones;
}

/** One VEVENT; null when it has no DTSTART that can be read. @param problems said of it before */
export function eventOf(component: ICAL.Component, zones: Zones, problems: string[] = []): CalendarEvent | null {
  const said = [...problems];
  const times = new Times(component, zones, said);
  const { start, zone } = times;
  if (!start) return null;
  const text = (name: string) => textOf(component, name);
  const status = text('status').toUpperCase();
  const range = component.getFirstProperty('recurrence-id')?.getFirstParameter('range');
  const { end, duration, endZone } = times.end();
  return {
    uid: text('uid'),
    sequence: Number(text('sequence')) || 0,
    recurrenceId: times.walls('recurrence-id')[0] ?? null,
    following: String(range ?? '').toUpperCase() === 'THISANDFUTURE',
    start: wallText(start),
    end,
    duration,
    endZone,
    allDay: start.isDate,
    zone: start.isDate ? null : zone,
    rrule: repeatOf(component, wallText(start), said),
    exrule: rulesOf(component, 'exrule', said),
    rdates: times.walls('rdate'),
    exdates: times.walls('exdate'),
    title: text('summary'),
    description: text('description'),
    location: text('location'),
    status: status === 'CANCELLED' || status === 'TENTATIVE' ? status : 'CONFIRMED',
    transparent: text('transp').toUpperCase() === 'TRANSPARENT',
    alarms: alarmsOf(component),
    ...aboutOf(component, text, zones),
    problems: [...new Set(said)],
    unplaced: times.unplaced,
  };
}

/** RRULE; none where it never gives another date (RFC 5545, 3.8.5.3: DTSTART is a date all the same). */
function repeatOf(component: ICAL.Component, start: string, problems: string[]): string | null {
  const rrule = rulesOf(component, 'rrule', problems);
  if (!rrule || /FREQ=(?:SECONDLY|MINUTELY)/i.test(rrule)) return rrule;
  try {
    if (!neverRepeats({ start, rrule })) return rrule;
    if (readRule(rrule.split('\n')[0] ?? '').count !== 1)
      problems.push('Its repeat rule never gives another date, so it is kept as a single event.');
    return null;
  } catch (problem) {
    problems.push(
      `${problem instanceof Error ? problem.message : 'Its repeat rule cannot be read.'} It is kept as a single event.`,
    );
    return null;
  }
}

/** Rules of one kind, parted by line breaks; null when there is none. */
function rulesOf(component: ICAL.Component, name: 'rrule' | 'exrule', problems: string[]): string | null {
  const rules = component.getAllProperties(name).flatMap((property) => {
    try {
      // The parser knows EXRULE (RFC 2445) as text.
      return [String(property.getFirstValue() ?? '').trim()].filter((rule) => /FREQ=/i.test(rule));
    } catch {
      problems.push('A repeat rule could not be read, so its dates are missing.');
      return [];
    }
  });
  return rules.length ? rules.slice(0, 10).join('\n') : null;
}
