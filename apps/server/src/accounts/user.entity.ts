import type { May } from '@corvun/contract';
import type { Settings } from '@corvun/core';
import { Column, Entity, ForeignKey, Index, PrimaryColumn } from 'typeorm';

@Entity('user')
export class User {
  @PrimaryColumn('text') id: string;
  @Column('text') name: string;
  @Index({ unique: true }) @Column('text') email: string;
  /** Mail sent here becomes an incoming. */
  @Index({ unique: true }) @Column('text') captureAddress: string;
  @Column('text') passwordHash: string;
  @Column('text') zone: string;
  @Column('simple-json') hours: Record<number, string[]>;
  /** A copy of what was chosen besides name, zone and hours; see `settings/`. */
  @Column('simple-json') settings: Partial<Settings>;
  @Column('integer') created: number;
  /** Reminders that were due until then have been told; 0: none has been counted yet. */
  @Column('integer', { default: 0 }) remindedUntil: number;
  /** The last day whose outline was mailed. */
  @Column('text', { default: '' }) outlinedOn: string;
  /** When what holds sites back was heard of first, and last; 0: it never was. */
  @Column('integer', { default: 0 }) extensionSince: number;
  @Column('integer', { default: 0 }) extensionSeen: number;
}

/** A signed-in browser, or a program's token. Only the hash of the secret is kept. */
@Entity('access')
export class Access {
  @PrimaryColumn('text') id: string;
  @Index() @ForeignKey('User') @Column('text') userId: string;
  @Index({ unique: true }) @Column('text') secretHash: string;
  @Column('text') kind: 'session' | 'token';
  @Column('text', { default: 'write' }) may: May;
  /** The token it was made with, and ends with; empty where it was made by somebody who was signed in. */
  @Column('text', { default: '' }) madeBy: string;
  @Column('text') name: string;
  @Column('integer') created: number;
  /** Null: until it is withdrawn. */
  @Column('integer', { nullable: true }) expires: number | null;
}
