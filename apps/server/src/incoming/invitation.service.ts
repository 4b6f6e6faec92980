import { Injectable } from '@nestjs/common';
import { dayOf, endedBefore, sayEventChanges, sayWhen } from '@corvun/core';
import type { CalendarEvent, Itip } from '@corvun/formats';
import { In, Not } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { mainCalendar } from '../calendars/main-calendar';
import type { Work } from '../kernel/work';
import { eventFields } from '../events/event-fields';
import { Event } from '../events/event.entity';
import { renameDates } from '../events/take-events';
import { keepText } from '../own-text/keep-texts';
import { saidOfEvent } from '../own-text/state';
import { nothing, type Effect } from './effect';
import { takeCounter, takeReply } from './guest-answers';
import { Incoming } from './incoming.entity';
import { invitationOf } from './invitation-of';
import { isMine } from '../events/whose';
import { isOther, nameIn, noticed, occurrenceOf, overtaken, refusalOf } from './scheduling';

/** What a message calls off. */
type Cancelled = Pick<CalendarEvent, 'uid' | 'sequence' | 'recurrenceId' | 'zone' | 'stamp' | 'following'>;

/** Carries scheduling messages inside mail (RFC 5546, RFC 6047) to the calendar. */
@Injectable()
export class InvitationService {
  /**
   * Carries out the calendar part of a mail that was just taken in.
   * @param calendar the part itself, kept to answer it
   * @throws RangeError a sentence, when its times cannot be known or kept
   */
  async take(work: Work, user: User, incoming: Incoming, calendar: string, itip: Itip): Promise<void> {
    const about = itip.events.find((one) => !one.recurrenceId) ?? itip.events[0];
    if (!about) return;
    if (about.unplaced) throw new RangeError(about.unplaced);
    const twin = await this.twin(work, incoming, about, itip);
    const effect = twin ? null : await this.effectOf(work, user, incoming, itip, about);
    const invitation = invitationOf(about, {
      ...{ method: itip.method, calendar, changes: effect?.changes ?? [], answerable: effect?.answerable ?? false },
      eventId: effect?.event?.id ?? twin?.invitation?.eventId ?? null,
      organizer: about.organizer ?? { name: incoming.senderName, address: incoming.senderAddress },
    });
    const note = effect?.ignored || effect?.changes.join('; ') || '';
    const after = await work.update('incoming', incoming, {
      kind: 'invitation',
      invitation,
      note: note.slice(0, 500),
      problems: [...incoming.problems, ...(effect?.problems ?? [])],
    });
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
    const event = await work.manager.findOneBy(Event, {
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
        return takeReply(work, user, incoming, about);
      case 'COUNTER':
        return takeCounter(work, user, incoming, about);
      case 'DECLINECOUNTER':
        return this.kept(work, user, incoming, about);
      default:
        return Promise.resolve(nothing());
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
    const effect: Effect = { ...nothing(), answerable: isOther(about.organizer?.address, user) };
    let series = known.find((row) => row.uid === about.uid && !row.recurrenceId);
    const inMessage = new Set<string>();
    for (const event of [...events].sort((a, b) => Number(a.recurrenceId !== null) - Number(b.recurrenceId !== null))) {
      const name = nameIn(series, event, user.zone);
      inMessage.add(name);
      const row = known.find((one) => one.uid === event.uid && one.recurrenceId === name);
      const holder = row ?? (name ? series : undefined);
      const refusal = holder ? refusalOf(holder, event, incoming.senderAddress) : '';
      if (refusal) {
        effect.ignored = refusal;
        effect.answerable &&= !refusal.startsWith('older') && row !== undefined;
        effect.event ??= row ?? series ?? null;
        continue;
      }
      const kept = this.fieldsOf(event, about, user, series, effect);
      if (!kept) continue;
      const before = row ? noticed(row) : holder ? occurrenceOf(holder, name, user.zone) : null;
      const changes = before ? sayEventChanges(before, noticed(kept), user.zone, dayOf(work.now, user.zone)) : [];
      const mine = event.attendees.find((one) => isMine(one.address, user))?.partstat ?? 'NEEDS-ACTION';
      const moved = !row || changes.some((one) => /^moved|^on again|repeats/.test(one)) || row.status === 'CANCELLED';
      const answer = {
        status: tentative(event, moved, row),
        // What the organizer wants to be reminded of is theirs.
        alarms: row?.alarms ?? null,
        buffers: row?.buffers ?? null,
        mirror: null,
        partstat: moved ? (mine === 'ACCEPTED' && !row ? mine : 'NEEDS-ACTION') : (row?.partstat ?? mine),
      };
      const textId = await keepText(work, { own: event.own, said: saidOfEvent(kept, user) });
      const fields = { ...kept, ...answer, textId, incomingId: incoming.id };
      const saved = row
        ? await work.update('event', row, fields)
        : await work.insert('event', { ...fields, calendarId: holder?.calendarId ?? (await mainCalendar(work)).id });
      if (!name) {
        await renameDates(work, known, row ?? null, saved, user.zone);
        series = saved;
      }
      if (event === about || !effect.event) effect.event = saved;
      effect.changes.push(
        ...(name && before ? changes.map((one) => `${sayWhen(before, user.zone, dayOf(work.now, user.zone))}: ${one}`) : changes),
      );
    }
    if (!known.length && effect.event) await this.cancelledBefore(work, user, incoming, about, effect);
    if (series && inMessage.has('') && !effect.ignored)
      for (const row of overtaken(series, await this.rows(work, events), inMessage, user.zone)) await work.remove('event', row);
    return effect;
  }

  /** The row's fields of one event of a message; null when it is not the one the message is about and cannot be kept. */
  private fieldsOf(event: CalendarEvent, about: CalendarEvent, user: User, series: Event | undefined, effect: Effect) {
    try {
      const { fields, said } = eventFields(event, user.zone, series ?? null);
      effect.problems.push(...said);
      return fields;
    } catch (problem) {
      if (event === about || !(problem instanceof RangeError)) throw problem;
      effect.problems.push(`One of its changed dates could not be kept. ${problem.message}`);
      return null;
    }
  }

  private async cancel(work: Work, user: User, incoming: Incoming, events: readonly Cancelled[]): Promise<Effect> {
    const known = await this.rows(work, events);
    const effect = nothing();
    const when = (row: Parameters<typeof sayWhen>[0]) => sayWhen(row, user.zone, dayOf(work.now, user.zone));
    for (const event of events) {
      const all = known.filter((row) => row.uid === event.uid);
      const series = all.find((row) => !row.recurrenceId);
      const name = nameIn(series, event, user.zone);
      const row = all.find((one) => one.recurrenceId === name);
      const holder = row ?? series;
      if (!holder) continue;
      effect.event = holder;
      const refusal = refusalOf(holder, event, incoming.senderAddress);
      if (refusal) {
        effect.ignored = refusal;
        continue;
      }
      const dates = all.filter((one) => one.recurrenceId && (name === '' || (event.following && one.recurrenceId > name)));
      for (const one of new Set([...(row ? [row] : []), ...dates]))
        await work.update('event', one, { status: 'CANCELLED', sequence: event.sequence, stamp: event.stamp });
      if (series && name && event.following)
        await work.update('event', series, { rrule: endedBefore(series, name, user.zone), exdates: [...series.exdates, name] });
      else if (series && name && !row) await work.update('event', series, { exdates: [...new Set([...series.exdates, name])] });
      effect.changes.push(
        row && !event.following
          ? `${when(noticed(row))} is cancelled`
          : series
            ? `${when(occurrenceOf(series, name, user.zone))} is cancelled, ${event.following ? 'and all after it' : 'the others stay'}`
            : '',
      );
    }
    if (!effect.event) effect.ignored = 'cancels an event that is not in your calendar';
    return effect;
  }

  /** The organizer keeps the time that was to be another (RFC 5546, 3.2.8). */
  private async kept(work: Work, user: User, incoming: Incoming, about: CalendarEvent): Promise<Effect> {
    const rows = await this.rows(work, [about]);
    const name = nameIn(
      rows.find((one) => !one.recurrenceId),
      about,
      user.zone,
    );
    const row = rows.find((one) => one.recurrenceId === name) ?? rows.find((one) => !one.recurrenceId);
    if (!row || row.organizer !== incoming.senderAddress) return nothing('is about an event that they did not call');
    const today = dayOf(work.now, user.zone);
    const at = name && !row.recurrenceId ? occurrenceOf(row, name, user.zone) : noticed(row);
    return { ...nothing(), event: row, changes: [`stays at its time, ${sayWhen(at, user.zone, today)}`] };
  }

  /** What was called off before it was heard of: messages may overtake each other. */
  private async cancelledBefore(
    work: Work,
    user: User,
    incoming: Incoming,
    { uid }: CalendarEvent,
    effect: Effect,
  ): Promise<void> {
    const earlier = await work.manager
      .createQueryBuilder(Incoming, 'i')
      .where('i.ownerId = :owner AND i.kind = :kind AND i.senderAddress = :sender', {
        ...{ owner: work.ownerId, kind: 'invitation', sender: incoming.senderAddress },
      })
      .andWhere(`json_extract(i.invitation, '$.uid') = :uid AND json_extract(i.invitation, '$.method') = 'CANCEL'`, { uid })
      .getMany();
    for (const { invitation } of earlier) {
      if (!invitation || invitation.eventId) continue;
      const { sequence, recurrenceId, zone, stamp = 0, following = false } = invitation;
      const done = await this.cancel(work, user, incoming, [{ uid, sequence, recurrenceId, zone, stamp, following }]);
      if (done.ignored || !done.changes.length) continue;
      effect.changes.push(...done.changes.map((one) => `${one}: that was said before`));
      const present = effect.event && (await work.manager.findOneBy(Event, { id: effect.event.id }));
      effect.event = present ?? effect.event;
      if (present?.status === 'CANCELLED') effect.answerable = false;
    }
  }

  private rows(work: Work, events: readonly Pick<CalendarEvent, 'uid'>[]): Promise<Event[]> {
    return work.manager.findBy(Event, { ownerId: work.ownerId, uid: In([...new Set(events.map((one) => one.uid))]) });
  }
}

function tentative(event: CalendarEvent, moved: boolean, row: Event | undefined): Event['status'] {
  if (event.status === 'CANCELLED') return 'CANCELLED';
  return moved || !row ? 'TENTATIVE' : row.status;
}
