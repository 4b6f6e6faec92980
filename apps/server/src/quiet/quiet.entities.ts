import { Column, Entity, Index } from 'typeorm';
import { Row } from '../base/row';

/** That sites were held back in a quiet time: what does it says so itself. */
@Entity('site_hold')
@Index('site_hold_of', ['ownerId', 'ofWhat'], { unique: true })
@Index('site_hold_window', ['ownerId', 'startAt'])
export class SiteHold extends Row {
  /** The block, or what was worked on heads-down, by its id; each has one at most. */
  @Column('text') ofWhat: string;
  /** The task that was worked on heads-down; null: it was quiet time that was set aside. */
  @Column('text', { nullable: true }) taskId: string | null;
  @Column('text') title: string;
  /** From when on. */
  @Column('integer') startAt: number;
  @Column('integer') endAt: number;
  @Column('simple-json') sites: string[];
}

/** A time in which a site that is held back was looked at all the same. */
@Entity('grace')
@Index('grace_window', ['ownerId', 'startAt'])
export class Grace extends Row {
  @Column('text') site: string;
  @Column('integer') startAt: number;
  @Column('integer') endAt: number;
}
