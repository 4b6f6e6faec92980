import type { OutboxKind } from '@corvun/contract';
import type { User } from '../accounts/user.entity';
import type { Work } from '../kernel/work';
import type { OutboxEntry } from './outbox.entity';

/** What others hear of waits this long before it goes, so that undo can still hold it back. */
export const MAIL_PAUSE = 20_000;

export interface Sending {
  kind: OutboxKind;
  /** What it does, as a sentence. */
  what: string;
  payload: Record<string, unknown>;
  /** Null: by mail, from the account itself. */
  sourceId?: string | null;
  counterpartId?: string | null;
  /** Others hear of it: it waits like a mail. */
  heard?: boolean;
  /** Somebody wrote it, and would be sorry for it to lie: it is refused where mail has no way out. */
  written?: boolean;
}

/** Notes something to be sent, in the transaction of what it tells others; what they hear of waits for the pause. */
export const noteSending = (
  work: Work,
  { kind, what, payload, sourceId = null, counterpartId = null, heard = kind === 'mail', written = false }: Sending,
): Promise<OutboxEntry> =>
  work.insert('outbox', {
    sourceId,
    counterpartId,
    kind,
    what: what.slice(0, 300),
    payload: written ? { ...payload, written } : payload,
    state: 'waiting',
    attempts: 0,
    nextTry: work.now + (heard ? MAIL_PAUSE : 0),
    problem: '',
    sentAt: null,
  });

/** Notes a mail from the account to itself. */
export const noteToSelf = (
  work: Work,
  { name, email }: Pick<User, 'name' | 'email'>,
  { what, subject, text }: { what: string; subject: string; text: string },
): Promise<OutboxEntry> => {
  const self = { name, address: email };
  return noteSending(work, { kind: 'mail', what, payload: { to: [self], from: self, subject, text, attachments: [] } });
};
