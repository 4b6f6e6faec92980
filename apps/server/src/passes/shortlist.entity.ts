import { Column, Entity, Index } from 'typeorm';
import { Row } from '../base/row';

/** The few things that are in sight after the decks were cleared; everybody has one at most. */
@Entity('shortlist')
@Index('shortlist_owner', ['ownerId'], { unique: true })
export class Shortlist extends Row {
  /** Ids of tasks, in order. */
  @Column('simple-json') picks: string[];
  /** Ids of lists, in order. */
  @Column('simple-json') projects: string[];
  /** The last day on which what is new only goes to the inbox. */
  @Column('text', { nullable: true }) quietUntil: string | null;
}

/** The last day of a quiet time that is not over; null: there is none on that day. */
export const quietOn = (list: Pick<Shortlist, 'quietUntil'> | null, day: string): string | null =>
  list?.quietUntil && list.quietUntil >= day ? list.quietUntil : null;
