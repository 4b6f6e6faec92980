import { Column, Entity, Index } from 'typeorm';
import { Row } from '../base/row';

@Entity('tag')
@Index('tag_name', ['ownerId', 'name'], { unique: true })
export class Tag extends Row {
  @Column('text') name: string;
  @Column('integer') hue: number;
}
