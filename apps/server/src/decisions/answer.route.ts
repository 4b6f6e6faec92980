import type { DecideAnswer } from '@corvun/contract';
import { minutesBetween, dayOf, parseIso, placeOf, sayDay, sayTime, timesAt, wallOf } from '@corvun/core';
import { answerTo } from '@corvun/formats';
import type { User } from '../accounts/user.entity';
import { Refusal, badField } from '../base/errors';
import { Not } from 'typeorm';
import { Event, type Attendee } from '../events/event.entity';
import type { Incoming, KeptInvitation } from '../incoming/incoming.entity';
import { isMine } from '../events/whose';
import { asOwnDate, carryOut, partsOf } from '../events/edit-events';
import { nameIn } from '../incoming/scheduling';
import { moveBlocks } from '../blocks/move-blocks';
import { schedulingMail } from '../events/scheduling-mail';
import { schedulingText } from '../own-text/scheduling-text';
import type { MadeThing } from '@corvun/contract';
import type { Work } from '../kernel/work';

type Reply = NonNullable<DecideAnswer['reply']>;
const PARTSTAT: Record<Reply, Exclude<Attendee['partstat'], 'NEEDS-ACTION' | 'DELEGATED'>> = {
  yes: 'ACCEPTED',
  maybe: 'TENTATIVE',
  no: 'DECLINED',
};
const STATUS: Record<Reply, Event['status']> = { yes: 'CONFIRMED', maybe: 'TENTATIVE', no: 'CANCELLED' };
const SAID: Record<Reply, string> = { yes: 'is answered with yes', maybe: 'is answered with maybe', no: 'is answered with no' };
const SUBJECT: Record<Reply, string> = { yes: 'Accepted', maybe: 'Tentative', no: 'Declined' };

interface Answered {
  made: MadeThing[];
  where: string;
}

/** Answers an invitation with yes, maybe, no, or another time; or, as the organizer, a guest's proposal of one. */
export async function answerInvitation(work: Work, user: User, incoming: Incoming, input: DecideAnswer): Promise<Answered> {
  const invitation = incoming.invitation;
  if (!invitation?.answerable)
    throw new Refusal('no-invitation', 'This is no invitation that can be answered; choose another place for it.');
  if (!input.reply && !input.start) throw badField('reply', 'Say yes, maybe or no, or propose another time.');
  const event = invitation.eventId ? await work.manager.findOneBy(Event, { id: invitation.eventId, ownerId: user.id }) : null;
  if (!event) throw new Refusal('event-gone', 'The event is no longer in your calendar, so it cannot be answered.');
  return invitation.method === 'COUNTER'
    ? answerProposal(work, user, incoming, invitation, event, input)
    : input.start
      ? propose(work, user, incoming, invitation, event, input)
      : reply(work, user, incoming, invitation, event, input);
}

async function reply(
  work: Work,
  user: User,
  incoming: Incoming,
  invitation: KeptInvitation,
  event: Event,
  { reply: said = 'yes', notes: note = '', moves = [] }: DecideAnswer,
): Promise<Answered> {
  const partstat = PARTSTAT[said];
  const attendees = event.attendees.map((one) => (isMine(one.address, user) ? { ...one, partstat } : one));
  await work.update('event', event, { partstat, status: STATUS[said], attendees });
  if (!event.recurrenceId) await answerDates(work, user, event, said);
  await work.update('incoming', incoming, { invitation: { ...invitation, answered: said } });
  const text = answerTo(invitation.calendar, invitation.recurrenceId, {
    attendee: asGuest(user, invitation),
    partstat,
    now: work.now,
    ...(note ? { comment: note } : {}),
  });
  await schedulingMail(
    work,
    user,
    {
      to: invitation.organizer,
      subject: `${SUBJECT[said]}: ${event.title}`,
      text: note || `${user.name}: ${SUBJECT[said].toLowerCase()}.`,
      calendar: { method: 'REPLY', text },
    },
    incoming,
  );
  const moved = await moveBlocks(work, user, said === 'yes' ? moves : []);
  return { made: [{ kind: 'event', id: event.id, title: event.title }], where: `${SAID[said]}${moved}` };
}

