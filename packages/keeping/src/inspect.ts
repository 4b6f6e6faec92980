import {
  accessSync,
  chmodSync,
  constants,
  existsSync,
  mkdirSync,
  openSync,
  readSync,
  closeSync,
  readdirSync,
  statSync,
} from 'node:fs';
import { dirname, join } from 'node:path';
import { firstValue, openDatabase, rows } from './database';
import { DATABASE, FILES, KEY, KeepingError, databaseOf } from './layout';

const HEADER = 'SQLite format 3\0';

export interface Inspected {
  /** There is a database; a new one is made where there is none. */
  known: boolean;
  /** Migrations that this program has and the database does not. */
  pending: string[];
}

/**
 * Looks at a data folder before anything is opened: makes it where it is missing, and refuses to go on with one that
 * cannot be written, belongs to somebody else, is damaged, was written by a newer program, or has lost its database.
 * @param migrations names of the migrations this program knows
 * @throws KeepingError one sentence
 */
export function inspectFolder(data: string, migrations: readonly string[]): Inspected {
  makeUsable(data);
  const path = databaseOf(data);
  if (!existsSync(path)) {
    if (holdsFiles(data))
      throw new KeepingError(
        'damaged',
        `${path} is missing, but files it belongs to are still in ${data}. Put the database back, or restore a backup into an empty folder; nothing was changed.`,
      );
    return { known: false, pending: [...migrations] };
  }
  checkHead(path);
  return checkContent(path, data, migrations);
}

function makeUsable(data: string): void {
  try {
    makeFolder(data);
    const { uid } = statSync(data);
    const own = process.getuid?.() ?? uid;
    if (uid !== own && own !== 0)
      throw new KeepingError('foreign', `The folder ${data} belongs to another user of this machine; start Corvun as that user.`);
    accessSync(data, constants.R_OK | constants.W_OK | constants.X_OK);
    readdirSync(data);
    // What is kept here is nobody else's to read.
    chmodSync(data, 0o700);
    for (const name of readdirSync(data)) if (name.startsWith(DATABASE)) chmodSync(join(data, name), 0o600);
  } catch (problem) {
    if (problem instanceof KeepingError) throw problem;
    throw new KeepingError(
      'unusable',
      `The folder ${data} cannot be used: ${reasonOf(problem)}. Choose another with CORVUN_DATA.`,
    );
  }
}

/** Makes a folder and those above it, one by one: asked for all at once, some file systems never answer. */
function makeFolder(folder: string): void {
  if (existsSync(folder)) return void readdirSync(folder);
  if (dirname(folder) !== folder) makeFolder(dirname(folder));
  mkdirSync(folder, { mode: 0o700 });
}

function reasonOf(problem: unknown): string {
  const code = (problem as NodeJS.ErrnoException | null)?.code ?? '';
  const said: Record<string, string> = {
    EACCES: 'it cannot be written to',
    EPERM: 'it cannot be written to',
    EROFS: 'it lies on a disk that can only be read',
    ENOTDIR: 'there is a file where a folder should be',
    EEXIST: 'there is a file where a folder should be',
    ENOSPC: 'the disk is full',
    ENOENT: 'it cannot be made there',
  };
  return said[code] ?? `the system says ${code || String(problem)}`;
}

const holdsFiles = (data: string): boolean =>
  existsSync(join(data, KEY)) || (existsSync(join(data, FILES)) && readdirSync(join(data, FILES)).length > 0);

function checkHead(path: string): void {
  const file = openSync(path, 'r');
  const head = Buffer.alloc(HEADER.length);
  const read = readSync(file, head, 0, head.length, 0);
  closeSync(file);
  // With a write-ahead log beside it, even a database nobody wrote to yet has its first page.
  if (read === 0)
    throw new KeepingError('damaged', `${path} is empty. Restore a backup into an empty folder; nothing was changed.`);
  if (head.toString('latin1') !== HEADER)
    throw new KeepingError('damaged', `${path} is not a database. Restore a backup into an empty folder; nothing was changed.`);
}

function checkContent(path: string, data: string, migrations: readonly string[]): Inspected {
  let database;
  try {
    database = openDatabase(path);
    const found = rows<Record<string, unknown>>(database, 'PRAGMA quick_check(1)').map((row) => Object.values(row)[0]);
    if (found[0] !== 'ok') throw new KeepingError('damaged', damaged(path));
    const tables = new Set(
      rows<{ name: string }>(database, `SELECT name FROM sqlite_master WHERE type = 'table'`).map((one) => one.name),
    );
    if (!tables.has('migrations') || !tables.has('user')) {
      if (tables.size === 0 && !holdsFiles(data)) return { known: false, pending: [...migrations] };
      throw new KeepingError('damaged', `${path} is a database, but not one of Corvun's. Nothing was changed.`);
    }
    const done = rows<{ name: string }>(database, 'SELECT name FROM migrations').map((one) => one.name);
    const unknown = done.filter((name) => !migrations.includes(name));
    if (unknown.length)
      throw new KeepingError(
        'newer',
        `${path} was last written by a newer Corvun, which this one cannot read. Start the newer one again; nothing was changed.`,
      );
    if (Number(firstValue(database, 'SELECT count(*) FROM "user"')) === 0 && holdsFiles(data))
      throw new KeepingError(
        'damaged',
        `${path} has lost its account, but files it belongs to are still in ${data}. Restore a backup into an empty folder; nothing was changed.`,
      );
    return { known: true, pending: migrations.filter((name) => !done.includes(name)) };
  } catch (problem) {
    if (problem instanceof KeepingError) throw problem;
    const code = (problem as { code?: string } | null)?.code ?? '';
    if (/BUSY|LOCKED/.test(code))
      throw new KeepingError('unusable', `${path} is held by another program. End that one first; nothing was changed.`);
    if (/CORRUPT|NOTADB|IOERR|ERROR/.test(code)) throw new KeepingError('damaged', damaged(path));
    throw new KeepingError(
      'unusable',
      `${path} cannot be opened: ${problem instanceof Error ? problem.message : String(problem)}.`,
    );
  } finally {
    database?.close();
  }
}

const damaged = (path: string) => `${path} is damaged. Restore a backup into an empty folder; nothing was changed.`;
