import type { SeriesPlace } from '@corvun/contract';
import {
  SeriesProblem,
  boundsOf,
  changeSeries,
  placeOf,
  placing,
  repeats,
  seriesOccurrences,
  timesAt,
  timesBetween,
  type NewPlace,
  type SeriesCommand,
  type SeriesEdit,
} from '@corvun/core';
import { In } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { Refusal, badField, notFound } from '../base/errors';
import { newId } from '../base/ids';
import type { Row } from '../base/row';
import { Calendar } from '../calendars/calendar.entity';
import type { Work } from '../kernel/work';
import { Event, type Attendee } from './event.entity';
import { isGuestOf } from './whose';
import type { Became } from './tell-guests';

/** Dates of a series are looked for so far around where its rule has them. */
const FAR = 400 * 86_400_000;

/** All rows of the event's UID in its calendar. */
export const partsOf = (work: Work, { ownerId, calendarId, uid }: Event): Promise<Event[]> =>
  work.manager.findBy(Event, { ownerId, calendarId, uid });

/** A row that stands for one date means that date; a series needs to be told which. */
export function meant(
  event: Event,
  { occurrence, scope = 'this' }: SeriesPlace,
): Pick<SeriesCommand<Event>, 'scope' | 'occurrence'> {
  const own = event.recurrenceId || (repeats(event) ? null : event.start);
  return { scope, occurrence: occurrence ?? own };
}

export interface Carried {
  edit: SeriesEdit<Event>;
  became: Became;
}

/** Carries out a command on an event and writes what follows from it. @throws Refusal */
export async function carryOut(
  work: Work,
  user: User,
  event: Event,
  command: SeriesCommand<Event>,
  version?: number,
): Promise<Carried> {
  const before = await partsOf(work, event);
  const edit = editOf(before, command, user.zone);
  const gone = command.do === 'remove' ? goneBy(before, command, user) : [];
  const placed = (part: Event, fields: Partial<Event>) => ({ ...fields, ...boundsOf({ ...part, ...fields }, user.zone) });
  for (const part of edit.remove) await work.remove('event', part);
  for (const { part, fields } of edit.update)
    await work.update('event', part, placed(part, fields), part.id === event.id ? version : undefined);
  for (const { like, fields } of edit.insert) {
    const { id: _id, ownerId: _owner, version: _version, created: _created, changed: _changed, ...rest } = like;
    await work.insert('event', { ...rest, ...placed(like, fields) } satisfies Omit<Event, keyof Row>);
  }
  await guestsOnDates(work, before, edit, command);
  const uids = [event.uid, ...edit.insert.map(({ fields }) => fields.uid ?? event.uid)];
  const after = await work.manager.findBy(Event, { ownerId: event.ownerId, calendarId: event.calendarId, uid: In(uids) });
  return { edit, became: { before, after, gone } };
}

/** Who is invited to a series, or is not any more, is so for its changed dates, too. */
async function guestsOnDates(
  work: Work,
  before: readonly Event[],
  edit: SeriesEdit<Event>,
  command: SeriesCommand<Event>,
): Promise<void> {
  const guests = command.do === 'change' ? (command.fields as Partial<Event>).attendees : undefined;
  const series = before.find((row) => !row.recurrenceId);
  if (!guests || !series || command.scope === 'this') return;
  const same = (a: Attendee, b: Attendee) => (a.address || a.name).toLowerCase() === (b.address || b.name).toLowerCase();
  const left = series.attendees.filter((one) => !guests.some((guest) => same(guest, one)));
  const fresh = guests.filter((guest) => !series.attendees.some((one) => same(guest, one)));
  if (!left.length && !fresh.length) return;
  const from = command.scope === 'following' ? (command.occurrence ?? '') : '';
  const removed = new Set(edit.remove.map(({ id }) => id));
  for (const { id, recurrenceId } of before) {
    if (!recurrenceId || recurrenceId < from || removed.has(id)) continue;
    const row = await work.manager.findOneByOrFail(Event, { id });
    const stay = row.attendees.filter((one) => !left.some((other) => same(other, one)));
    const come = fresh.filter((guest) => !row.attendees.some((one) => same(guest, one)));
    if (stay.length === row.attendees.length && !come.length) continue;
    const attendees = [...stay, ...come];
    await work.update('event', row, { attendees, organizer: attendees.length ? row.organizer || series.organizer : '' });
  }
}

/** The date that is taken out, as it would have been; nothing where more than one goes. */
function goneBy(parts: readonly Event[], { scope, occurrence }: SeriesCommand<Event>, user: User): Event[] {
  const series = parts.find((part) => !part.recurrenceId);
  if (scope !== 'this' || !occurrence || !series || !repeats(series)) return [];
  const own = asOwnDate(parts, occurrence, user.zone);
  return own ? [{ ...own, sequence: series.sequence + 1 }] : [];
}

