import type { Conflict, Destination, MessageFacts, Priority } from '@corvun/core';
import type { Method } from '@corvun/formats';
import type { AttachmentInfo, IncomingKind, NamedAddress } from '@corvun/contract';
import { Column, Entity, ForeignKey, Index, PrimaryColumn } from 'typeorm';
import { Row } from '../base/row';

/** One thing that arrived. Deciding never deletes it. */
@Entity('incoming')
@Index('incoming_external', ['ownerId', 'source', 'externalId'], { unique: true })
@Index('incoming_inbox', ['ownerId', 'state', 'received', 'id'])
@Index('incoming_sender', ['ownerId', 'senderAddress', 'state'])
@Index('incoming_thread', ['ownerId', 'threadKey'])
@Index('incoming_message', ['ownerId', 'externalId'])
@Index('incoming_link', ['ownerId', 'link'])
@Index('incoming_decided', ['ownerId', 'decided'], { where: '"decided" IS NOT NULL' })
export class Incoming extends Row {
  @Column('text') source: string;
  /** Unique within its source: the Message-ID, or the hash of the bytes. */
  @Column('text') externalId: string;
  @Column('text') kind: IncomingKind;
  @Column('text') senderName: string;
  @Column('text') senderAddress: string;
  @Column('simple-json') recipients: NamedAddress[];
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
  /** `joined`: another one stands for the same matter. */
  @Column('text', { nullable: true }) outcome: Destination | 'joined' | null;
  @Column('text', { nullable: true }) outcomeListId: string | null;
  @Column('integer', { nullable: true }) decided: number | null;
  /** The connected source it came from. */
  @Index('incoming_source') @Column('text', { nullable: true }) sourceId: string | null;
  /** Address of the original in its source. */
  @Column('text', { default: '' }) link: string;
  /** What is special about it, in a few words. */
  @Column('text', { default: '' }) note: string;
  @Column('simple-json', { nullable: true }) invitation: KeptInvitation | null;
  @Column('simple-json', { nullable: true }) context: { who: string; at: number; text: string; itself: boolean }[] | null;
  @Column('simple-json', { nullable: true }) conflict: KeptConflict | null;
  /** The incoming that stands for the same matter. */
  @Index('incoming_joined') @Column('text', { nullable: true }) joinedTo: string | null;
}

/** What of an invitation is kept beside its text; the calendar part itself is kept to answer it. */
export interface KeptInvitation {
  method: Method;
  uid: string;
  sequence: number;
  /** DTSTAMP in milliseconds, and whether all dates after it are meant; absent in what came before that was kept. */
  stamp?: number;
  following?: boolean;
  recurrenceId: string | null;
  eventId: string | null;
  calendar: string;
  changes: string[];
  answerable: boolean;
  answered: 'yes' | 'maybe' | 'no' | null;
  comment: string;
  /** Wall-clock times of the event's zone as the message gave them. */
  title: string;
  start: string;
  end: string;
  allDay: boolean;
  zone: string | null;
  repeats: boolean;
  location: string;
  organizer: NamedAddress;
  guests: { name: string; address: string; partstat: string }[];
}

export interface KeptConflict {
  /** Of a task or event that a source has, too; empty where it is one of an account. */
  counterpartId: string;
  /** Of an account: which of its objects. */
  remoteId?: string;
  /** Empty: it is about an event. */
  taskId: string;
  fields: (Conflict & { name?: string })[];
}

@Entity('attachment')
export class StoredAttachment {
  @PrimaryColumn('text') id: string;
  @ForeignKey('User') @Column('text') ownerId: string;
  @Index() @ForeignKey('Incoming') @Column('text') incomingId: string;
  @Column('integer') position: number;
  @Column('text') name: string;
  @Column('text') type: string;
  @Column('integer') size: number;
  @Column('text') hash: string;
  /** By which it is found besides its name; empty where it is no text. */
  @Column('text', { default: '' }) words: string;
}

export const attachmentInfo = ({ id, name, type, size }: StoredAttachment): AttachmentInfo => ({
  id,
  name,
  type,
  size,
  url: `/api/attachments/${id}`,
});
