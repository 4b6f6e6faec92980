import { createReadStream, createWriteStream, existsSync, promises as fs } from 'node:fs';
import { basename, dirname, join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { pack, type Pack } from 'tar-stream';
import { openDatabase, rows } from './database';
import { filesIn, sync, type KeptFile } from './files';
import { BACKUPS, DATABASE, FILES, KEY, KeepingError, databaseOf, fileOf } from './layout';
import { silent, type Progress } from './progress';

/** What a backup says of itself. It is its first entry. */
export interface Manifest {
  format: 'corvun-backup';
  version: 1;
  /** ISO 8601, UTC. */
  at: string;
  files: number;
  /** Bytes of all files and the database. */
  bytes: number;
  /** Whether the key of the credentials is in it. */
  keys: boolean;
  migrations: string[];
}

export const MANIFEST = 'corvun-backup.json';

export interface Made {
  file: string;
  bytes: number;
  at: string;
}

export interface BackupOptions {
  /** The key of the credentials goes along: whoever has the backup then has the passwords of all sources. */
  withKeys?: boolean;
  progress?: Progress;
}

/** A whole copy of the database at one moment, made beside a running server that goes on writing. @throws KeepingError */
export async function snapshot(data: string, path: string): Promise<void> {
  const database = openDatabase(databaseOf(data));
  try {
    database.exec(`VACUUM INTO '${path.replaceAll("'", "''")}'`);
  } catch (problem) {
    await fs.rm(path, { force: true });
    const code = (problem as { code?: string }).code ?? '';
    if (/FULL|IOERR|CANTOPEN/.test(code)) throw noRoom(path);
    throw problem;
  } finally {
    database.close();
  }
}

/**
 * Writes everything that is kept into one tar file. The database is copied first: every file that a row names was there
 * before the row.
 * @throws KeepingError the file cannot be written
 */
export async function backUp(
  data: string,
  file: string,
  { withKeys = false, progress = silent }: BackupOptions = {},
): Promise<Made> {
  const copy = `${file}.database`;
  const unfinished = `${file}.unfinished`;
  try {
    await snapshot(data, copy);
    const files = await filesIn(data);
    const manifest = await manifestOf(data, copy, files, withKeys);
    const tar = pack();
    const written = pipeline(tar, createWriteStream(unfinished, { mode: 0o600 }));
    await Promise.all([fill(tar, { data, copy, files, manifest, progress }), written]);
    await sync(unfinished);
    await fs.rename(unfinished, file);
    await sync(dirname(file));
    return { file, bytes: (await fs.stat(file)).size, at: manifest.at };
  } catch (problem) {
    await fs.rm(unfinished, { force: true });
    throw asKeeping(problem, file);
  } finally {
    await fs.rm(copy, { force: true });
  }
}

interface Content {
  data: string;
  copy: string;
  files: KeptFile[];
  manifest: Manifest;
  progress: Progress;
}

async function fill(tar: Pack, { data, copy, files, manifest, progress }: Content): Promise<void> {
  try {
    const text = Buffer.from(`${JSON.stringify(manifest, null, 2)}\n`);
    await entry(tar, MANIFEST, text.length, text);
    await entry(tar, DATABASE, (await fs.stat(copy)).size, createReadStream(copy));
    if (manifest.keys) {
      const key = await fs.readFile(join(data, KEY));
      await entry(tar, KEY, key.length, key);
    }
    for (const [at, { hash, size }] of files.entries()) {
      await entry(tar, `${FILES}/${hash.slice(0, 2)}/${hash.slice(2)}`, size, createReadStream(fileOf(data, hash)));
      progress(at + 1, files.length);
    }
    tar.finalize();
  } catch (problem) {
    tar.destroy(problem as Error);
    throw problem;
  }
}

/** Puts one file into a tar archive. */
export async function entry(tar: Pack, name: string, size: number, content: Buffer | NodeJS.ReadableStream): Promise<void> {
  const date = new Date(0);
  if (Buffer.isBuffer(content)) {
    await new Promise<void>((resolve, reject) =>
      tar.entry({ name, size, mode: 0o600, mtime: date }, content, (problem) => (problem ? reject(problem) : resolve())),
    );
    return;
  }
  await new Promise<void>((resolve, reject) => {
    const into = tar.entry({ name, size, mode: 0o600, mtime: date }, (problem) => (problem ? reject(problem) : resolve()));
    content.on('error', reject);
    content.pipe(into);
  });
}

async function manifestOf(data: string, copy: string, files: KeptFile[], withKeys: boolean): Promise<Manifest> {
  const database = openDatabase(copy);
  try {
    return {
      format: 'corvun-backup',
      version: 1,
      at: new Date().toISOString(),
      files: files.length,
      bytes: files.reduce((sum, one) => sum + one.size, (await fs.stat(copy)).size),
      keys: withKeys && existsSync(join(data, KEY)),
      migrations: rows<{ name: string }>(database, 'SELECT name FROM migrations ORDER BY id').map((one) => one.name),
    };
  } finally {
    database.close();
  }
}

/**
 * A backup as a folder beside the data: the database is copied, the files are hard links (or copies where the disk knows
 * none), so that one a day costs little. It saves from mistakes and from a damaged database, not from a broken disk.
 */
export async function backUpBeside(data: string, name: string): Promise<Made> {
  const folder = join(data, BACKUPS, name);
  const unfinished = `${folder}.unfinished`;
  await fs.rm(unfinished, { recursive: true, force: true });
  await fs.mkdir(unfinished, { recursive: true, mode: 0o700 });
  try {
    await snapshot(data, join(unfinished, DATABASE));
    const files = await filesIn(data);
    for (const { hash } of files) {
      const target = fileOf(unfinished, hash);
      await fs.mkdir(dirname(target), { recursive: true, mode: 0o700 });
      await fs.link(fileOf(data, hash), target).catch(() => fs.copyFile(fileOf(data, hash), target));
    }
    const manifest = await manifestOf(data, join(unfinished, DATABASE), files, false);
    await fs.writeFile(join(unfinished, MANIFEST), `${JSON.stringify(manifest, null, 2)}\n`, { mode: 0o600 });
    await fs.rm(folder, { recursive: true, force: true });
    await fs.rename(unfinished, folder);
    return { file: folder, bytes: manifest.bytes, at: manifest.at };
  } catch (problem) {
    await fs.rm(unfinished, { recursive: true, force: true });
    throw asKeeping(problem, folder);
  }
}

export interface Listed {
  name: string;
  kind: 'file' | 'folder';
  at: string;
  bytes: number;
  keys: boolean;
}

/** Backups that lie beside the data, newest first. */
export async function backupsIn(data: string): Promise<Listed[]> {
  const root = join(data, BACKUPS);
  const all: Listed[] = [];
  for (const name of await fs.readdir(root).catch(() => [])) {
    const path = join(root, name);
    const stat = await fs.stat(path).catch(() => null);
    if (!stat || name.endsWith('.unfinished') || name.endsWith('.database')) continue;
    if (stat.isFile() && name.endsWith('.tar'))
      all.push({ name, kind: 'file', at: stat.mtime.toISOString(), bytes: stat.size, keys: name.includes('with-keys') });
    if (!stat.isDirectory()) continue;
    const manifest = await fs.readFile(join(path, MANIFEST), 'utf8').then(
      (text) => JSON.parse(text) as Manifest,
      () => null,
    );
    if (manifest) all.push({ name, kind: 'folder', at: manifest.at, bytes: manifest.bytes, keys: false });
  }
  return all.sort((a, b) => b.at.localeCompare(a.at));
}

/** Takes away a backup beside the data. */
export async function removeBackup(data: string, name: string): Promise<void> {
  await fs.rm(join(data, BACKUPS, basename(name)), { recursive: true, force: true });
}

/** Keeps the newest of a kind. */
export async function prune(data: string, prefix: string, keep: number): Promise<void> {
  const all = (await backupsIn(data)).filter((one) => one.name.startsWith(prefix));
  for (const one of all.slice(keep)) await removeBackup(data, one.name);
}

const noRoom = (path: string) =>
  new KeepingError(
    'no-room',
    `${path} cannot be written: the disk is full, or the folder is not there. Nothing that is kept was changed.`,
  );

function asKeeping(problem: unknown, path: string): unknown {
  const code = (problem as NodeJS.ErrnoException | null)?.code ?? '';
  if (/^(?:ENOSPC|EDQUOT|ENOENT|EACCES|EROFS|ENOTDIR|EISDIR|EPERM)$/.test(code)) return noRoom(path);
  return problem;
}
