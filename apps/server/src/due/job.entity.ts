import { Column, Entity, ForeignKey, Index, PrimaryColumn } from 'typeorm';

/** Something that Corvun does by itself at a time. */
@Entity('job')
@Index('job_due', ['dueAt'])
export class Job {
  /** Names it; there is one of a key. */
  @PrimaryColumn('text') key: string;
  @Column('text') kind: string;
  @ForeignKey('User') @Column('text', { nullable: true }) ownerId: string | null;
  @Column('integer') dueAt: number;
  @Column('integer') tries: number;
  /** What went wrong the last time; empty when nothing did. */
  @Column('text') problem: string;
}
