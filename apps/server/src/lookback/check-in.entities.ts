import type { CheckInAnswers, Question } from '@corvun/core';
import { Column, Entity, ForeignKey, Index } from 'typeorm';
import { Row } from '../base/row';

/** A few questions that come back. */
@Entity('check_in')
@Index('check_in_owner', ['ownerId', 'position'])
export class CheckIn extends Row {
  @Column('text') name: string;
  /** ISO weekdays on which it asks, and `HH:MM` at which it does. */
  @Column('simple-json') weekdays: number[];
  @Column('text') time: string;
  @Column('simple-json') questions: Question[];
  /** Whether it comes by mail, too. */
  @Column('boolean') byMail: boolean;
  @Column('boolean') paused: boolean;
  @Column('integer') position: number;
  /** The last day on which it asked; empty: it never did. */
  @Column('text') askedOn: string;
}

/** What was answered for a day. */
@Entity('check_in_answer')
@Index('check_in_answer_day', ['checkInId', 'day', 'who'], { unique: true })
@Index('check_in_answer_of_day', ['ownerId', 'day'])
export class CheckInAnswer extends Row {
  @ForeignKey('CheckIn') @Column('text') checkInId: string;
  @Column('text') day: string;
  /** Who answered; empty: oneself. */
  @Column('text') who: string;
  /** With the questions as they were asked; none: it was left out this time. */
  @Column('simple-json') answers: CheckInAnswers;
  /** What was said, as text, by which it is found. */
  @Column('text') words: string;
  @Column('integer') answeredAt: number;
}
