import type { User } from '../accounts/user.entity';
import type { Attendee, Event } from './event.entity';

export const isMine = (address: string, user: User): boolean =>
  [user.email, user.captureAddress, ...(user.settings.addresses ?? [])].includes(address.toLowerCase());

/** Whether somebody else called the meeting. */
export const isGuestOf = ({ organizer }: Pick<Event, 'organizer'>, user: User): boolean =>
  organizer !== '' && !isMine(organizer, user);

/** Whom the user has invited, and who can be told. */
export const guestsOf = (event: Pick<Event, 'organizer' | 'attendees'>, user: User): Attendee[] =>
  isGuestOf(event, user) ? [] : event.attendees.filter((one) => one.address && !isMine(one.address, user));
