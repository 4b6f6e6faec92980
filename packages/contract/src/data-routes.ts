import type { BackupInput, DataChange, DataInfo, DataJob } from './data';
import type { ColumnsInput } from './source-inputs';
import type { ImportInfo } from './sources';

/** The routes of files that are taken in, of what is kept, of backups and of the export; a part of the table in `routes.ts`. */
export interface DataRoutes {
  /** Begins to take files in; their progress is asked for. */
  'POST /imports': { files: 'files'; answer: ImportInfo[]; errors: 'no-file' };
  /** Files that are being taken in or were lately. */
  'GET /imports': { answer: ImportInfo[] };
  /** One file and its report. */
  'GET /imports/:id': { answer: ImportInfo };
  /** Says what the columns of a table mean, whereupon it is taken in. */
  'POST /imports/:id/columns': { status: 200; body: ColumnsInput; answer: ImportInfo; errors: 'not-waiting' | 'bad-field' };
  /** Stops it; what was taken stays. */
  'POST /imports/:id/stop': { status: 200; answer: ImportInfo };
  /** Goes on with what was stopped. */
  'POST /imports/:id/resume': { status: 200; answer: ImportInfo; errors: 'not-stopped' };
  /** Forgets the file and its report; what was taken stays. */
  'DELETE /imports/:id': { status: 204; answer: null };

  /** How much is kept, and its backups. */
  'GET /data': { answer: DataInfo };
  /** The long work that goes on or was done last. */
  'GET /data/job': { answer: DataJob; errors: 'not-found' };
  /** Says how many daily backups are kept. */
  'PATCH /data': { status: 204; body: DataChange; answer: null; errors: 'not-allowed' };
  /** Begins a backup. */
  'POST /data/backups': { status: 202; body: BackupInput; answer: DataJob; errors: 'not-allowed' | 'busy' };
  /** A backup, as a file. */
  'GET /data/backups/:id': { answer: null; bytes: 'application/x-tar'; errors: 'not-allowed' | 'a-folder' };
  /** Removes a backup. */
  'DELETE /data/backups/:id': { status: 204; answer: null; errors: 'not-allowed' };
  /** Begins to check that everything kept is whole. */
  'POST /data/verify': { status: 202; answer: DataJob; errors: 'not-allowed' | 'busy' };
  /** Everything of this account, in open formats, as one file. */
  'GET /data/export': { answer: null; bytes: 'application/x-tar'; errors: 'busy' };
  /** Begins to read an export into this account, which has to be empty. */
  'POST /data/import': {
    status: 202;
    file: 'file';
    answer: DataJob;
    errors: 'no-file' | 'not-empty' | 'busy' | 'not-an-export';
  };
}
