import { count, sayWhen, dayOf } from '@corvun/core';
import type { User } from '../accounts/user.entity';
import { badField } from '../base/errors';
import type { Work } from '../kernel/work';
import type { Attendee, Event } from './event.entity';
import { guestsOf } from './guests';
import { isMine } from './whose';
import { schedulingText } from '../own-text/scheduling-text';
import { schedulingMail } from './scheduling-mail';

/** What became of the rows of a UID: as they were, as they are, and dates that are not any more. */
export interface Became {
  before: readonly Event[];
  after: readonly Event[];
  /** Dates that were taken out, as they would have been. */
  gone: readonly Event[];
}

type Method = 'REQUEST' | 'CANCEL';

/**
 * Tells the guests of an event what changed (RFC 5546, 3.2.2 and 3.2.5): a REQUEST with the rows that changed, all of them for
 * a new guest; a CANCEL of what is no more, or for whoever is not invited any more. One message holds one UID.
 * @param note from the user, before what is said anyway
 * @returns what it did, for the sentence; empty where there was nobody to tell
 */
export async function tellGuests(work: Work, user: User, { before, after, gone }: Became, note: string): Promise<string> {
  const silent = after.flatMap((row) => row.attendees).find((one) => !one.address && !isMine(one.address, user));
  if (silent) throw badField('guests', `Write the mail address of ${silent.name}, or leave them out, to tell the guests.`);
  const invited = (rows: readonly Event[]) =>
    new Map(rows.flatMap((row) => guestsOf(row, user)).map((guest) => [guest.address, guest]));
  const [then, now] = [invited(before), invited(after)];
  const told = new Map<string, Attendee>();
  const send = async (guest: Attendee, method: Method, rows: readonly Event[]) => {
    const known = (uid: string) => before.some((row) => row.uid === uid);
    const uids = [...new Set(rows.map((row) => row.uid))].sort((a, b) => Number(known(b)) - Number(known(a)));
    for (const uid of uids) {
      const own = rows.filter((row) => row.uid === uid);
      await schedulingMail(work, user, {
        to: { name: guest.name, address: guest.address },
        ...said(user, method, own, !then.has(guest.address) || !known(uid), note, work.now),
        calendar: { method, text: await schedulingText(work, user, method, own, after) },
      });
      told.set(guest.address, guest);
    }
  };
  const changed = after.filter((row) => before.find((one) => one.id === row.id)?.version !== row.version);
  for (const guest of now.values()) {
    const own = (rows: readonly Event[]) => rows.filter((row) => row.attendees.some((one) => one.address === guest.address));
    await send(guest, 'REQUEST', then.has(guest.address) ? own(changed).filter((row) => !isOnlyCut(row, gone)) : own(after));
    if (then.has(guest.address)) await send(guest, 'CANCEL', own(gone));
  }
  for (const guest of then.values())
    if (!now.has(guest.address))
      await send(guest, 'CANCEL', after.length ? wholeOf(before) : gone.length ? gone : wholeOf(before));
  return told.size ? sayTold([...told.values()]) : '';
}

/** A series that changed only because one of its dates was taken out: that date is cancelled, and nothing else said. */
const isOnlyCut = (row: Event, gone: readonly Event[]) =>
  !row.recurrenceId && gone.some((one) => one.uid === row.uid && row.exdates.includes(one.recurrenceId));

/** The series, or all there is of it. */
const wholeOf = (rows: readonly Event[]) => {
  const series = rows.filter((row) => !row.recurrenceId);
  return series.length ? series : rows;
};

function sayTold(told: readonly Attendee[]): string {
  const [first] = told;
  return told.length === 1 && first ? `${first.name || first.address} is told` : `${count(told.length, 'guest')} are told`;
}

/** @param fresh whether whoever reads it has not heard of it before */
function said(user: User, method: Method, rows: readonly Event[], fresh: boolean, note: string, now: number) {
  const [row] = rows;
  if (!row) return { subject: '', text: '' };
  // Whoever reads it may be elsewhere.
  const zone = row.allDay ? '' : ` (${user.zone})`;
  const when = `${sayWhen(row, user.zone, dayOf(now, user.zone))}${zone}`;
  const what = method === 'CANCEL' ? 'Cancelled' : fresh ? 'Invitation' : 'Changed';
  const line = `${what}: ${row.title}, ${when}${row.location ? `, ${row.location}` : ''}`;
  return { subject: `${what}: ${row.title}`, text: note.trim() ? `${note.trim()}\n\n${line}` : line };
}
