import { Column, Entity, ForeignKey, Index } from 'typeorm';
import { Row } from '../base/row';

/** Time set aside. */
@Entity('block')
@Index('block_window', ['ownerId', 'startAt', 'endAt'])
export class Block extends Row {
  @Column('text') kind: 'work' | 'quiet' | 'break' | 'prep' | 'follow-up' | 'travel';
  @Index() @ForeignKey('Task') @Column('text', { nullable: true }) taskId: string | null;
  @Column('integer') startAt: number;
  @Column('integer') endAt: number;
  /** Whether others see it as taken. */
  @Column('boolean') busy: boolean;
  /** What it is called, where it is for no task. */
  @Column('text', { default: '' }) title: string;
  /** Planning does not move it. */
  @Column('boolean', { default: false }) pinned: boolean;
  /** Sites that are held back in it; null: those that always are. Only quiet time has some. */
  @Column('simple-json', { nullable: true }) sites: string[] | null;
  /** The event it moves with; null: it stands for itself. */
  @Index('block_beside', { where: '"besideId" IS NOT NULL' })
  @Column('text', { nullable: true })
  besideId: string | null;
}
