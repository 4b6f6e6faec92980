import type { NoteInfo } from '@corvun/contract';
import { dayOf, isoInZone, repeats, sayDay } from '@corvun/core';
import type { EntityManager } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { notFound } from '../base/errors';
import { dateOf } from '../events/edit-events';
import { Event } from '../events/event.entity';
import type { Work } from '../kernel/work';
import { Note } from './note.entity';

/** What a page has that is of no meeting. */
export const OF_NO_MEETING = { eventUid: null, eventDate: '' } as const;

/** A date of a meeting, and the name under which pages belong to it. */
interface MeetingDate {
  part: Event;
  start: number;
  eventUid: string;
  eventDate: string;
}

/** @param occurrence of a series: which date; the first one where none is said. @throws Refusal 404 */
async function meetingAt(manager: EntityManager, user: User, id: string, occurrence: string | undefined): Promise<MeetingDate> {
  const asked = await manager.findOneBy(Event, { ownerId: user.id, id });
  if (!asked) throw notFound('event with this id');
  const parts = await manager.findBy(Event, { ownerId: user.id, calendarId: asked.calendarId, uid: asked.uid });
  const key = occurrence ?? (asked.recurrenceId || asked.start);
  const date = dateOf(parts, key, user.zone);
  if (!date) throw notFound('such occurrence');
  const isSeries = parts.some((part) => !part.recurrenceId && repeats(part));
  return { part: date.part, start: date.start, eventUid: asked.uid, eventDate: isSeries ? key : '' };
}

/** The page of a meeting; null: there is none yet. */
export const pageOf = (manager: EntityManager, ownerId: string, of: Pick<Note, 'eventUid' | 'eventDate'>): Promise<Note | null> =>
  manager.findOneBy(Note, { ownerId, eventUid: of.eventUid ?? '', eventDate: of.eventDate });

/** Writes into the page of a meeting, which is begun where there is none: one for each of its dates. @throws Refusal 404, 409 */
export async function writePage(
  work: Work,
  user: User,
  id: string,
  { occurrence, text, version }: { occurrence?: string | undefined; text: string; version?: number | undefined },
): Promise<Note> {
  const { part, start, eventUid, eventDate } = await meetingAt(work.manager, user, id, occurrence);
  const known = await pageOf(work.manager, work.ownerId, { eventUid, eventDate });
  if (known) return work.update('note', known, { text }, version);
  const day = sayDay(dayOf(start, user.zone), '');
  const title = `${part.title.slice(0, 170)}, ${day}`;
  return work.insert('note', { title, text, parentId: null, position: work.now, incomingIds: [], eventUid, eventDate });
}

/** The meeting a page belongs to; null: to none, or it is in no calendar any more. */
export async function meetingOf(manager: EntityManager, user: User, note: Note): Promise<NoteInfo['meeting']> {
  if (note.eventUid === null) return null;
  const parts = await manager.findBy(Event, { ownerId: user.id, uid: note.eventUid });
  const first = parts.find(({ recurrenceId }) => !recurrenceId) ?? parts[0];
  const date = first && dateOf(parts, note.eventDate || first.recurrenceId || first.start, user.zone);
  if (!date) return null;
  return {
    ...{ id: date.part.id, occurrence: note.eventDate || null, title: date.part.title },
    start: date.days?.first ?? isoInZone(date.start, user.zone),
  };
}
