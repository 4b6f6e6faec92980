import type { HeadsDownRules } from '@corvun/core';
import { Column, Entity, ForeignKey, Index } from 'typeorm';
import { Row } from '../base/row';

/** One task and nothing else; everybody has one at most, and it is the same in every window. */
@Entity('heads_down')
@Index('heads_down_owner', ['ownerId'], { unique: true })
export class HeadsDown extends Row {
  @ForeignKey('Task') @Column('text') taskId: string;
  /** The lengths it was begun with. */
  @Column('simple-json') rules: HeadsDownRules;
  @Column('integer') begun: number;
  /** The last row of the inbox when it was begun: what has a later one came in meanwhile, whatever the clock shows. */
  @Column('integer') lastRow: number;
  @Column('text') phase: 'work' | 'short' | 'long' | 'over';
  @Column('integer') fromAt: number;
  /** When it turns by itself; null: it waits. */
  @Column('integer', { nullable: true }) untilAt: number | null;
  /** Stretches of work that are over. */
  @Column('integer') round: number;
}
