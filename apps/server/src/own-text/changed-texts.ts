import type { Zone } from '@corvun/core';
import {
  CalendarError,
  changeComponent,
  putTogether,
  readObject,
  withZones,
  zoneTexts,
  zonesSince,
  type OwnText,
} from '@corvun/formats';
import { eventFields } from '../events/event-fields';
import type { Reader } from '../events/event-state';
import { fieldsBetween, saidOfEvent, saidOfTodo, type Said } from './state';

/** A row that says something else than its text. */
export interface Differing {
  own: OwnText;
  /** The row as it would be written anew. */
  wanted: OwnText;
  here: Said;
  /** Of a changed date: the zone of its series. */
  series: { zone: Zone | null; allDay: boolean } | null;
  /** Of a task: the name of its list. */
  list: string;
}

/** Texts with what their rows say otherwise written into them. One that cannot be read again is written anew. */
export const changedTexts = (all: readonly Differing[], reader: Reader): OwnText[] =>
  all.map((one) => {
    const there = saidIn(one, reader);
    if (!there) return one.wanted;
    const text = changeComponent(one.own.text, one.wanted.text, fieldsBetween(there, one.here));
    const zones = new Map([...zonesSince(text, one.own.text), ...zoneTexts(one.wanted.around)]);
    return { text, around: withZones(one.own.around, zones) };
  });

function saidIn({ own, series, list }: Differing, reader: Reader): Said | null {
  try {
    const { events, todos } = readObject(putTogether(own.around, [own]), reader.zone);
    const [[event], [todo]] = [events, todos];
    if (event) return saidOfEvent(eventFields(event, reader.zone, series).fields, reader);
    return todo ? saidOfTodo(todo, { list }) : null;
  } catch (problem) {
    if (problem instanceof RangeError || problem instanceof CalendarError) return null;
    throw problem;
  }
}
