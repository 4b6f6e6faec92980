import type { LeftWhy, Priority } from '@corvun/core';
import { Column, Entity, ForeignKey, Index } from 'typeorm';
import { Row } from '../base/row';

export type TaskStatus = 'NEEDS-ACTION' | 'IN-PROCESS' | 'COMPLETED' | 'CANCELLED';

/** Something to do (iCalendar VTODO, RFC 5545, 3.6.2). */
@Entity('task')
@Index('task_day', ['ownerId', 'plannedDay'])
@Index('task_list', ['ownerId', 'listId', 'status'])
@Index('task_open', ['ownerId', 'position', 'id'], { where: `"status" IN ('NEEDS-ACTION', 'IN-PROCESS')` })
@Index('task_reminder', ['ownerId'], { where: '"reminder" IS NOT NULL' })
@Index('task_begun', ['ownerId'], { where: `"status" = 'IN-PROCESS'` })
@Index('task_completed', ['ownerId', 'completed'])
@Index('task_waiting', ['ownerId', 'waitingOn'], { where: '"waitingOn" IS NOT NULL' })
export class Task extends Row {
  @Column('text') title: string;
  @Column('text') notes: string;
  @ForeignKey('List') @Column('text', { nullable: true }) listId: string | null;
  @Index('task_parent', { where: '"parentId" IS NOT NULL' })
  @ForeignKey('Task')
  @Column('text', { nullable: true })
  parentId: string | null;
  @Column('integer') position: number;
  /** Where it stands among what is to be done on its day. */
  @Column('integer', { default: 0 }) dayOrder: number;
  @Column('simple-json') tags: string[];
  @Column('text') priority: Priority;
  /** Minutes. */
  @Column('integer', { nullable: true }) estimate: number | null;
  @Column('integer') spent: number;
  @Column('boolean') billable: boolean;
  @Column('text') status: TaskStatus;
  @Column('integer', { nullable: true }) completed: number | null;
  @Column('text', { nullable: true }) plannedDay: string | null;
  @Column('text', { nullable: true }) plannedWeek: string | null;
  /** Day, or wall-clock date-time in the owner's zone. */
  @Column('text', { nullable: true }) deadline: string | null;
  @Column('boolean') deadlineFixed: boolean;
  @Column('text', { nullable: true }) notBefore: string | null;
  /** RRULE without prefix. */
  @Column('text', { nullable: true }) repeat: string | null;
  /** Whether the next one is counted from the schedule or from when this one is done. */
  @Column('text', { default: 'schedule' }) repeatFrom: 'schedule' | 'completion';
  /** The day of its schedule that it stands for, wherever it was moved; null: its own day. */
  @Column('text', { nullable: true }) repeatOn: string | null;
  @Column('text') concentration: 'deep' | 'medium' | 'light';
  @Column('text', { nullable: true }) waitingOn: string | null;
  @Column('integer', { nullable: true }) waitingSince: number | null;
  /** The day by which it is expected. */
  @Column('text', { nullable: true }) waitingUntil: string | null;
  /** When they were last asked again. */
  @Column('integer', { nullable: true }) nudged: number | null;
  /** The thread of the mail they were asked in, where it did not come from a message of theirs. */
  @Column('text', { nullable: true }) waitingThread: string | null;
  /** The incoming that answered what it waited for. */
  @Index('task_answered', { where: '"answeredBy" IS NOT NULL' })
  @Column('text', { nullable: true })
  answeredBy: string | null;
  /** Who does it, where it is somebody else; a name. */
  @Column('text', { nullable: true }) assignedTo: string | null;
  /** Wall-clock time in the owner's zone at which it wants to be thought of. */
  @Column('text', { nullable: true }) reminder: string | null;
  @Column('boolean') shelved: boolean;
  @Column('text', { nullable: true }) lookAgain: string | null;
  /** Why it was not finished in its time, as it was said last. */
  @Column('text', { nullable: true }) leftOpen: LeftWhy | null;
  /** The incoming it came from. */
  @Index() @Column('text', { nullable: true }) incomingId: string | null;
  @Column('simple-json', { default: '[]' }) links: { url: string; title: string }[];
  /** Its text as whoever made it has written it; null: it is written anew. */
  @Index('task_text', { where: '"textId" IS NOT NULL' })
  @Column('text', { nullable: true })
  textId: string | null;
  /** Ids of the attachments it carries along; null: all of its message. */
  @Column('simple-json', { nullable: true }) attachments: string[] | null;
}