/** One date of a series as a row of its own would have it; null where it is none of its dates. */
export function asOwnDate(parts: readonly Event[], key: string, reader: string): Event | null {
  const own = parts.find((part) => part.recurrenceId === key);
  const series = parts.find((part) => !part.recurrenceId);
  const found = dateOf(parts, key, reader);
  if (own) return own;
  if (!found || !series || !key) return null;
  const zone = series.zone ?? reader;
  const times = series.allDay ? { start: found.days?.first ?? key, end: found.days?.after ?? key } : timesBetween(found, zone);
  const bare = { rrule: null, exrule: null, rdates: [], exdates: [], duration: null, following: false, textId: null };
  const date = { ...series, ...bare, ...times, recurrenceId: key };
  return { ...date, ...boundsOf(date, reader) };
}

/** One date of an event by its name; null where there is no such date. */
export function dateOf(parts: readonly Event[], key: string, reader: string) {
  const series = parts.find((part) => !part.recurrenceId);
  const own = parts.find((part) => part.recurrenceId === key);
  if (!series) return own ? { ...placeOf(own, reader), part: own } : null;
  const near = placing(series, reader)(key).start;
  if (!Number.isFinite(near)) return null;
  const [from, to] = own ? [placeOf(own, reader).start - 1, placeOf(own, reader).end + 1] : [near - FAR, near + FAR];
  const found = seriesOccurrences(parts, from, to, reader).find((one) => one.occurrence.key === key);
  return found ? { ...found.occurrence, part: found.part } : null;
}

function editOf(parts: readonly Event[], command: SeriesCommand<Event>, reader: string): SeriesEdit<Event> {
  try {
    return changeSeries(parts, command, reader, `${newId()}@corvun`);
  } catch (problem) {
    if (!(problem instanceof SeriesProblem)) throw problem;
    if (problem.code === 'no-such-date') throw notFound('such occurrence');
    throw problem.code === 'which' ? badField('occurrence', problem.message) : badField('scope', problem.message);
  }
}

/** A calendar of this owner that can be written to. @throws Refusal 403, 422 */
export async function ownCalendar(work: Work, id: string): Promise<Calendar> {
  const calendar = await work.manager.findOneBy(Calendar, { id, ownerId: work.ownerId });
  if (!calendar) throw badField('calendarId', 'There is no such calendar.');
  if (calendar.origin === 'feed') throw foreign(calendar);
  return calendar;
}

const foreign = ({ name }: Calendar) =>
  new Refusal('not-ours', `“${name}” comes from outside, so its events can only be changed there.`);

export async function refuseForeign(work: Work, event: Event): Promise<void> {
  const calendar = await work.manager.findOneBy(Calendar, { id: event.calendarId, ownerId: work.ownerId });
  if (calendar?.origin === 'feed') throw foreign(calendar);
  if (event.mirror !== null)
    throw new Refusal('not-ours', `“${event.title}” is a copy of what stands in another calendar, so it is changed there.`);
}

/** What others were told of is changed by whoever told them (RFC 5546, 2.1.1). */
export function refuseGuest(event: Event, user: User): void {
  if (!isGuestOf(event, user)) return;
  const sentence = `“${event.title}” is an invitation from ${event.organizer}, so only they can change it; propose another time by answering it.`;
  throw new Refusal('not-organizer', sentence);
}

/** Puts all of an event into another calendar. @throws Refusal */
export async function intoCalendar(work: Work, event: Event, calendarId: string, scope: string): Promise<Calendar | null> {
  if (calendarId === event.calendarId) return null;
  const calendar = await ownCalendar(work, calendarId);
  if ((repeats(event) || event.recurrenceId) && scope !== 'all')
    throw badField('scope', 'All dates of a series are in one calendar; say that all of them are meant.');
  const rows = await partsOf(work, event);
  if (await work.manager.existsBy(Event, { ownerId: work.ownerId, calendarId, uid: event.uid }))
    throw badField('calendarId', `“${calendar.name}” has this event already.`);
  for (const row of rows) await work.update('event', row, { calendarId });
  return calendar;
}

/** Under which id and date an event is found after a change: a series may have been parted, or its dates be called otherwise. */
export function foundAt(
  event: Event,
  carried: Carried | null,
  { scope, occurrence }: Pick<SeriesCommand<Event>, 'scope' | 'occurrence'>,
  to: NewPlace | undefined,
  reader: string,
): { id: string; occurrence: string | null } {
  const rows = carried?.became.after ?? [event];
  const parted = carried?.edit.insert.find(({ fields }) => fields.uid !== undefined && fields.uid !== event.uid);
  const uid = parted?.fields.uid ?? event.uid;
  const series = rows.find((row) => row.uid === uid && !row.recurrenceId) ?? event;
  if (parted) return { id: series.id, occurrence: repeats(series) ? series.start : null };
  if (!repeats(series) && !event.recurrenceId) return { id: series.id, occurrence: null };
  if (scope === 'this' || !to) return { id: event.id, occurrence };
  return { id: series.id, occurrence: repeats(series) ? timesAt(series, to, reader).start : null };
}
