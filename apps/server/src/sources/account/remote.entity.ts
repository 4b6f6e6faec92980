import type { Fields } from '@corvun/core';
import { Column, Entity, Index } from 'typeorm';
import { Row } from '../../base/row';

/**
 * An object in a calendar account (RFC 4791, 4.1) that is here, too, with the last state that both have in common. It is
 * not in the log: what is taken back here is a change that goes there.
 */
@Entity('remote')
@Index('remote_uid', ['sourceId', 'collection', 'uid'], { unique: true })
@Index('remote_event', ['ownerId', 'calendarId', 'uid'])
@Index('remote_task', ['taskId'])
@Index('remote_href', ['sourceId', 'href'])
export class Remote extends Row {
  @Column('text') sourceId: string;
  /** `events:` or `tasks:` and the path of its collection. */
  @Column('text') collection: string;
  @Column('text') uid: string;
  /** Of an event: the calendar here. */
  @Column('text', { nullable: true }) calendarId: string | null;
  /** Of a task: which one; null: it is taken away here, and is to be there. */
  @Column('text', { nullable: true }) taskId: string | null;
  /** Its path; null: it was never there. */
  @Column('text', { nullable: true }) href: string | null;
  @Column('text', { nullable: true }) etag: string | null;
  /** As it was last seen there: what nobody here knows goes back with it. */
  @Column('text', { select: false, nullable: true }) text?: string | null;
  @Column('simple-json') base: Fields;
  /** What was last sent there and has not been seen there yet. */
  @Column('simple-json') sending: Fields;
}

/** All columns, and the text, which is only read where it is needed. */
export const WITH_TEXT = {
  ...{ id: true, ownerId: true, version: true, created: true, changed: true, sourceId: true, collection: true, uid: true },
  ...{ calendarId: true, taskId: true, href: true, etag: true, text: true, base: true, sending: true },
} as const;

/** How an object is kept there now. */
export interface Seen {
  href: string;
  etag: string;
  text: string;
}
