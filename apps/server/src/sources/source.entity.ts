import type { SourceKind, SourceSettings } from '@corvun/contract';
import { Column, Entity, Index } from 'typeorm';
import { Row } from '../base/row';

/** A connected place things come from. */
@Entity('source')
export class Source extends Row {
  @Column('text') kind: SourceKind;
  @Column('text') name: string;
  /** Where it is: a URL, `host:port`, or a folder. */
  @Column('text') address: string;
  /** User name there; empty where none is needed. */
  @Column('text') account: string;
  /** Password or token, encrypted with the key outside the database; null when there is none. */
  @Column('text', { nullable: true }) secret: string | null;
  /** What to bring in, what to leave out, and how its statuses and dates map. */
  @Column('simple-json') settings: SourceSettings;
  /** How far it was read; only its own adapter understands it. */
  @Column('simple-json') cursor: Record<string, unknown>;
  @Column('text') state: 'active' | 'paused';
  /** What comes from it waits: one is not to be disturbed. */
  @Column('boolean', { default: false }) held: boolean;
  @Column('text', { nullable: true }) calendarId: string | null;
  /** Seconds between two looks. */
  @Column('integer') every: number;
  @Column('integer', { nullable: true }) lastTry: number | null;
  @Column('integer', { nullable: true }) lastSuccess: number | null;
  @Column('integer') nextTry: number;
  @Column('integer') failures: number;
  /** What went wrong last, as a sentence; empty when nothing did. */
  @Column('text') problem: string;
  @Column('integer') position: number;
}

/** A thing that lives both here and in a source, with the last state both had in common. */
@Entity('counterpart')
@Index('counterpart_external', ['sourceId', 'externalId'], { unique: true })
@Index('counterpart_task', ['taskId'])
@Index('counterpart_incoming', ['incomingId'])
@Index('counterpart_parent', ['parentId'])
export class Counterpart extends Row {
  @Column('text') sourceId: string;
  @Column('text') externalId: string;
  /** Of a checklist item: the thing it is a step of. */
  @Column('text', { nullable: true }) parentId: string | null;
  @Column('text', { nullable: true }) incomingId: string | null;
  @Column('text', { nullable: true }) taskId: string | null;
  @Column('simple-json') base: Record<string, string | number | boolean | null>;
  /** What was last sent there and has not been seen there yet. */
  @Column('simple-json') sending: Record<string, string | number | boolean | null>;
  /** What the adapter needs to find it again: version, board, path, address. */
  @Column('simple-json') place: Record<string, string | number | boolean | null>;
  /** It is no longer there. */
  @Column('boolean') gone: boolean;
}
