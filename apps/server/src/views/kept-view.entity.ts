import { Column, Entity } from 'typeorm';
import { Row } from '../base/row';

/** A view of tasks under a name: which lists, grouped, sorted and filtered how. */
@Entity('kept_view')
export class KeptView extends Row {
  @Column('text') name: string;
  /** What stands behind the question mark of its address. */
  @Column('text') query: string;
  @Column('integer') position: number;
}
