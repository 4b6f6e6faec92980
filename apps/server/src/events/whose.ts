import type { User } from '../accounts/user.entity';
import type { Event } from './event.entity';

/** By what an account knows its own. */
export type Whose = Pick<User, 'email' | 'captureAddress' | 'settings'>;

export const isMine = (address: string, user: Whose): boolean =>
  [user.email, user.captureAddress, ...(user.settings.addresses ?? [])].includes(address.toLowerCase());

/** Whether somebody else called the meeting. */
export const isGuestOf = ({ organizer }: Pick<Event, 'organizer'>, user: Whose): boolean =>
  organizer !== '' && !isMine(organizer, user);
