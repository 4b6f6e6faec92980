import { Injectable } from '@nestjs/common';
import { In, IsNull } from 'typeorm';
import { blankIncoming } from '../../decisions/blanks';
import { Calendar } from '../../calendars/calendar.entity';
import { Event } from '../../events/event.entity';
import { Incoming } from '../../incoming/incoming.entity';
import { invitationOf } from '../../incoming/invitation-of';
import type { Work } from '../../kernel/work';
import type { Into, Read } from './into';
import { isThere } from '../../base/is-there';

/** Invitations that arrive in an account: one matter with those that arrive by mail, answered once. */
@Injectable()
export class AccountInvited {
  /** Invitations that came by mail and stand in a calendar of the user's own: they stand in the account from now on. */
  async elsewhere(work: Work, calendarId: string, uids: readonly string[]): Promise<Event[]> {
    if (!uids.length) return [];
    const rows = await work.manager.findBy(Event, {
      ...{ ownerId: work.ownerId, uid: In([...uids]), partstat: isThere(), mirror: IsNull() },
    });
    if (!rows.length) return [];
    const own = new Set((await work.manager.findBy(Calendar, { ownerId: work.ownerId, origin: 'own' })).map(({ id }) => id));
    const moved: Event[] = [];
    for (const row of rows) if (own.has(row.calendarId)) moved.push(await work.update('event', row, { calendarId }));
    return moved;
  }

  /** Brings an event that others ask for, and that is not over, to the inbox, where it is answered. */
  async ask(work: Work, { source }: Into, row: Event, seen: Read | undefined): Promise<void> {
    const over = row.endAt !== null && row.endAt <= work.now;
    const event = seen?.events.find(({ recurrenceId }) => (recurrenceId ?? '') === '') ?? seen?.events[0];
    if (!seen || !event || over || row.recurrenceId || row.partstat !== 'NEEDS-ACTION') return;
    const sender = event.organizer ?? { name: '', address: row.organizer };
    const known = await work.manager.findBy(Incoming, {
      ownerId: work.ownerId,
      kind: 'invitation',
      threadKey: `invitation:${row.uid}`,
    });
    if (known.length) return;
    const invitation = invitationOf(event, {
      ...{ method: 'REQUEST', eventId: row.id, calendar: seen.text, changes: [], answerable: true, organizer: sender },
    });
    const incoming = await work.insert('incoming', {
      ...blankIncoming(),
      ...{
        source: source.id,
        sourceId: source.id,
        externalId: `invitation:${encodeURIComponent(row.uid)}`,
        kind: 'invitation',
        invitation,
      },
      ...{ senderName: sender.name || sender.address, senderAddress: sender.address, subject: row.title, readTitle: row.title },
      ...{ received: work.now, written: work.now, text: row.description, originalSize: row.description.length },
      threadKey: `invitation:${row.uid}`,
    });
    await work.update('event', row, { incomingId: incoming.id });
  }
}
