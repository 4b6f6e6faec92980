import type { OutboxKind } from '@corvun/contract';
import { Column, Entity, Index } from 'typeorm';
import { Row } from '../base/row';

/** A change to be sent back to a source, or a mail to be sent; kept until it is accepted or given up by the user. */
@Entity('outbox')
@Index('outbox_due', ['state', 'nextTry'])
@Index('outbox_counterpart', ['counterpartId', 'state'])
export class OutboxEntry extends Row {
  @Column('text', { nullable: true }) sourceId: string | null;
  @Column('text', { nullable: true }) counterpartId: string | null;
  @Column('text') kind: OutboxKind;
  /** What it does, as a sentence. */
  @Column('text') what: string;
  @Column('simple-json') payload: Record<string, unknown>;
  @Column('text') state: 'waiting' | 'sent' | 'given-up';
  @Column('integer') attempts: number;
  @Column('integer') nextTry: number;
  @Column('text') problem: string;
  @Column('integer', { nullable: true }) sentAt: number | null;
}

interface Begun {
  begun?: boolean;
  finished?: { begun?: boolean };
}

/** Whether it is on its way: a message that is being handed over, or the line of a finished round, whose note is told in turn. */
export const isBegun = (row: object): boolean => {
  const payload = (row as OutboxEntry).payload as Begun | null;
  return payload?.begun === true || payload?.finished?.begun === true;
};

/** What reaches people, and cannot be called back. */
const LASTING: Partial<Record<OutboxKind, string>> = { mail: 'the mail has gone out', reply: 'the reply has gone out' };

export const lastingOf = (row: object): string => LASTING[(row as OutboxEntry).kind] ?? '';
