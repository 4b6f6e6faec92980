import { Column, Entity, ForeignKey } from 'typeorm';
import { Row } from '../base/row';

/** What of one calendar stands in another, too. */
@Entity('mirror')
export class Mirror extends Row {
  @ForeignKey('Calendar') @Column('text') fromId: string;
  @ForeignKey('Calendar') @Column('text') toId: string;
  /** What copies are called; empty: as what they are copies of. */
  @Column('text') title: string;
  @Column('text') category: string;
  /** Others see that there is something, and not what. */
  @Column('boolean') private: boolean;
  /** What was over by then is left alone. */
  @Column('integer') since: number;
}
