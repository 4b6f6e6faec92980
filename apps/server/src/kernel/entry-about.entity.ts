import { Entity, ForeignKey, Index, PrimaryColumn } from 'typeorm';

/** Which rows an entry of the log is about: what happened to a thing is found by it. Triggers write it. */
@Entity('entry_about')
export class EntryAbout {
  @PrimaryColumn('text') rowId: string;
  @Index('entry_about_revision')
  @ForeignKey('Entry', { onDelete: 'CASCADE' })
  @PrimaryColumn('integer')
  revision: number;
}
