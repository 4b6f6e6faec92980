import { Injectable } from '@nestjs/common';
import { dayOf, instantOf, sayEventChanges, sayWhen, wallOf, type Noticed } from '@corvun/core';
import { readItip, type CalendarEvent, type Itip } from '@corvun/formats';
import { In, Not } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { mainCalendar } from '../calendars/main-calendar';
import type { Work } from '../decisions/journal.service';
import { eventFields } from '../events/event-fields';
import { EventRow, type Attendee } from '../events/event.entity';
import { Incoming, type KeptInvitation } from './incoming.entity';

/** What a scheduling message did to the calendar. */
interface Effect {
  event: EventRow | null;
  changes: string[];
  /** It is older than what is known, or not from the organizer: nothing was changed. */
  ignored: string;
  answerable: boolean;
}

const ANSWERS: Record<Attendee['partstat'], string> = {
  ACCEPTED: 'says yes',
  TENTATIVE: 'says maybe',
  DECLINED: 'says no',
  'NEEDS-ACTION': 'has not answered yet',
};

/** Carries scheduling messages inside mail (RFC 5546, RFC 6047) to the calendar. */
@Injectable()
export class InvitationService {
  /** Reads the calendar part of a mail that was just taken in; nothing happens when it asks for nothing. */
  async take(work: Work, user: User, incoming: Incoming, calendar: string): Promise<void> {
    const itip = readItip(calendar, user.zone);
    const about = itip?.events.find((one) => !one.recurrenceId) ?? itip?.events[0];
    if (!itip || !about) return;
    const twin = await this.twin(work, incoming, about, itip);
    const effect = twin ? null : await this.effectOf(work, user, incoming, itip, about);
    const invitation: KeptInvitation = {
      method: itip.method,
      uid: about.uid,
      sequence: about.sequence,
      recurrenceId: about.recurrenceId,
      eventId: effect?.event?.id ?? twin?.invitation?.eventId ?? null,
      calendar,
      changes: effect?.changes ?? [],
      answerable: effect?.answerable ?? false,
      answered: null,
      comment: about.comment,
      title: about.title,
      start: about.start,
      end: about.end,
      allDay: about.allDay,
      zone: about.zone,
      repeats: about.rrule !== null,
      location: about.location,
      organizer: about.organizer ?? { name: incoming.senderName, address: incoming.senderAddress },
      guests: about.attendees,
    };
    const note = effect?.ignored || effect?.changes.join('; ') || '';
    const after = await work.update('incoming', incoming, { kind: 'invitation', invitation, note: note.slice(0, 500) });
    if (twin)
      await work.update('incoming', after, {
        joinedTo: twin.joinedTo ?? twin.id,
        state: 'decided',
        outcome: 'joined',
        decided: work.now,
      });
    else await this.replaceEarlier(work, after, effect?.ignored ?? '');
  }

  /** The same invitation from another mailbox: same UID, SEQUENCE, DTSTAMP and method. */
  private async twin(work: Work, incoming: Incoming, about: CalendarEvent, { method }: Itip): Promise<Incoming | null> {
    const event = await work.manager.findOneBy(EventRow, {
      ownerId: work.ownerId,
      uid: about.uid,
      recurrenceId: about.recurrenceId ?? '',
    });
    if (!event || method !== 'REQUEST' || event.sequence !== about.sequence || event.stamp !== about.stamp || !about.stamp)
      return null;
    const others = await work.manager.find(Incoming, {
      where: { ownerId: work.ownerId, kind: 'invitation', id: Not(incoming.id) },
      order: { received: 'DESC' },
      take: 500,
    });
    return (
      others.find(
        (one) =>
          one.invitation?.uid === about.uid && one.invitation.sequence === about.sequence && one.invitation.method === method,
      ) ?? null
    );
  }

