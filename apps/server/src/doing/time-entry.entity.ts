import { Column, Entity, ForeignKey, Index } from 'typeorm';
import { Row } from '../base/row';

/** Time that was spent on a task. */
@Entity('time_entry')
@Index('time_window', ['ownerId', 'startAt'])
@Index('time_running', ['ownerId'], { unique: true, where: '"endAt" IS NULL' })
export class TimeEntry extends Row {
  @Index('time_task') @ForeignKey('Task') @Column('text') taskId: string;
  @Column('integer') startAt: number;
  /** Null: it runs; of everybody only one does. */
  @Column('integer', { nullable: true }) endAt: number | null;
  /** How it is known. */
  @Column('text') by: 'timer' | 'block' | 'heads-down' | 'hand';
  /** It ended because something came up. */
  @Column('boolean') paused: boolean;
  /** What has to be known of it; empty where nothing has. */
  @Column('text') note: string;
}
