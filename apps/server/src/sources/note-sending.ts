import type { OutboxKind } from '@corvun/contract';
import type { Work } from '../kernel/work';
import type { OutboxEntry } from './outbox.entity';

/** Mail waits this long before it goes, so that undo can still hold it back. */
export const MAIL_PAUSE = 20_000;

export interface Sending {
  kind: OutboxKind;
  /** What it does, as a sentence. */
  what: string;
  payload: Record<string, unknown>;
  /** Null: by mail, from the account itself. */
  sourceId?: string | null;
  counterpartId?: string | null;
}

/** Notes something to be sent, in the transaction of what it tells others; mail waits for the pause. */
export const noteSending = (
  work: Work,
  { kind, what, payload, sourceId = null, counterpartId = null }: Sending,
): Promise<OutboxEntry> =>
  work.insert('outbox', {
    sourceId,
    counterpartId,
    kind,
    what: what.slice(0, 300),
    payload,
    state: 'waiting',
    attempts: 0,
    nextTry: work.now + (kind === 'mail' ? MAIL_PAUSE : 0),
    problem: '',
    sentAt: null,
  });
