import type { PassKind } from '@corvun/contract';
import { Column, Entity, Index } from 'typeorm';
import { Row } from '../base/row';

/** A guided pass that is or was gone through. */
@Entity('pass')
@Index('pass_state', ['ownerId', 'state'])
@Index('pass_kind', ['ownerId', 'kind', 'state', 'day'])
export class Pass extends Row {
  @Column('text') kind: PassKind;
  @Column('text') day: string;
  /** Where one stands in it; empty at the beginning. */
  @Column('text') step: string;
  @Column('text') state: 'running' | 'done' | 'left';
  @Column('integer') begun: number;
  @Column('integer', { nullable: true }) ended: number | null;
  /** What was written down or chosen on the way. */
  @Column('simple-json') notes: Record<string, unknown>;
}
