import type { CalendarEvent } from '@corvun/formats';
import type { KeptInvitation } from './incoming.entity';

type About = Pick<KeptInvitation, 'method' | 'eventId' | 'calendar' | 'changes' | 'answerable' | 'organizer'>;

/** What of an invitation is kept beside its text. @param about what its event does not say itself */
export const invitationOf = (event: CalendarEvent, about: About): KeptInvitation => ({
  ...about,
  uid: event.uid,
  sequence: event.sequence,
  stamp: event.stamp,
  following: event.following,
  recurrenceId: event.recurrenceId,
  answered: null,
  comment: event.comment,
  title: event.title,
  start: event.start,
  end: event.end,
  allDay: event.allDay,
  zone: event.zone,
  repeats: event.rrule !== null,
  location: event.location,
  guests: event.attendees.map(({ name, address, partstat }) => ({ name, address, partstat })),
});
