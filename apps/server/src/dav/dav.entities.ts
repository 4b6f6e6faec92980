import { Column, Entity, Index, PrimaryColumn } from 'typeorm';

/** Under which name and UID another program keeps a thing, where those are not what they would be by themselves. */
@Entity('dav_name')
@Index('dav_name_of', ['ownerId', 'name'])
export class DavName {
  @PrimaryColumn('text') ownerId: string;
  /** `event:`, the calendar and the UID, or `task:` and the id. */
  @PrimaryColumn('text') thing: string;
  /** The last part of its address. */
  @Column('text') name: string;
  @Column('text') uid: string;
  /** A task that was taken away there, and is dropped here: it has this name no more while it is dropped. */
  @Column('boolean', { default: false }) gone: boolean;
}

/** What left a collection: programs that were away learn it from here. */
@Entity('dav_gone')
@Index('dav_gone_of', ['ownerId', 'collection', 'since'])
export class DavGone {
  @PrimaryColumn('text') id: string;
  @Column('text') ownerId: string;
  @Column('text') collection: string;
  @Column('text') name: string;
  /** The number of the last entry of the log before it left. */
  @Column('integer') since: number;
  @Column('integer') at: number;
}
