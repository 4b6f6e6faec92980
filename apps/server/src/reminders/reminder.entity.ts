import type { ReminderWhy } from '@corvun/core';
import { Column, Entity, Index } from 'typeorm';
import { Row } from '../base/row';

/** Something that was or is to be thought of at a time; what has not come yet is not kept but counted from its thing. */
@Entity('reminder')
@Index('reminder_once', ['ownerId', 'kind', 'thingId', 'occurrence', 'at'], { unique: true })
@Index('reminder_state', ['ownerId', 'state'])
export class Reminder extends Row {
  @Column('text') kind: 'event' | 'block' | 'task';
  @Column('text') thingId: string;
  /** The date of a repeating event by its original start; else empty. */
  @Column('text') occurrence: string;
  @Column('text') why: ReminderWhy;
  /** When it was due first. */
  @Column('integer') at: number;
  /** When it is due, put off or not. */
  @Column('integer') dueAt: number;
  @Column('text') state: 'open' | 'snoozed' | 'done';
  /** When the first window told it as a notification of the system; null while none did. */
  @Column('integer', { nullable: true }) shownAt: number | null;
}
