import { Column, Entity, Index } from 'typeorm';
import { Row } from '../base/row';

/** What was settled for a day. */
@Entity('day_plan')
@Index('day_plan_day', ['ownerId', 'day'], { unique: true })
export class DayPlan extends Row {
  @Column('text') day: string;
  @Column('integer', { nullable: true }) opened: number | null;
  @Column('integer', { nullable: true }) closed: number | null;
  /** Ids of the tasks that matter most, in order. */
  @Column('simple-json') picks: string[];
}
