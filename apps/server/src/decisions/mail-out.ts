import type { MailOutInput } from '@corvun/contract';
import { plainSubject } from '@corvun/core';
import type { User } from '../accounts/user.entity';
import { Refusal, badField } from '../base/errors';
import { StoredAttachment, type Incoming } from '../incoming/incoming.entity';
import { messageIdOf } from '../incoming/reading';
import type { Work } from '../kernel/work';
import { noteSending } from '../sources/note-sending';

/** Notes a reply or a forward in the outbox, in the transaction of the decision. @returns what it does, for the sentence */
export async function mailOut(work: Work, user: User, incoming: Incoming, { kind, text, to }: MailOutInput): Promise<string> {
  const subject = plainSubject(incoming.subject) || 'your message';
  if (kind === 'reply' && !incoming.senderAddress.includes('@'))
    throw new Refusal('no-address', 'The message does not say to whom a reply goes.');
  if (kind === 'reply' && !text.trim()) throw badField('mail', 'Write a line or two.');
  if (kind === 'forward' && !to) throw badField('mail', 'Say to whom it is forwarded.');
  const receiver =
    kind === 'reply' ? { name: incoming.senderName, address: incoming.senderAddress } : { name: '', address: to ?? '' };
  const attachments =
    kind === 'forward'
      ? await work.manager.find(StoredAttachment, {
          where: { incomingId: incoming.id, ownerId: user.id },
          order: { position: 'ASC' },
        })
      : [];
  await noteSending(work, {
    kind: 'mail',
    written: true,
    what: `${kind === 'reply' ? 'Reply' : 'Forward'} to ${receiver.name || receiver.address}: ${subject}`,
    payload: {
      to: [receiver],
      from: { name: user.name, address: user.email },
      subject: `${kind === 'reply' ? 'Re' : 'Fwd'}: ${subject}`,
      text: kind === 'reply' ? `${text.trim()}\n\n${quoted(incoming)}` : `${text.trim()}\n\n${passedOn(incoming)}`.trimStart(),
      attachments: attachments.map(({ name, type, hash }) => ({ name, type, hash })),
      ...(kind === 'reply' ? { inReplyTo: messageIdOf(incoming) } : {}),
    },
  });
  return kind === 'reply' ? `is answered` : `is forwarded to ${receiver.address}`;
}

const MOST_QUOTED = 20_000;
const who = ({ senderName, senderAddress }: Incoming) => senderName || senderAddress;

function quoted(incoming: Incoming): string {
  const lines = incoming.text.slice(0, MOST_QUOTED).trimEnd().split('\n');
  return `${who(incoming)} wrote:\n${lines.map((line) => (line.startsWith('>') ? `>${line}` : `> ${line}`)).join('\n')}`;
}

function passedOn(incoming: Incoming): string {
  const { senderName, senderAddress, subject, received } = incoming;
  const date = new Date(received).toUTCString();
  return `From: ${senderName} <${senderAddress}>\nDate: ${date}\nSubject: ${subject}\n\n${incoming.text.slice(0, MOST_QUOTED)}`;
}
