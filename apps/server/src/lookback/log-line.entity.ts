import { Column, Entity, Index } from 'typeorm';
import { Row } from '../base/row';

/** A line of one's own in a day. */
@Entity('log_line')
@Index('log_line_day', ['ownerId', 'day'])
export class LogLine extends Row {
  @Column('text') day: string;
  /** `HH:MM`; null: it is of the whole day. */
  @Column('text', { nullable: true }) time: string | null;
  @Column('text') text: string;
}
