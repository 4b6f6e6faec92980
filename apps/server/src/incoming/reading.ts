import { READER_VERSION, readMessage, titleOf, type Zone } from '@corvun/core';
import type { Mail } from '@corvun/formats';
import type { Incoming } from './incoming.entity';

type ReadFields = Pick<Incoming, 'facts' | 'readerVersion' | 'readTitle'>;

/** Facts and title of an incoming's text, as its row keeps them. */
export function readIncoming(
  text: string,
  subject: string,
  from: { name: string; address: string } | null,
  written: number,
  zone: Zone,
  marks: { bulk: boolean; invitation: boolean; names?: string[] },
): ReadFields {
  const facts = readMessage({ text, written, zone, from, ...marks });
  return { facts, readerVersion: READER_VERSION, readTitle: titleOf(text, facts, subject) };
}

/** The thread a mail belongs to: the first message it refers to, else itself (RFC 5322, 3.6.4). */
export function threadKeyOf({ references, messageId, hash }: Pick<Mail, 'references' | 'messageId' | 'hash'>): string {
  return references[0] ?? messageId ?? hash;
}
