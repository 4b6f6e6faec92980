import { Column, ForeignKey, PrimaryColumn } from 'typeorm';

/** What every row of a user has. Instants are milliseconds since 1970. */
export abstract class Row {
  @PrimaryColumn('text') id: string;
  @ForeignKey('User') @Column('text') ownerId: string;
  /** Counts changes, for optimistic locking. */
  @Column('integer') version: number;
  @Column('integer') created: number;
  @Column('integer') changed: number;
}
