import type { Zone } from '@corvun/core';
import type { CalendarEvent } from '@corvun/formats';
import { In } from 'typeorm';
import type { Work } from '../decisions/journal.service';
import { EventRow } from './event.entity';
import { eventFields } from './event-fields';

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
  'attendees',
  'link',
  'category',
] as const;

/** Brings events into a calendar: new ones are taken, changed ones updated, and an older SEQUENCE never overwrites a newer one. */
export async function takeEvents(
  work: Work,
  calendarId: string,
  events: readonly CalendarEvent[],
  zone: Zone,
): Promise<TakenEvents> {
  const result: TakenEvents = { taken: 0, updated: 0, known: 0, refused: [], keys: [] };
  const rows = await work.manager.findBy(EventRow, {
    ownerId: work.ownerId,
    calendarId,
    uid: In([...new Set(events.map((event) => event.uid))]),
  });
  const known = new Map(rows.map((row) => [eventKey(row), row]));
  let fresh: EventRow[] = [];
  const writeFresh = async () => {
    await work.insertAll('event', fresh);
    fresh = [];
  };
  for (const event of events) {
    let fields;
    try {
      fields = eventFields(event, zone);
    } catch (problem) {
      result.refused.push({
        at: event.title || event.uid,
        reason: problem instanceof Error ? problem.message : 'It cannot be read.',
      });
      continue;
    }
    const key = eventKey(fields);
    result.keys.push(key);
    const row = known.get(key);
    if (!row) {
      const made = work.fresh('event', { ...fields, calendarId, incomingId: null, partstat: null });
      fresh.push(made);
      known.set(key, made);
      result.taken += 1;
      continue;
    }
    const changed = COMPARED.some((field) => JSON.stringify(row[field]) !== JSON.stringify(fields[field]));
    if (!changed || fields.sequence < row.sequence) result.known += 1;
    else {
      // The same event twice in one file: the first must be there before it can change.
      if (fresh.includes(row)) await writeFresh();
      known.set(key, await work.update('event', row, fields));
      result.updated += 1;
    }
  }
  await writeFresh();
  return result;
}
