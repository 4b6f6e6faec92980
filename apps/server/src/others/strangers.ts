import type { User } from '../accounts/user.entity';
import { Refusal } from '../base/errors';
import type { Event } from '../events/event.entity';
import { tellGuests, type Became } from '../events/tell-guests';
import type { Work } from '../kernel/work';
import { Booking, type MeetPage } from './others.entities';

const DAY = 86_400_000;
/** What strangers may bring about: cancelled bookings count as well. */
export const STRANGERS = {
  /** Bookings of one page within a day, and those of it that are open. */
  ofPageADay: 40,
  ofPageOpen: 120,
  /** Open bookings of one address at one page. */
  ofAddressOpen: 3,
  /** Mails within a day, from everybody here, to an address that nobody has confirmed. */
  mailsADay: 6,
} as const;

const tooMany = (message: string) => new Refusal('too-many', message);

/** @throws Refusal 429 where a page or an address was used too often */
export async function refuseTooMany(work: Work, { id }: MeetPage, address: string): Promise<void> {
  const count = async (more: string, ...values: unknown[]): Promise<number> => {
    const sql = `SELECT COUNT(*) AS "count" FROM "booking" b LEFT JOIN "event" e ON e."id" = b."eventId"
      WHERE b."ownerId" = ? AND b."pageId" = ? AND ${more}`;
    const [row]: { count: number }[] = await work.manager.query(sql, [work.ownerId, id, ...values]);
    return row?.count ?? 0;
  };
  const open = `b."state" = 'booked' AND e."endAt" > ?`;
  if ((await count('b."created" > ?', work.now - DAY)) >= STRANGERS.ofPageADay)
    throw tooMany('So many times were taken here today that no more are given. Try again tomorrow.');
  if ((await count(open, work.now)) >= STRANGERS.ofPageOpen) throw tooMany('No more times are given here just now.');
  if ((await count(`${open} AND b."address" = ?`, work.now, address)) >= STRANGERS.ofAddressOpen)
    throw tooMany('With this address several times are taken here already. Move or cancel one of them first.');
}

/** Whether one more mail may go today to an address that nobody has confirmed. */
async function mayMail(work: Work, { address }: Booking): Promise<boolean> {
  const [sent]: { mails: number | null }[] = await work.manager.query(
    'SELECT SUM("unproven") AS "mails" FROM "booking" WHERE "address" = ? AND "changed" > ?',
    [address, work.now - DAY],
  );
  return (sent?.mails ?? 0) < STRANGERS.mailsADay;
}

/**
 * Tells whoever booked. To an address that nobody has confirmed goes nothing that a stranger wrote, and only so often: it may
 * be anybody's. What is over is over all the same.
 * @throws Refusal 429
 */
export async function tellStranger(
  work: Work,
  user: User,
  booking: Booking,
  page: MeetPage,
  became: Became,
  note: string,
): Promise<void> {
  if (!booking.proofHash) return void (await tellGuests(work, user, became, note));
  if (!(await mayMail(work, booking))) {
    if (booking.state === 'cancelled') return;
    throw tooMany(
      `Mails went to ${booking.address} today, and nobody opened the address in them. Open one of them, then try again.`,
    );
  }
  const plain = (rows: readonly Event[]) => rows.map((row) => withoutWords(row, page));
  const { before, after, gone } = became;
  await tellGuests(work, user, { before: plain(before), after: plain(after), gone: plain(gone) }, note);
  await work.update('booking', booking, { unproven: booking.unproven + 1 });
}

/** An event without what whoever booked has written into it. */
const withoutWords = (event: Event, { name }: MeetPage): Event => ({
  ...event,
  ...{ title: name, description: '', attendees: event.attendees.map((one) => ({ ...one, name: '' })) },
});
