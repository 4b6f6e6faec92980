import { dayOf, sayWhen } from '@corvun/core';
import type { CalendarEvent } from '@corvun/formats';
import type { User } from '../accounts/user.entity';
import { asOwnDate } from '../events/edit-events';
import { Event, type Attendee } from '../events/event.entity';
import { isMine } from '../events/whose';
import type { Work } from '../kernel/work';
import { nothing, type Effect } from './effect';
import type { Incoming } from './incoming.entity';
import { nameIn, noticed } from './scheduling';

const ANSWERS: Record<Attendee['partstat'], string> = {
  ACCEPTED: 'says yes',
  TENTATIVE: 'says maybe',
  DECLINED: 'says no',
  DELEGATED: 'has passed it on',
  'NEEDS-ACTION': 'has not answered yet',
};
/** Guests beyond which those who come bring nobody along: they are told of every change. */
const MOST_GUESTS = 200;
const OLDER = 'older than what you already have; nothing was changed';

/** What of the organizer's own an answer is about. */
interface Meant {
  rows: Event[];
  /** The row it is about; of a date that has none of its own: how that would be. */
  row: Event;
  guest: CalendarEvent['attendees'][number];
}

/** What a guest answered (RFC 5546, 3.2.3), with what follows for the event. Only a guest can answer, and only for themselves. */
export async function takeReply(work: Work, user: User, incoming: Incoming, about: CalendarEvent): Promise<Effect> {
  const meant = await meantBy(work, user, incoming, about);
  if ('ignored' in meant) return meant;
  const { rows, row, guest } = meant;
  const present = row.attendees.find((one) => one.address === guest.address);
  if (about.sequence < row.sequence || about.stamp < (present?.answered ?? 0)) return { ...nothing(OLDER), event: row };
  const after = await keepAnswer(work, row, guest, about.stamp);
  // Who answers to a series answers to its changed dates, where they said nothing of those.
  if (!row.recurrenceId)
    for (const date of rows) {
      const open = date.attendees.find((one) => one.address === guest.address)?.partstat === 'NEEDS-ACTION';
      if (date.recurrenceId && open) await keepAnswer(work, date, guest, about.stamp);
    }
  const when = row.recurrenceId ? `${sayWhen(noticed(row), user.zone, dayOf(work.now, user.zone))}: ` : '';
  const to = guest.delegates?.length ? ` to ${guest.delegates.join(', ')}` : '';
  return { ...nothing(), event: after, changes: [`${when}${guest.name || guest.address} ${ANSWERS[guest.partstat]}${to}`] };
}

/** Another time that a guest proposes (3.2.7): the organizer answers it. */
export async function takeCounter(work: Work, user: User, incoming: Incoming, about: CalendarEvent): Promise<Effect> {
  const meant = await meantBy(work, user, incoming, about);
  if ('ignored' in meant) return meant;
  const { rows, row, guest } = meant;
  if (about.sequence < row.sequence) return { ...nothing(OLDER), event: row };
  const say = (one: Event | CalendarEvent) => sayWhen(noticed(one), user.zone, dayOf(work.now, user.zone));
  return {
    ...nothing(),
    event: rows.find(({ id }) => id === row.id) ?? null,
    changes: [`${guest.name || guest.address} proposes ${say(about)} instead of ${say(row)}`],
    answerable: true,
  };
}

async function meantBy(work: Work, user: User, { senderAddress }: Incoming, about: CalendarEvent): Promise<Meant | Effect> {
  const rows = await work.manager.findBy(Event, { ownerId: work.ownerId, uid: about.uid });
  const series = rows.find((one) => !one.recurrenceId);
  const key = nameIn(series, about, user.zone);
  const row = rows.find((one) => one.recurrenceId === key) ?? (key ? asOwnDate(rows, key, user.zone) : null);
  const host = row ?? series;
  if (!host || (host.organizer && !isMine(host.organizer, user))) return nothing('is about an event that is not yours');
  if (!row) return { ...nothing('is about a date that the series does not have'), event: host };
  const [guest] = about.attendees;
  if (!guest || guest.address !== senderAddress)
    return { ...nothing(`comes from ${senderAddress}, who is not the guest; nothing was changed`), event: host };
  const invited = row.attendees.find((one) => one.address === guest.address);
  if (!invited) return { ...nothing(`comes from ${senderAddress}, who is not invited; nothing was changed`), event: host };
  return { rows, row, guest: { ...guest, name: invited.name || guest.name } };
}

/** Keeps what a guest said; a date that has no row of its own gets one. To whom they passed it on is invited from now on. */
async function keepAnswer(work: Work, row: Event, guest: Meant['guest'], stamp: number): Promise<Event> {
  const attendees = row.attendees.map((one) =>
    one.address === guest.address ? { ...one, partstat: guest.partstat, ...(stamp ? { answered: stamp } : {}) } : one,
  );
  for (const address of guest.delegates ?? [])
    if (attendees.length < MOST_GUESTS && !attendees.some((one) => one.address === address))
      attendees.push({ name: '', address, partstat: 'NEEDS-ACTION' });
  if (await work.manager.existsBy(Event, { id: row.id, recurrenceId: row.recurrenceId }))
    return work.update('event', row, { attendees });
  const { id: _id, ownerId: _owner, version: _version, created: _created, changed: _changed, ...date } = row;
  return work.insert('event', { ...date, attendees });
}
