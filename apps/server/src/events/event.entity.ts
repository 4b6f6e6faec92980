import type { Alarm, EventBuffers } from '@corvun/core';
import { Column, Entity, ForeignKey, Index } from 'typeorm';
import { Row } from '../base/row';

export interface Attendee {
  name: string;
  address: string;
  partstat: 'NEEDS-ACTION' | 'ACCEPTED' | 'DECLINED' | 'TENTATIVE' | 'DELEGATED';
  /** DTSTAMP of the answer that counts, in milliseconds: an older one that comes later does not. */
  answered?: number;
}

/** An event (iCalendar VEVENT, RFC 5545, 3.6.1). `startAt`/`endAt` bound all its occurrences. */
@Entity('event')
@Index('event_alarms', ['ownerId'], { where: '"alarms" IS NOT NULL' })
@Index('event_buffers', ['ownerId'], { where: '"buffers" IS NOT NULL' })
@Index('event_mirror', ['ownerId', 'mirror'], { where: '"mirror" IS NOT NULL' })
@Index('event_long', ['ownerId', 'endAt'], { where: '"endAt" - "startAt" > 2678400000' })
@Index('event_endless', ['ownerId', 'startAt'], { where: '"endAt" IS NULL' })
@Index('event_window', ['ownerId', 'startAt', 'endAt'])
@Index('event_uid', ['ownerId', 'calendarId', 'uid', 'recurrenceId'], { unique: true })
export class Event extends Row {
  @ForeignKey('Calendar') @Column('text') calendarId: string;
  @Column('text') uid: string;
  @Column('integer') sequence: number;
  /** Wall-clock time or day of the occurrence this row replaces; empty for the series. */
  @Column('text') recurrenceId: string;
  /** Wall-clock time in `zone`, or a day. */
  @Column('text') start: string;
  @Column('text') end: string;
  @Column('integer') startAt: number;
  /** Null: repeats without end. */
  @Column('integer', { nullable: true }) endAt: number | null;
  @Column('boolean') allDay: boolean;
  @Column('text', { nullable: true }) zone: string | null;
  @Column('text') title: string;
  @Column('text') description: string;
  @Column('text') location: string;
  @Column('text') meetingLink: string;
  @Column('text') organizer: string;
  @Column('simple-json') attendees: Attendee[];
  @Column('text') status: 'CONFIRMED' | 'TENTATIVE' | 'CANCELLED';
  @Column('boolean') transparent: boolean;
  @Column('text') class: 'PUBLIC' | 'PRIVATE' | 'CONFIDENTIAL';
  @Column('text') category: string;
  @Column('text', { nullable: true }) rrule: string | null;
  @Column('simple-json') rdates: string[];
  @Column('simple-json') exdates: string[];
  /** The incoming it came from. */
  @Index() @Column('text', { nullable: true }) incomingId: string | null;
  /** The owner's own answer to an invitation; null where none was asked for. */
  @Column('text', { nullable: true }) partstat: Attendee['partstat'] | null;
  /** DTSTAMP of the message it was last changed by (RFC 5546, 2.1.5). */
  @Column('integer', { default: 0 }) stamp: number;
  /** Address of the event in its source. */
  @Column('text', { default: '' }) link: string;
  /** DURATION as written (RFC 5545, 3.3.6), where the event has no DTEND: its days are nominal. */
  @Column('text', { nullable: true }) duration: string | null;
  /** The zone its end is said in, where that is another than `zone`, in which `end` is kept. */
  @Column('text', { nullable: true }) endZone: string | null;
  /** VALARM (3.6.6); null: what is so for all events. */
  @Column('simple-json', { nullable: true }) alarms: Alarm[] | null;
  /** The time beside it; null: what is so for its like. */
  @Column('simple-json', { nullable: true }) buffers: EventBuffers | null;
  /** The mirror it is a copy by; null: it stands for itself. */
  @Column('text', { nullable: true }) mirror: string | null;
  /** EXRULE (RFC 2445); several are parted by line breaks, and so are several RRULEs. */
  @Column('text', { nullable: true }) exrule: string | null;
  /** Its text as whoever made it has written it; null: it is written anew. */
  @Index('event_text', { where: '"textId" IS NOT NULL' })
  @Column('text', { nullable: true })
  textId: string | null;
  /** A changed occurrence with RANGE=THISANDFUTURE: all after it are changed the same way. */
  @Column('boolean', { default: false }) following: boolean;
}