  /** An older message about the same event, still waiting, gives way to the newer one. */
  private async replaceEarlier(work: Work, incoming: Incoming, ignored: string): Promise<void> {
    const waiting = await work.manager.findBy(Incoming, {
      ownerId: work.ownerId,
      kind: 'invitation',
      state: 'waiting',
      id: Not(incoming.id),
    });
    const same = waiting.filter(
      (one) =>
        one.invitation?.uid === incoming.invitation?.uid && one.invitation?.recurrenceId === incoming.invitation?.recurrenceId,
    );
    const joined = { state: 'decided' as const, outcome: 'joined' as const, decided: work.now };
    const newest = same.at(-1);
    if (ignored.startsWith('older') && newest) await work.update('incoming', incoming, { ...joined, joinedTo: newest.id });
    else if (!ignored && incoming.invitation?.method !== 'REPLY')
      for (const one of same) await work.update('incoming', one, { ...joined, joinedTo: incoming.id });
  }

  private effectOf(work: Work, user: User, incoming: Incoming, itip: Itip, about: CalendarEvent): Promise<Effect> {
    switch (itip.method) {
      case 'REQUEST':
      case 'ADD':
        return this.request(work, user, incoming, itip.events, about);
      case 'CANCEL':
        return this.cancel(work, user, incoming, itip.events);
      case 'REPLY':
        return this.reply(work, user, incoming, about);
      case 'COUNTER':
        return this.counter(work, user, about);
      default:
        return Promise.resolve({ event: null, changes: [], ignored: '', answerable: false });
    }
  }

  private async request(
    work: Work,
    user: User,
    incoming: Incoming,
    events: CalendarEvent[],
    about: CalendarEvent,
  ): Promise<Effect> {
    const known = await this.rows(work, events);
    const series = known.find((row) => row.uid === about.uid && !row.recurrenceId);
    const effect: Effect = { event: null, changes: [], ignored: '', answerable: isOther(about.organizer?.address, user) };
    for (const event of events) {
      const row = known.find((one) => one.uid === event.uid && one.recurrenceId === (event.recurrenceId ?? ''));
      const holder = row ?? (event.recurrenceId ? series : undefined);
      const refusal = holder ? refusalOf(holder, event, incoming.senderAddress) : '';
      if (refusal) {
        effect.ignored = refusal;
        effect.answerable &&= !refusal.startsWith('older') && row !== undefined;
        effect.event ??= row ?? series ?? null;
        continue;
      }
      const before = row ? noticed(row) : holder ? occurrenceOf(holder, event.recurrenceId ?? '', user.zone) : null;
      const changes = before ? sayEventChanges(before, noticed(event), user.zone, dayOf(work.now, user.zone)) : [];
      const mine = event.attendees.find((one) => isMine(one.address, user))?.partstat ?? 'NEEDS-ACTION';
      const moved = !row || changes.some((one) => /^moved|^on again|repeats/.test(one)) || row.status === 'CANCELLED';
      const answer = {
        status: tentative(event, moved, row),
        partstat: moved ? (mine === 'ACCEPTED' && !row ? mine : 'NEEDS-ACTION') : (row?.partstat ?? mine),
      };
      const fields = { ...eventFields(event, user.zone), ...answer, incomingId: incoming.id };
      const saved = row
        ? await work.update('event', row, fields)
        : await work.insert('event', { ...fields, calendarId: holder?.calendarId ?? (await mainCalendar(work)).id });
      if (event === about || !effect.event) effect.event = saved;
      effect.changes.push(
        ...(event.recurrenceId && before
          ? changes.map((one) => `${sayWhen(before, user.zone, dayOf(work.now, user.zone))}: ${one}`)
          : changes),
      );
    }
    return effect;
  }

  private async cancel(work: Work, user: User, incoming: Incoming, events: CalendarEvent[]): Promise<Effect> {
    const known = await this.rows(work, events);
    const effect: Effect = { event: null, changes: [], ignored: '', answerable: false };
    for (const event of events) {
      const series = known.find((row) => row.uid === event.uid && !row.recurrenceId);
      const row = known.find((one) => one.uid === event.uid && one.recurrenceId === (event.recurrenceId ?? ''));
      const holder = row ?? series;
      if (!holder) continue;
      effect.event = holder;
      const refusal = refusalOf(holder, event, incoming.senderAddress);
      if (refusal) effect.ignored = refusal;
      else if (row) {
        await work.update('event', row, { status: 'CANCELLED', sequence: event.sequence, stamp: event.stamp });
        effect.changes.push(`${sayWhen(noticed(row), user.zone, dayOf(work.now, user.zone))} is cancelled`);
      } else if (series && event.recurrenceId) {
        await work.update('event', series, { exdates: [...new Set([...series.exdates, event.recurrenceId])] });
        effect.changes.push(
          `${sayWhen(occurrenceOf(series, event.recurrenceId, user.zone), user.zone, dayOf(work.now, user.zone))} is cancelled, the others stay`,
        );
      }
    }
    if (!effect.event) effect.ignored = 'cancels an event that is not in your calendar';
    return effect;
  }