/** An answer to the whole series is one to its changed dates, too, where nothing else was said of them. */
async function answerDates(work: Work, user: User, { calendarId, uid }: Event, said: Reply): Promise<void> {
  const rows = await work.manager.findBy(Event, { ownerId: user.id, calendarId, uid, recurrenceId: Not('') });
  for (const row of rows.filter((one) => one.partstat === 'NEEDS-ACTION' && one.status !== 'CANCELLED')) {
    const attendees = row.attendees.map((one) => (isMine(one.address, user) ? { ...one, partstat: PARTSTAT[said] } : one));
    await work.update('event', row, { partstat: PARTSTAT[said], status: STATUS[said], attendees });
  }
}

async function propose(
  work: Work,
  user: User,
  incoming: Incoming,
  invitation: KeptInvitation,
  event: Event,
  input: DecideAnswer,
): Promise<Answered> {
  const start = parseIso(input.start ?? '', user.zone);
  if (Number.isNaN(start) || event.allDay) throw badField('start', 'Say when it should begin, as YYYY-MM-DDTHH:MM.');
  const zone = event.zone ?? user.zone;
  const { end } = timesAt(event, { start, minutes: input.minutes ?? undefined }, user.zone);
  const text = answerTo(invitation.calendar, invitation.recurrenceId, {
    attendee: asGuest(user, invitation),
    partstat: 'TENTATIVE',
    propose: { start: wallOf(start, zone), end },
    now: work.now,
    ...(input.notes ? { comment: input.notes } : {}),
  });
  const when = `${sayDay(dayOf(start, user.zone), dayOf(work.now, user.zone))} at ${sayTime(start, user.zone)}`;
  await work.update('event', event, { partstat: 'TENTATIVE', status: 'TENTATIVE' });
  await work.update('incoming', incoming, { invitation: { ...invitation, answered: 'maybe' } });
  await schedulingMail(
    work,
    user,
    {
      to: invitation.organizer,
      subject: `New time proposed: ${event.title}`,
      text: input.notes ?? `${user.name} proposes ${when}.`,
      calendar: { method: 'COUNTER', text },
    },
    incoming,
  );
  return { made: [{ kind: 'event', id: event.id, title: event.title }], where: `goes back with ${when} proposed` };
}

async function answerProposal(
  work: Work,
  user: User,
  incoming: Incoming,
  invitation: KeptInvitation,
  event: Event,
  { reply: said = 'no', notes = '' }: DecideAnswer,
): Promise<Answered> {
  const guest = invitation.guests[0] ?? { name: incoming.senderName, address: incoming.senderAddress };
  const rows = await partsOf(work, event);
  const series = rows.find((row) => !row.recurrenceId);
  const key = nameIn(series, invitation, user.zone);
  const date = key ? asOwnDate(rows, key, user.zone) : event;
  if (!date) throw new Refusal('event-gone', 'The date is no longer in your calendar, so it cannot be answered.');
  await work.update('incoming', incoming, { invitation: { ...invitation, answered: said } });
  const made: MadeThing[] = [{ kind: 'event', id: event.id, title: event.title }];
  if (said !== 'yes') {
    await schedulingMail(
      work,
      user,
      {
        to: guest,
        subject: `Stays as it is: ${event.title}`,
        text: notes || 'The time stays as it is.',
        calendar: { method: 'DECLINECOUNTER', text: await schedulingText(work, user, 'DECLINECOUNTER', [date], rows) },
      },
      incoming,
    );
    return { made, where: 'stays at its time' };
  }
  const { start, end } = placeOf(invitation, user.zone);
  const to = { start, minutes: minutesBetween(start, end) };
  const command = {
    do: 'change' as const,
    scope: key ? ('this' as const) : ('all' as const),
    occurrence: key || null,
    fields: {},
    to,
  };
  const { became } = await carryOut(work, user, event, command);
  const moved = became.after.find((row) => row.recurrenceId === key) ?? event;
  for (const one of moved.attendees.filter((other) => other.address && !isMine(other.address, user)))
    await schedulingMail(
      work,
      user,
      {
        to: one,
        subject: `Moved: ${moved.title}`,
        text: notes || 'The time was changed.',
        calendar: { method: 'REQUEST', text: await schedulingText(work, user, 'REQUEST', [moved], became.after) },
      },
      incoming,
    );
  return {
    made,
    where: `is moved to ${sayDay(dayOf(start, user.zone), dayOf(work.now, user.zone))} at ${sayTime(start, user.zone)}`,
  };
}

/** The user as the invitation names them: organizers know guests by the address they wrote. */
function asGuest(user: User, invitation: KeptInvitation): { name: string; address: string } {
  const named = invitation.guests.find((one) => isMine(one.address, user));
  return { name: named?.name || user.name, address: named?.address ?? user.email };
}
