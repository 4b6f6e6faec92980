import type ICAL from 'ical.js';
import { inSeriesZone, type Zone } from '@corvun/core';
import { EVENT_FIELDS, changeComponent } from './changeComponent';
import { calendarOf } from './component';
import { putTogether, takeApart, withZones, zoneTexts } from './ownText';
import { eventOf, zonesOf, type CalendarEvent } from './readCalendar';

/** What of an object is to be as it is said elsewhere: names as in `changeComponent`, or `date` and the key of a changed date. */
export interface ObjectChange {
  component: 'vevent' | 'vtodo';
  fields: readonly string[];
  /** Of changed dates: which of their fields; all where none are named. */
  dates?: Readonly<Record<string, readonly string[]>>;
  reader: Zone;
}

/** How a changed date is called: by the date of the series that it changes, in the zone of the series. */
function dateKey(date: CalendarEvent, series: CalendarEvent | null, reader: Zone): string {
  const named = date.recurrenceId ?? '';
  return named && series ? inSeriesZone(named, date.zone, series, reader) : named;
}

const DATE = 'date ';

/**
 * An object (RFC 4791, 4.1) with some fields as another text has them. Everything else stays as it is written: what nobody
 * here knows is not lost.
 * @param present the object as it is
 * @param wanted the object as it would be written anew
 */
export function changeObject(present: string, wanted: string, change: ObjectChange): string {
  const [there, here] = [partsOf(present, change), partsOf(wanted, change)];
  if (!there || !here) return wanted;
  const parts = new Map(there.parts);
  for (const key of new Set(change.fields.map((field) => (field.startsWith(DATE) ? field.slice(DATE.length) : '')))) {
    const [to, from] = [parts.get(key), here.parts.get(key)];
    const fields = key ? (change.dates?.[key] ?? EVENT_FIELDS.filter((one) => one !== 'of')) : change.fields;
    if (to !== undefined && from !== undefined) parts.set(key, changeComponent(to, from, fields));
    else if (from !== undefined) parts.set(key, from);
    else if (key) parts.delete(key);
  }
  return putTogether(
    there.around,
    [...parts].map(([key, text]) => ({
      text,
      around: text === there.parts.get(key) ? there.around : withZones(there.around, zoneTexts(here.around)),
    })),
  );
}

interface Parts {
  around: string;
  /** By the key of their date; that of the series or of a single one is empty. */
  parts: Map<string, string>;
}

function partsOf(text: string, { component, reader }: ObjectChange): Parts | null {
  const root = calendarOf(text)?.root;
  if (!root) return null;
  const all = root.getAllSubcomponents(component);
  let { around, texts } = takeApart(text, component);
  // What is too broken to be taken apart as it is written is written anew.
  if (texts.length !== all.length) ({ around, texts } = takeApart(root.toString(), component));
  const keys = component === 'vtodo' ? all.map((one) => [one, recurrenceOf(one)] as const) : dateKeys(root, all, reader);
  return { around, parts: new Map(keys.map(([one, key]) => [key, texts[all.indexOf(one)] ?? ''])) };
}

function dateKeys(root: ICAL.Component, all: readonly ICAL.Component[], reader: Zone): (readonly [ICAL.Component, string])[] {
  const zones = zonesOf(root, reader);
  const read = all.flatMap((one) => {
    const event = eventOf(one, zones);
    return event ? [{ one, event }] : [];
  });
  const series = read.find(({ event }) => event.recurrenceId === null)?.event ?? null;
  return read.map(({ one, event }) => [one, event.recurrenceId === null ? '' : dateKey(event, series, reader)] as const);
}

const recurrenceOf = (component: ICAL.Component): string => String(component.getFirstPropertyValue('recurrence-id') ?? '');
