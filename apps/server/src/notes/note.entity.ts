import { Column, Entity, ForeignKey, Index } from 'typeorm';
import { Row } from '../base/row';

/** A page of notes: Markdown (CommonMark), in a tree. */
@Entity('note')
@Index('note_owner', ['ownerId', 'parentId', 'position'])
export class Note extends Row {
  @Column('text') title: string;
  @Column('text') text: string;
  @ForeignKey('Note') @Column('text', { nullable: true }) parentId: string | null;
  @Column('integer') position: number;
  /** The incoming things it was written from. */
  @Column('simple-json') incomingIds: string[];
}
