import { join } from 'node:path';

/** What lies where in a data folder (`CORVUN_DATA`). */
export const DATABASE = 'corvun.sqlite';
/** Originals and attachments, each under its SHA-256: two letters, a slash, the other 62. */
export const FILES = 'files';
/** The key of the credentials of sources. */
export const KEY = 'key';
export const UPLOADS = 'uploads';
export const BACKUPS = 'backups';

export const databaseOf = (data: string): string => join(data, DATABASE);
export const fileOf = (data: string, hash: string): string => join(data, FILES, hash.slice(0, 2), hash.slice(2));

/** A folder, file or backup that cannot be used; the message is a sentence for whoever runs Corvun. */
export class KeepingError extends Error {
  constructor(
    readonly code: 'unusable' | 'damaged' | 'newer' | 'foreign' | 'not-empty' | 'no-room',
    message: string,
  ) {
    super(message);
  }
}
