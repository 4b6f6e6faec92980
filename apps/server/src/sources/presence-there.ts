import { PresenceRow, type ShownPresence } from '../doing/presence.entity';
import type { Work } from '../kernel/work';
import { noteSending } from './note-sending';
import { OutboxEntry } from './outbox.entity';
import type { Source } from './source.entity';

/** Notes that a chat is to show something else; once, however often that changes until it goes. */
export async function notePresence(work: Work, { id, name }: Source, { text }: ShownPresence): Promise<void> {
  const waiting = { ownerId: work.ownerId, sourceId: id, kind: 'presence' as const, state: 'waiting' as const };
  const known = await work.manager.findOneBy(OutboxEntry, waiting);
  const what = text ? `Show “${text}” in ${name}` : `Show nothing any more in ${name}`;
  if (known) await work.manager.update(OutboxEntry, { id: known.id }, { what: what.slice(0, 300), nextTry: work.now });
  else await noteSending(work, { sourceId: id, kind: 'presence', what, payload: {} });
}

/** What a chat is to show now. */
export async function presenceThere(work: Work, sourceId: string): Promise<ShownPresence> {
  const row = await work.manager.findOneBy(PresenceRow, { ownerId: work.ownerId });
  return row?.shown[sourceId] ?? { text: '', dnd: false, until: null };
}
