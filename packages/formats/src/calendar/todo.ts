import ICAL from 'ical.js';
import { alarmAt, instantOf, readDuration, wallOf, type Alarm, type Zone } from '@corvun/core';
import { alarmsOf } from './alarms';
import type { OwnText } from './ownText';
import { textOf } from './text';
import { instantSaid, wallText } from './times';
import { zoneNamed, type Zones } from './zone';

/** One VTODO (RFC 5545, 3.6.2). Days, and wall-clock times in the reader's zone. */
export interface CalendarTodo {
  uid: string;
  title: string;
  description: string;
  status: 'NEEDS-ACTION' | 'IN-PROCESS' | 'COMPLETED' | 'CANCELLED';
  due: string | null;
  start: string | null;
  completed: number | null;
  priority: 'high' | 'normal' | 'low';
  rrule: string | null;
  categories: string[];
  /** ESTIMATED-DURATION or DURATION in minutes. */
  minutes: number | null;
  /** RELATED-TO of the task it is a step of; null where it is none. */
  parent: string | null;
  alarms: Alarm[];
  /** When its first alarm is due, as wall-clock time; null where it has none. */
  reminder: string | null;
  /** As it is written; absent where it was not read from a text that is kept. */
  own?: OwnText;
}

const STATES = new Set(['IN-PROCESS', 'COMPLETED', 'CANCELLED']);

/** @param reader the reader's zone, in which its times are given */
export function todoOf(component: ICAL.Component, zones: Zones, reader: Zone): CalendarTodo {
  const text = (name: string) => textOf(component, name);
  const time = (name: string) => {
    try {
      const property = component.getFirstProperty(name);
      const value = property?.getFirstValue();
      return property && value instanceof ICAL.Time ? { property, value } : null;
    } catch {
      return null;
    }
  };
  const wall = (name: string) => {
    const found = time(name);
    if (!found) return null;
    const written = wallText(found.value);
    const zone = found.value.isDate ? null : zoneOf(found.property, found.value, zones);
    return zone && zone !== reader ? wallOf(instantOf(written, zone), reader) : written;
  };
  const priority = Number(component.getFirstPropertyValue('priority') ?? 0);
  const status = text('status').toUpperCase();
  const completed = time('completed');
  const [due, start] = [wall('due'), wall('dtstart')];
  const alarms = alarmsOf(component) ?? [];
  return {
    uid: text('uid'),
    title: text('summary'),
    description: text('description'),
    status: STATES.has(status) ? (status as CalendarTodo['status']) : completed ? 'COMPLETED' : 'NEEDS-ACTION',
    due,
    start,
    completed: completed ? instantSaid(completed.property, completed.value, zones) : null,
    priority: priority >= 1 && priority <= 4 ? 'high' : priority >= 6 ? 'low' : 'normal',
    rrule: component.getFirstPropertyValue('rrule')?.toString() ?? null,
    categories: component
      .getAllProperties('categories')
      .flatMap((property) => property.getValues().map(String))
      .slice(0, 20),
    minutes: minutesIn(text('estimated-duration')) ?? minutesIn(text('duration')),
    parent: parentOf(component),
    alarms,
    reminder: reminderOf(alarms, start, due, reader),
  };
}

function minutesIn(text: string): number | null {
  const read = readDuration(text);
  return read && (read.days * 1440 + Math.round(read.time / 60_000) || null);
}

function zoneOf(property: ICAL.Property, time: ICAL.Time, zones: Zones): Zone | null {
  const id = property.getFirstParameter('tzid');
  if (!id) return time.zone === ICAL.Timezone.utcTimezone ? 'UTC' : null;
  return zones.get(id)?.zone ?? zoneNamed(id);
}

/** RELATED-TO says a parent where it says nothing else (3.8.4.5). */
function parentOf(component: ICAL.Component): string | null {
  const found = component
    .getAllProperties('related-to')
    .find((property) => /^(?:parent)?$/i.test(String(property.getFirstParameter('reltype') ?? '')));
  return found ? String(found.getFirstValue() ?? '').slice(0, 500) || null : null;
}

/** An alarm that is counted from a start or end that is not said is none (3.8.6.3). */
function reminderOf(alarms: readonly Alarm[], start: string | null, due: string | null, reader: Zone): string | null {
  const at = (wall: string) => instantOf(wall.length === 10 ? `${wall}T00:00` : wall, reader);
  const times = alarms.flatMap((alarm) => {
    const from = alarm.related === 'END' ? due : (start ?? due);
    if (from === null && !alarm.trigger.endsWith('Z')) return [];
    const base = from === null ? 0 : at(from);
    return alarmAt(alarm, { start: base, end: base }, reader) ?? [];
  });
  return times.length ? wallOf(Math.min(...times), reader) : null;
}
