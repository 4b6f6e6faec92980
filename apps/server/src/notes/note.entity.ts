import { Column, Entity, ForeignKey, Index } from 'typeorm';
import { Row } from '../base/row';

/** A page of notes: Markdown (CommonMark), in a tree. */
@Entity('note')
@Index('note_owner', ['ownerId', 'parentId', 'position'])
@Index('note_of_event', ['ownerId', 'eventUid', 'eventDate'])
export class Note extends Row {
  @Column('text') title: string;
  @Column('text') text: string;
  @ForeignKey('Note') @Column('text', { nullable: true }) parentId: string | null;
  @Column('integer') position: number;
  /** The incoming things it was written from. */
  @Column('simple-json') incomingIds: string[];
  /** The meeting it is the page of, by its UID, so that it stays with it in another calendar; null: of none. */
  @Column('text', { nullable: true }) eventUid: string | null;
  /** Of a series: which date, by its original start; empty otherwise. */
  @Column('text', { default: '' }) eventDate: string;
}
