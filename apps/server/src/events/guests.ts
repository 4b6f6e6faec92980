import { badField } from '../base/errors';
import type { User } from '../accounts/user.entity';
import type { Attendee, Event } from './event.entity';
import { isGuestOf, isMine } from './whose';

/** Whom the user has invited, and who can be told. */
export const guestsOf = (event: Pick<Event, 'organizer' | 'attendees'>, user: User): Attendee[] =>
  isGuestOf(event, user) ? [] : event.attendees.filter((one) => one.address && !isMine(one.address, user));

/** All others of a meeting who can be reached, and whether they come already. */
export function othersAt(
  event: Pick<Event, 'organizer' | 'attendees'>,
  user: User,
): { name: string; address: string; comes: boolean }[] {
  const { name, address } = nameAndAddress(event.organizer);
  const all = [{ name, address, partstat: 'ACCEPTED' }, ...event.attendees];
  const others = new Map<string, { name: string; address: string; comes: boolean }>();
  for (const one of all) {
    const at = one.address.toLowerCase();
    if (!at || isMine(at, user)) continue;
    const known = others.get(at);
    const comes = known?.comes === true || ['ACCEPTED', 'TENTATIVE'].includes(one.partstat);
    others.set(at, { name: one.name || known?.name || at, address: at, comes });
  }
  return [...others.values()];
}

/** Guests written one after the other, parted by commas or semicolons. */
export const guestsIn = (text = ''): { name: string; address: string }[] =>
  (text.match(/(?:"(?:\\.|[^"\\])*"|[^,;"]|")+/g) ?? []).filter((one) => one.trim()).map(nameAndAddress);

/** `Ines Aalto <ines@aalto-timber.example>`, an address, or a name alone. */
export function nameAndAddress(text: string): { name: string; address: string } {
  const match = /^(.*?)\s*<?([^\s<>]+@[^\s<>]+)>?$/.exec(text.trim());
  return match
    ? { name: unquoted(match[1] ?? ''), address: (match[2] ?? '').toLowerCase() }
    : { name: unquoted(text.trim()), address: '' };
}

/** A name without the quotes that hold it together where it is written (RFC 5322, 3.2.4). */
const unquoted = (name: string): string => {
  const inside = /^"((?:\\.|[^"\\])*)"$/.exec(name.trim())?.[1];
  return inside === undefined ? name : inside.replace(/\\(.)/g, '$1').trim();
};

const ADDRESS = /^[^\s<>@"(),:;[\]\\]+@[^\s<>@"(),:;[\]\\]+$/;
const MOST_NAME = 200;

/**
 * Guests as they are written, each with the answer that is known already.
 * @throws Refusal 422 for what is no mail address
 */
export function attendeesOf(written: readonly string[], known: readonly Attendee[]): Attendee[] {
  const guests = new Map<string, Attendee>();
  for (const text of written.filter((one) => one.trim())) {
    const { name, address } = nameAndAddress(text);
    if ((text.includes('@') || text.includes('<')) && !ADDRESS.test(address))
      throw badField('guests', `“${text.slice(0, 80)}” is not a mail address.`);
    const before = known.find((one) => (address ? one.address.toLowerCase() === address : one.name === name));
    const guest = {
      name: (name || before?.name || '').slice(0, MOST_NAME),
      address,
      partstat: before?.partstat ?? 'NEEDS-ACTION',
      ...(before?.answered === undefined ? {} : { answered: before.answered }),
    };
    guests.set(address || name, guest);
  }
  return [...guests.values()];
}
