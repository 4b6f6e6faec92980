import { Column, Entity, ForeignKey, PrimaryColumn } from 'typeorm';

/** Keys of captured lines, so that a line sent twice is taken once. */
@Entity('capture_key')
export class CaptureKey {
  @ForeignKey('User') @PrimaryColumn('text') ownerId: string;
  @PrimaryColumn('text') key: string;
  @Column('integer') at: number;
}
