import type { Destination, MessageFacts, Priority } from '@corvun/core';
import type { IncomingKind, Person } from '@corvun/contract';
import { Column, Entity, Index, PrimaryColumn } from 'typeorm';
import { Row } from '../base/row';

/** One thing that arrived. Deciding never deletes it. */
@Entity('incoming')
@Index('incoming_external', ['ownerId', 'source', 'externalId'], { unique: true })
@Index('incoming_inbox', ['ownerId', 'state', 'received', 'id'])
@Index('incoming_sender', ['ownerId', 'senderAddress', 'state'])
@Index('incoming_thread', ['ownerId', 'threadKey'])
export class Incoming extends Row {
  @Column('text') source: string;
  /** Unique within its source: the Message-ID, or the hash of the bytes. */
  @Column('text') externalId: string;
  @Column('text') kind: IncomingKind;
  @Column('text') senderName: string;
  @Column('text') senderAddress: string;
  @Column('simple-json') recipients: Person[];
  @Column('text') subject: string;
  @Column('integer') received: number;
  /** When the sender wrote it, by their own clock. */
  @Column('integer', { nullable: true }) written: number | null;
  @Column('text') text: string;
  @Column('text', { nullable: true }) html: string | null;
  @Column('text') heldBack: string;
  @Column('simple-json') problems: string[];
  @Column('text') threadKey: string;
  @Column('text', { nullable: true }) originalHash: string | null;
  @Column('integer') originalSize: number;
  @Column('integer') attachmentCount: number;
  @Column('boolean') bulk: boolean;
  @Column('simple-json') facts: MessageFacts;
  @Column('integer') readerVersion: number;
  /** Title read from the text. */
  @Column('text') readTitle: string;
  @Column('simple-json') hints: { tags?: string[]; priority?: Priority };
  @Column('text') state: 'waiting' | 'decided';
  @Column('text', { nullable: true }) outcome: Destination | null;
  @Column('text', { nullable: true }) outcomeListId: string | null;
  @Column('integer', { nullable: true }) decided: number | null;
}

@Entity('attachment')
export class StoredAttachment {
  @PrimaryColumn('text') id: string;
  @Column('text') ownerId: string;
  @Index() @Column('text') incomingId: string;
  @Column('integer') position: number;
  @Column('text') name: string;
  @Column('text') type: string;
  @Column('integer') size: number;
  @Column('text') hash: string;
}
