import { READER_VERSION, readMessage, titleOf, writersZone, type Zone } from '@corvun/core';
import type { Mail } from '@corvun/formats';
import type { Incoming } from './incoming.entity';

export type ReadFields = Pick<Incoming, 'facts' | 'readerVersion' | 'readTitle'>;

/** Facts and title of an incoming's text, as its row keeps them. */
export function readIncoming(
  text: string,
  subject: string,
  from: { name: string; address: string } | null,
  written: number,
  zone: Zone,
  { offset, ...marks }: { bulk: boolean; invitation: boolean; names?: string[]; offset?: number | null },
): ReadFields {
  const writer = writersZone(offset ?? null, written, zone);
  const facts = readMessage({ text, written, zone: writer, reader: zone, from, ...marks });
  return { facts, readerVersion: READER_VERSION, readTitle: titleOf(text, facts, subject) };
}

/** Whether a row's text was read by an older reader. What was never read, such as a card, is never stale. */
export const isStale = (row: Incoming): boolean => row.readerVersion < READER_VERSION && row.kind !== 'card' && !row.conflict;

/** What is read of a kept row when it is read anew. */
export function textOf(row: Incoming, user: { name: string; zone: Zone }): Parameters<typeof readIncoming> {
  const from = row.senderAddress ? { name: row.senderName, address: row.senderAddress } : null;
  const marks = { bulk: row.bulk, invitation: row.facts.invitation, names: [user.name.split(' ')[0] ?? user.name] };
  return [row.text, row.subject, from, row.written ?? row.received, user.zone, marks];
}

/** Note of a message of which only the headers could be read. Nothing is proposed for what nobody read. */
export const UNREAD = 'could not be read';

/** The thread a mail belongs to: the first message it refers to, else itself (RFC 5322, 3.6.4). */
export function threadKeyOf({ references, messageId, hash }: Pick<Mail, 'references' | 'messageId' | 'hash'>): string {
  return references[0] ?? messageId ?? hash;
}

/** The Message-ID of a mail's row. Another text under an id that is taken carries the beginning of its hash behind it. */
export const messageIdOf = ({ externalId }: Pick<Incoming, 'externalId'>): string => externalId.split(' ')[0] ?? externalId;
