import { Column, Entity, Index } from 'typeorm';
import { Row } from '../base/row';

/** How one is, as a chat shows it. */
export interface ShownPresence {
  text: string;
  /** Whether messages wait. */
  dnd: boolean;
  /** When it is over, as an instant (ISO 8601); null: it is not known. */
  until: string | null;
}

/** What others are shown of how one is; everybody has one at most. */
@Entity('presence')
@Index('presence_owner', ['ownerId'], { unique: true })
export class PresenceRow extends Row {
  /** Own words, as long as they hold; empty: there are none. */
  @Column('text') ownText: string;
  @Column('integer', { nullable: true }) ownUntil: number | null;
  /** What each source is to show, by its id. */
  @Column('simple-json') shown: Record<string, ShownPresence>;
}