  private async reply(work: Work, user: User, incoming: Incoming, about: CalendarEvent): Promise<Effect> {
    const row = (await this.rows(work, [about])).find((one) => one.recurrenceId === (about.recurrenceId ?? ''));
    const guest = about.attendees[0];
    if (!row || !guest || (row.organizer && !isMine(row.organizer, user)))
      return { event: null, changes: [], ignored: 'answers an event that is not yours', answerable: false };
    // Only the guest can answer for the guest.
    if (guest.address !== incoming.senderAddress)
      return {
        event: row,
        changes: [],
        ignored: `comes from ${incoming.senderAddress}, who is not the guest`,
        answerable: false,
      };
    const attendees = row.attendees.some((one) => one.address === guest.address)
      ? row.attendees.map((one) => (one.address === guest.address ? { ...one, partstat: guest.partstat } : one))
      : [...row.attendees, guest];
    await work.update('event', row, { attendees });
    return { event: row, changes: [`${guest.name || guest.address} ${ANSWERS[guest.partstat]}`], ignored: '', answerable: false };
  }

  private async counter(work: Work, user: User, about: CalendarEvent): Promise<Effect> {
    const row = (await this.rows(work, [about])).find((one) => one.recurrenceId === (about.recurrenceId ?? ''));
    if (!row || (row.organizer && !isMine(row.organizer, user)))
      return { event: null, changes: [], ignored: 'proposes another time for an event that is not yours', answerable: false };
    const today = dayOf(work.now, user.zone);
    const who = about.attendees[0];
    return {
      event: row,
      changes: [
        `${who?.name || who?.address || 'a guest'} proposes ${sayWhen(noticed(about), user.zone, today)} instead of ${sayWhen(noticed(row), user.zone, today)}`,
      ],
      ignored: '',
      answerable: true,
    };
  }

  private rows(work: Work, events: CalendarEvent[]): Promise<EventRow[]> {
    return work.manager.findBy(EventRow, { ownerId: work.ownerId, uid: In([...new Set(events.map((one) => one.uid))]) });
  }
}

/** Why a message must not change what is known: an older SEQUENCE or DTSTAMP (RFC 5546, 2.1.5), or another sender. */
function refusalOf(row: EventRow, event: CalendarEvent, sender: string): string {
  if (event.sequence < row.sequence || (event.sequence === row.sequence && event.stamp < row.stamp))
    return 'older than what you already have; nothing was changed';
  if (row.organizer && row.organizer !== sender)
    return `comes from ${sender || 'an unknown sender'}, not from the organizer ${row.organizer}; nothing was changed`;
  return '';
}

function tentative(event: CalendarEvent, moved: boolean, row: EventRow | undefined): EventRow['status'] {
  if (event.status === 'CANCELLED') return 'CANCELLED';
  return moved || !row ? 'TENTATIVE' : row.status;
}

export const isMine = (address: string, user: User) => [user.email, user.captureAddress].includes(address.toLowerCase());
const isOther = (address: string | undefined, user: User) => Boolean(address) && !isMine(address ?? '', user);

export const noticed = ({ title, start, end, allDay, zone, location, rrule, status }: Noticed): Noticed => ({
  title,
  start,
  end,
  allDay,
  zone,
  location,
  rrule,
  status,
});

/** How an occurrence of a series stood before it was changed. */
function occurrenceOf(series: EventRow, recurrenceId: string, reader: string): Noticed {
  const zone = series.zone ?? reader;
  if (series.allDay) return { ...noticed(series), start: recurrenceId, end: recurrenceId, rrule: null };
  const length = instantOf(series.end, zone) - instantOf(series.start, zone);
  return { ...noticed(series), start: recurrenceId, end: wallOf(instantOf(recurrenceId, zone) + length, zone), rrule: null };
}
