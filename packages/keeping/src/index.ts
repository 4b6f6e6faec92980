export { inspectFolder } from './inspect';
export type { Inspected } from './inspect';
export { BACKUPS, DATABASE, FILES, KEY, KeepingError, UPLOADS, databaseOf, fileOf } from './layout';
