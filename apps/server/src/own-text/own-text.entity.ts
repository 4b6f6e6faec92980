import type { OwnText as Text } from '@corvun/formats';
import { Column, Entity, Index, PrimaryColumn } from 'typeorm';

/**
 * The text of an event or task as whoever made it has written it (RFC 5545, 3.6). Rows are a reading of it and name it by
 * `textId`. It is never changed: another text is another row, so that what is taken back finds its own again.
 */
@Entity('own_text')
@Index('own_text_unused', ['unusedSince'], { where: '"unusedSince" IS NOT NULL' })
export class OwnText implements Text {
  /** From its owner and what is in it: the same text is kept once. */
  @PrimaryColumn('text') id: string;
  @Index('own_text_owner') @Column('text') ownerId: string;
  @Column('text') text: string;
  @Column('text') around: string;
  /** What the row said that was read from it; a row that says the same leaves as this text. */
  @Column('text') said: string;
  @Column('integer') made: number;
  /** Since when no row names it; what is older than anything that can be taken back is thrown away. */
  @Column('integer', { nullable: true }) unusedSince: number | null;
}
