import type { DecideEvent, MadeThing } from '@corvun/contract';
import { MINUTE, timesBetween } from '@corvun/core';
import type { User } from '../accounts/user.entity';
import { badField } from '../base/errors';
import { newId } from '../base/ids';
import { mainCalendar } from '../calendars/main-calendar';
import type { Event } from '../events/event.entity';
import { guestsIn } from '../events/guests';
import { schedulingMail } from '../events/scheduling-mail';
import { schedulingText } from '../own-text/scheduling-text';
import type { Incoming } from '../incoming/incoming.entity';
import { blankEvent } from './blanks';
import type { Work } from '../kernel/work';

interface Wanted {
  title: string;
  start: number;
  minutes: number;
}

/** Puts an incoming into the main calendar, with its text; a guest is invited by mail where the user says so (RFC 5546, 3.2.2). */
export async function makeEvent(
  work: Work,
  user: User,
  incoming: Incoming,
  { title, start, minutes }: Wanted,
  input: DecideEvent,
): Promise<{ made: MadeThing; invited: string }> {
  const calendar = await mainCalendar(work);
  const event = await work.insert('event', {
    ...blankEvent(timesBetween({ start, end: start + minutes * MINUTE }, user.zone), user.zone),
    calendarId: calendar.id,
    uid: `${newId()}@corvun`,
    title,
    description: input.notes ?? incoming.text.slice(0, 20_000),
    location: input.location ?? '',
    incomingId: incoming.id,
    attendees: guestsIn(input.with).map((guest) => ({ ...guest, partstat: 'NEEDS-ACTION' })),
  });
  const invited = input.invite === undefined ? '' : await invite(work, user, incoming, event, input.invite);
  return { made: { kind: 'event', id: event.id, title: event.title }, invited };
}

async function invite(work: Work, user: User, incoming: Incoming, event: Event, note: string): Promise<string> {
  const guests = event.attendees;
  const silent = guests.find((guest) => !guest.address);
  if (!guests.length || silent)
    throw badField('with', silent ? `Write the mail address of ${silent.name}.` : 'Write the mail address of whom you invite.');
  const text = await schedulingText(work, user, 'REQUEST', [event]);
  const cover = note.trim() || `${user.name} invites you: ${event.title}.`;
  for (const guest of guests)
    await schedulingMail(
      work,
      user,
      { to: guest, subject: `Invitation: ${event.title}`, text: cover, calendar: { method: 'REQUEST', text } },
      incoming,
    );
  const names = guests.map((guest) => guest.name || guest.address);
  if (names.length === 1) return `${names[0]} is invited`;
  return `${names.length > 2 ? `${names[0]} and ${names.length - 1} more` : names.join(' and ')} are invited`;
}
