import type { Destination } from '@corvun/core';
import { Column, Entity, Index } from 'typeorm';
import { Row } from '../base/row';

/** One row before and after; null means that it was not there. */
export interface RowChange {
  kind: string;
  id: string;
  before: Content | null;
  after: Content | null;
}

/** The columns of a row, as they stand in the database. */
export type Content = { [column: string]: unknown };

/** Something the user did, with all that undo and learning need. */
@Entity('decision')
@Index('decision_order', ['ownerId', 'seq'], { unique: true })
export class Decision extends Row {
  /** Order of a user's doings. */
  @Column('integer') seq: number;
  @Column('text') action: 'decide' | 'capture' | 'change' | 'move' | 'finish' | 'remove';
  @Column('text', { nullable: true }) destination: Destination | null;
  @Column('text') sentence: string;
  @Column('integer') at: number;
  @Column('simple-json') incomingIds: string[];
  @Column('simple-json') changes: RowChange[];
  /** `lost`: undone, and then something else was done. */
  @Column('text') state: 'done' | 'undone' | 'lost';
}
