import { inSeriesZone, type Zone } from '@corvun/core';
import type { CalendarEvent } from '@corvun/formats';
import { In } from 'typeorm';
import type { Work } from '../kernel/work';
import { keepTexts, textIdOf, type TextToKeep } from '../own-text/keep-texts';
import { saidOfEvent } from '../own-text/state';
import { Event } from './event.entity';
import type { Reader } from './event-state';
import { eventFields, uidOf, type KeptFields } from './event-fields';

export interface TakenEvents {
  taken: number;
  updated: number;
  known: number;
  refused: { at: string; reason: string }[];
  /** UID and RECURRENCE-ID of all that are there now. */
  keys: string[];
}

export const eventKey = (event: { uid: string; recurrenceId: string | null }) => `${event.uid}\n${event.recurrenceId ?? ''}`;

/** Fields a source may change; the rest (what it came from, the owner's answer) is ours. */
const COMPARED = [
  'start',
  'end',
  'allDay',
  'zone',
  'title',
  'description',
  'location',
  'status',
  'transparent',
  'rrule',
  'rdates',
  'exdates',
  'exrule',
  'duration',
  'endZone',
  'following',
  'attendees',
  'link',
  'category',
  'meetingLink',
  'alarms',
  'textId',
] as const;

/** Brings events into a calendar: new ones are taken, changed ones updated, and an older SEQUENCE never overwrites a newer one. */
export async function takeEvents(
  work: Work,
  calendarId: string,
  events: readonly CalendarEvent[],
  reader: Reader,
): Promise<TakenEvents> {
  const { zone } = reader;
  const result: TakenEvents = { taken: 0, updated: 0, known: 0, refused: [], keys: [] };
  const rows = await work.manager.findBy(Event, {
    ownerId: work.ownerId,
    calendarId,
    uid: In([...new Set(events.map(uidOf))]),
  });
  const known = new Map(rows.map((row) => [eventKey(row), row]));
  let fresh: Event[] = [];
  let texts: TextToKeep[] = [];
  const writeFresh = async () => {
    await keepTexts(work, texts);
    await work.insertAll('event', fresh);
    [fresh, texts] = [[], []];
  };
  // A series comes before its changed dates, which are named in its zone.
  for (const event of [...events].sort((a, b) => Number(a.recurrenceId !== null) - Number(b.recurrenceId !== null))) {
    const uid = uidOf(event);
    let kept: KeptFields;
    try {
      kept = eventFields(event, zone, known.get(eventKey({ uid, recurrenceId: null })) ?? null);
    } catch (problem) {
      if (!(problem instanceof RangeError)) throw problem;
      result.refused.push({ at: event.title || event.uid, reason: problem.message });
      continue;
    }
    const { said } = kept;
    const row = known.get(eventKey(kept.fields));
    // What a file says nothing of stays as it is here.
    const text = { own: event.own, said: saidOfEvent(kept.fields, reader), loose: true };
    const textId = textIdOf(work.ownerId, text);
    const fields = { ...kept.fields, alarms: kept.fields.alarms ?? row?.alarms ?? null, textId };
    for (const reason of said) result.refused.push({ at: event.title || event.uid, reason: `It was taken, but: ${reason}` });
    const key = eventKey(fields);
    result.keys.push(key);
    if (!row) {
      const made = work.fresh('event', { ...fields, calendarId, incomingId: null, partstat: null, buffers: null, mirror: null });
      fresh.push(made);
      texts.push(text);
      known.set(key, made);
      result.taken += 1;
      if (!fields.recurrenceId)
        for (const one of await renameDates(
          work,
          [...known.values()].filter((other) => other.uid === uid),
          null,
          made,
          zone,
        ))
          known.set(eventKey(one), one);
      continue;
    }
    const changed = COMPARED.some((field) => JSON.stringify(row[field]) !== JSON.stringify(fields[field]));
    if (!changed || fields.sequence < row.sequence) result.known += 1;
    else {
      // The same event twice in one file: the first must be there before it can change.
      if (fresh.includes(row)) await writeFresh();
      texts.push(text);
      const after = await work.update('event', row, fields);
      known.set(key, after);
      result.updated += 1;
      if (!after.recurrenceId && after.zone !== row.zone)
        for (const one of await renameDates(
          work,
          [...known.values()].filter((other) => other.uid === uid),
          row,
          after,
          zone,
        ))
          known.set(eventKey(one), one);
    }
  }
  await writeFresh();
  return result;
}

/**
 * Names changed dates in the zone of their series, when that arrives after them or moves to another zone.
 * @param before the series as it was; null when the dates were there without it
 * @returns what was changed
 */
export async function renameDates(
  work: Work,
  rows: readonly Event[],
  before: Pick<Event, 'zone'> | null,
  series: Pick<Event, 'id' | 'zone' | 'allDay'>,
  reader: Zone,
): Promise<Event[]> {
  const renamed: Event[] = [];
  for (const row of rows) {
    if (!row.recurrenceId || row.id === series.id) continue;
    const recurrenceId = inSeriesZone(row.recurrenceId, before ? before.zone : row.zone, series, reader);
    if (recurrenceId === row.recurrenceId || rows.some((one) => one.recurrenceId === recurrenceId)) continue;
    renamed.push(await work.update('event', row, { recurrenceId }));
  }
  return renamed;
}
