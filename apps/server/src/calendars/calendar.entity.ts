import { Column, Entity } from 'typeorm';
import { Row } from '../base/row';

@Entity('calendar')
export class Calendar extends Row {
  @Column('text') name: string;
  @Column('text') code: string;
  @Column('integer') hue: number;
  @Column('text') origin: 'own' | 'feed' | 'connected';
  @Column('integer') position: number;
  /** The single truth that others are shown. */
  @Column('boolean') main: boolean;
  @Column('boolean') shown: boolean;
  @Column('boolean') busy: boolean;
  /** The source that fills it. */
  @Column('text', { nullable: true }) sourceId: string | null;
}
