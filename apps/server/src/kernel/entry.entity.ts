import type { Destination, Step } from '@corvun/core';
import { Column, Entity, ForeignKey, Index, PrimaryGeneratedColumn } from 'typeorm';

/** Who wrote: the user, what a connected source or file brought, a standing rule, a guest on a public page, or Corvun itself. */
export type ActorKind = 'user' | 'source' | 'rule' | 'guest' | 'system';

export type Action = 'decide' | 'capture' | 'change' | 'move' | 'finish' | 'remove';

/** One transaction in the log. Its number grows over all of them; windows say by it how far they know. */
@Entity('entry')
@Index('entry_owner', ['ownerId', 'revision'])
@Index('entry_done', ['actorId', 'revision'], { where: `"state" = 'done'` })
@Index('entry_undone', ['actorId', 'revision'], { where: `"state" = 'undone'` })
export class Entry {
  @PrimaryGeneratedColumn() revision: number;
  @Index('entry_id', { unique: true }) @Column('text') id: string;
  /** Whose things were written. */
  @ForeignKey('User') @Column('text') ownerId: string;
  @Column('text') actor: ActorKind;
  /** The user, source, rule or guest; null for Corvun itself. */
  @Column('text', { nullable: true }) actorId: string | null;
  @Column('text', { nullable: true }) action: Action | null;
  @Column('text', { nullable: true }) destination: Destination | null;
  /** What was done, for people; empty where nobody is told. */
  @Column('text') sentence: string;
  @Column('integer') at: number;
  @Column('simple-json') incomingIds: string[];
  @Column('simple-json') changes: Step[];
  /** The shape of the rows in `changes`; see `shapes.ts`. */
  @Column('integer') shape: number;
  /** `final`: cannot be taken back. `lost`: undone, and then something else was done. */
  @Column('text') state: 'done' | 'undone' | 'lost' | 'final';
}
