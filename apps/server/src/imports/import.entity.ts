import type { TaskColumn } from '@corvun/formats';
import { Column, Entity } from 'typeorm';
import { Row } from '../base/row';

/** One file being taken in, and its report. The file itself lies in the upload folder until it is done. */
@Entity('import_run')
export class ImportRun extends Row {
  @Column('text') name: string;
  @Column('text') kind: string;
  @Column('text') path: string;
  @Column('integer') size: number;
  @Column('text') state: 'columns' | 'running' | 'stopped' | 'done' | 'failed';
  /** Bytes read so far. */
  @Column('integer') done: number;
  @Column('integer') taken: number;
  @Column('integer') updated: number;
  @Column('integer') known: number;
  @Column('integer') refusedCount: number;
  /** The first refusals, each with where and why. */
  @Column('simple-json') refused: { file: string; at: string; reason: string }[];
  @Column('text') problem: string;
  @Column('simple-json', { nullable: true }) columns: TaskColumn[] | null;
}
