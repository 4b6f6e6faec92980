import { IsBoolean, IsInt, Max, Min } from 'class-validator';
import { Maybe } from './rules';
import type { IsoTime } from './things';

/** A backup that lies beside the data. */
export interface BackupInfo {
  name: string;
  /** A file can be taken away; a folder shares its files with the data by hard links. */
  kind: 'file' | 'folder';
  at: IsoTime;
  bytes: number;
  /** The key of the credentials is in it. */
  keys: boolean;
}

/** One thing that a check of the data looks at. */
export interface DataCheck {
  name: 'files' | 'database' | 'references' | 'search index' | 'outbox' | 'log';
  ok: boolean;
  detail: string;
}

/** Something long that the server does for the page Data. */
export interface DataJob {
  id: string;
  kind: 'backup' | 'verify' | 'import';
  state: 'running' | 'done' | 'failed';
  done: number;
  total: number | null;
  /** What came of it, or what went wrong. */
  sentence: string;
  /** Of a backup: its name. */
  backup: string | null;
  /** Of a check: what was looked at. */
  checks: DataCheck[] | null;
  /** Of an import: how many rows were taken. */
  rows: number | null;
}

export interface DataInfo {
  /** Backups are everybody's data, so only the first account sees and makes them. */
  keeper: boolean;
  backups: BackupInfo[];
  /** Daily backups that are kept. */
  keep: number;
  folder: string;
  /** Bytes of the database and of the files. */
  database: number;
  files: { count: number; bytes: number };
  job: DataJob | null;
  /** Nothing is kept for this account yet, so an export can be read in. */
  empty: boolean;
}

export class BackupInput {
  @Maybe() @IsBoolean() withKeys?: boolean;
}

export class DataChange {
  @IsInt({ message: 'The number of daily backups is from 1 to 60.' })
  @Min(1, { message: 'The number of daily backups is from 1 to 60.' })
  @Max(60, { message: 'The number of daily backups is from 1 to 60.' })
  keep: number;
}
