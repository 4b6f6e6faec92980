import { Column, Entity } from 'typeorm';
import { Row } from '../base/row';

@Entity('list')
export class List extends Row {
  @Column('text') name: string;
  /** Two letters that stand beside the colour everywhere. */
  @Column('text') code: string;
  /** One of ten hues, 0 to 9. */
  @Column('integer') hue: number;
  @Column('text') group: string;
  @Column('integer') position: number;
  /** Put away: neither offered nor shown among the lists, with everything on it. */
  @Column('boolean', { default: false }) archived: boolean;
  /** The day on which a project ends. */
  @Column('text', { nullable: true }) ends: string | null;
  @Column('boolean') project: boolean;
  @Column('text') outcome: string;
  @Column('text', { nullable: true }) defaultTag: string | null;
  /** New tasks on it are billed. */
  @Column('boolean', { default: false }) billable: boolean;
  @Column('text') concentration: 'deep' | 'medium' | 'light';
}
