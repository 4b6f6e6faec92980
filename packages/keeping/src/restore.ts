import { createReadStream, createWriteStream, existsSync, promises as fs } from 'node:fs';
import { dirname, join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { extract } from 'tar-stream';
import { MANIFEST, type Manifest } from './backup';
import { firstValue, openDatabase } from './database';
import { hashOfFile, sync } from './files';
import { DATABASE, FILES, KEY, KeepingError, UPLOADS } from './layout';
import { silent, type Progress } from './progress';

export interface RestoreOptions {
  /** The key of the credentials is put back, where the backup has it. */
  withKeys?: boolean;
  progress?: Progress;
}

const ENTRY = /^(?:corvun-backup\.json|corvun\.sqlite|key|files\/[0-9a-f]{2}\/[0-9a-f]{62})$/;

/**
 * Puts a backup into an empty data folder. Everything is looked at before it counts: a backup that is cut off or damaged
 * leaves the folder empty.
 * @param file a backup file, or the folder of a backup beside the data
 * @throws KeepingError
 */
export async function restore(
  file: string,
  data: string,
  { withKeys = false, progress = silent }: RestoreOptions = {},
): Promise<Manifest> {
  await refuseUnlessEmpty(data);
  const found = await fs.stat(file).catch(() => null);
  if (!found) throw new KeepingError('unusable', `There is no backup ${file}.`);
  const unfinished = join(data, 'restoring');
  await fs.mkdir(unfinished, { recursive: true, mode: 0o700 });
  try {
    if (found.isDirectory()) await fs.cp(file, unfinished, { recursive: true });
    else await unpack(file, unfinished, progress);
    const manifest = await checked(unfinished, file);
    if (!withKeys) await fs.rm(join(unfinished, KEY), { force: true });
    await fs.rm(join(unfinished, MANIFEST));
    for (const name of [FILES, KEY, DATABASE])
      if (existsSync(join(unfinished, name))) await fs.rename(join(unfinished, name), join(data, name));
    await fs.rm(unfinished, { recursive: true, force: true });
    await sync(data);
    return manifest;
  } catch (problem) {
    await fs.rm(unfinished, { recursive: true, force: true });
    if (problem instanceof KeepingError) throw problem;
    if ((problem as NodeJS.ErrnoException).code === 'ENOSPC')
      throw new KeepingError('no-room', `The disk of ${data} is full. Nothing was put there.`);
    throw new KeepingError('damaged', `${file} cannot be read as a backup, or it is cut off. Nothing was put into ${data}.`);
  }
}

async function refuseUnlessEmpty(data: string): Promise<void> {
  const names = await fs.readdir(data).catch((problem: NodeJS.ErrnoException) => {
    if (problem.code === 'ENOENT') return [];
    throw new KeepingError('unusable', `The folder ${data} cannot be used (${problem.code ?? ''}).`);
  });
  // An empty folder for uploads is made by every start.
  const inUse = names.filter((name) => name !== UPLOADS);
  if (inUse.length)
    throw new KeepingError(
      'not-empty',
      `${data} is not empty. A backup is only put into an empty folder; choose one with CORVUN_DATA.`,
    );
}

async function unpack(file: string, folder: string, progress: Progress): Promise<void> {
  const tar = extract();
  let done = 0;
  let total: number | null = null;
  const reading = pipeline(createReadStream(file), tar);
  reading.catch(() => undefined);
  for await (const entry of tar) {
    const { name, type } = entry.header;
    // A name that leads out of the folder, or a link, is no part of a backup.
    if (!ENTRY.test(name) || type !== 'file')
      throw new KeepingError('damaged', `${file} is not a backup of Corvun: it holds “${name}”.`);
    const path = join(folder, name);
    await fs.mkdir(dirname(path), { recursive: true, mode: 0o700 });
    await pipeline(entry, createWriteStream(path, { mode: 0o600 }));
    if (name === MANIFEST) total = (JSON.parse(await fs.readFile(path, 'utf8')) as Manifest).files;
    if (name.startsWith(FILES)) progress((done += 1), total);
  }
  await reading;
}

async function checked(folder: string, file: string): Promise<Manifest> {
  const manifest = JSON.parse(await fs.readFile(join(folder, MANIFEST), 'utf8')) as Manifest;
  if (manifest.format !== 'corvun-backup' || manifest.version !== 1)
    throw new KeepingError('newer', `${file} was made by a newer Corvun, which this one cannot read.`);
  const database = openDatabase(join(folder, DATABASE));
  try {
    if (firstValue(database, 'PRAGMA quick_check(1)') !== 'ok')
      throw new KeepingError('damaged', `The database in ${file} is damaged. Nothing was put back.`);
  } finally {
    database.close();
    for (const end of ['-wal', '-shm']) await fs.rm(join(folder, DATABASE + end), { force: true });
  }
  let files = 0;
  for (const part of await fs.readdir(join(folder, FILES)).catch(() => []))
    for (const name of await fs.readdir(join(folder, FILES, part))) {
      if ((await hashOfFile(join(folder, FILES, part, name))) !== part + name)
        throw new KeepingError('damaged', `A file in ${file} is damaged. Nothing was put back.`);
      files += 1;
    }
  if (files !== manifest.files)
    throw new KeepingError('damaged', `${file} should hold ${manifest.files} files and holds ${files}. Nothing was put back.`);
  return manifest;
}
