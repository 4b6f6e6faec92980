import type { DataJob } from '@corvun/contract';
import { KeepingError, entry, restore, verify, type Verified } from '@corvun/keeping';
import type { Command } from 'commander';
import { createReadStream, createWriteStream, openAsBlob, promises as fs } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join, resolve, sep } from 'node:path';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { extract, pack, type Pack } from 'tar-stream';
import { Client, dataFolder, type ServerOptions } from './client';
import { Refused, print } from './usage';

const ASK_EVERY = 200;
export const EXPORT_MANIFEST = 'export.json';

const say = (text: string) => process.stderr.write(`${text}\n`);
const pause = () => new Promise((wake) => setTimeout(wake, ASK_EVERY));

/** The commands that keep, move and check everything. */
export function dataCommands(program: Command): void {
  const withServer = (command: Command) =>
    command.option('--server <url>', 'where the server is').option('--token <token>', 'token to use');

  withServer(program.command('backup'))
    .description('everything in one file, made while the server runs')
    .argument('<file>')
    .option('--with-keys', 'with the key of the credentials: whoever has the file then has the passwords of all sources')
    .action(async (file: string, options: ServerOptions & { withKeys?: boolean }) => {
      const client = new Client(options);
      await refuseExisting(file);
      const { backup } = await finished(
        client,
        await client.request('POST /data/backups', {}, { withKeys: options.withKeys ?? false }),
      );
      const path = `/data/backups/${encodeURIComponent(backup ?? '')}`;
      const { backups } = await client.request('GET /data', {});
      const at = backups.find((one) => one.name === backup)?.at ?? new Date().toISOString();
      const bytes = await download(client, path, file);
      await client.request('DELETE /data/backups/:id', { id: backup ?? '' });
      if (options.withKeys) say('The key of the credentials is in it: whoever has this file has the passwords of all sources.');
      print(options.json, { file: resolve(file), bytes, at }, [`${file}: ${bytes} bytes`]);
    });

  program
    .command('restore')
    .description('puts a backup into the data folder, which must be empty; no server may run there')
    .argument('<file>')
    .option('--with-keys', 'put the key of the credentials back, where the backup has it')
    .action(async (file: string, { withKeys = false, json }: { withKeys?: boolean; json?: boolean }) => {
      const data = dataFolder();
      const manifest = await guarded(() =>
        restore(file, data, { withKeys, progress: (done, total) => progress('files', done, total) }),
      );
      if (!withKeys || !manifest.keys)
        say('Without the key of the credentials, the passwords of sources have to be written again.');
      print(json, { data, at: manifest.at, files: manifest.files, bytes: manifest.bytes, keys: withKeys && manifest.keys }, [
        `${data} is as it was at ${manifest.at}: ${manifest.files} files.`,
      ]);
    });

  withServer(program.command('verify'))
    .description('checks everything that is kept, with a server or without one')
    .action(async (options: ServerOptions) => {
      const client = Client.ifPossible(options);
      const verified = client && (await client.answers()) ? await verifyThere(client) : await verifyHere();
      print(options.json, { ok: verified.ok, checks: verified.checks }, [
        ...verified.checks.map((check) => `${check.ok ? 'ok   ' : 'WRONG'} ${check.name}: ${check.detail}`),
      ]);
      if (!verified.ok) process.exitCode = 1;
    });

  withServer(program.command('export'))
    .description('everything in open formats, into a folder')
    .argument('<dir>')
    .action(async (dir: string, options: ServerOptions) => {
      const client = new Client(options);
      await refuseFull(dir);
      const written = await unpack(await client.download('/data/export'), dir);
      print(options.json, written, [`${dir}: ${written.files} files, ${written.bytes} bytes`]);
    });
}

/** Reads an exported folder into the account. */
export async function importFolder(client: Client, dir: string): Promise<DataJob> {
  const tar = pack();
  const temporary = join(await fs.mkdtemp(join(tmpdir(), 'corvun-import-')), 'export.tar');
  try {
    const written = pipeline(tar, createWriteStream(temporary));
    await Promise.all([fill(tar, dir), written]);
    const form = new FormData();
    form.append('file', await openAsBlob(temporary), 'export.tar');
    return await finished(client, await client.request('POST /data/import', {}, form));
  } finally {
    await fs.rm(dirname(temporary), { recursive: true, force: true });
  }
}

async function fill(tar: Pack, dir: string): Promise<void> {
  const names = (await fs.readdir(dir, { recursive: true, withFileTypes: true }))
    .filter((one) => one.isFile())
    .map((one) => join(one.parentPath, one.name))
    .sort();
  for (const path of names) {
    const name = path.slice(dir.length).split(sep).join('/').replace(/^\/+/, '');
    await entry(tar, name, (await fs.stat(path)).size, createReadStream(path));
  }
  tar.finalize();
}

async function finished(client: Client, begun: DataJob): Promise<DataJob> {
  let job = begun;
  while (job.state === 'running') {
    await pause();
    job = await client.request('GET /data/job', {});
    progress('done', job.done, job.total);
  }
  if (job.state === 'failed') throw new Refused(job.sentence);
  return job;
}

function progress(what: string, done: number, total: number | null): void {
  if (process.stderr.isTTY) process.stderr.write(`\r${what}: ${done}${total === null ? '' : ` of ${total}`} `);
}

async function verifyThere(client: Client): Promise<Verified> {
  const { checks } = await finished(client, await client.request('POST /data/verify', {}));
  return { ok: (checks ?? []).every((check) => check.ok), checks: checks ?? [] };
}

const verifyHere = () => guarded(() => verify(dataFolder(), (done, total) => progress('files', done, total)));

async function guarded<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (problem) {
    if (problem instanceof KeepingError) throw new Refused(problem.message);
    throw problem;
  }
}

async function refuseExisting(file: string): Promise<void> {
  if (await fs.stat(file).catch(() => null)) throw new Refused(`${file} is there already; choose another name.`);
}

async function refuseFull(dir: string): Promise<void> {
  const names = await fs.readdir(dir).catch((problem: NodeJS.ErrnoException) => {
    if (problem.code === 'ENOENT') return [];
    throw new Refused(`${dir} is no folder.`);
  });
  if (names.length) throw new Refused(`${dir} is not empty; an export goes into an empty folder.`);
}

async function download(client: Client, path: string, file: string): Promise<number> {
  const unfinished = `${file}.unfinished`;
  try {
    await pipeline(await client.download(path), createWriteStream(unfinished, { mode: 0o600 }));
    await fs.rename(unfinished, file);
    return (await fs.stat(file)).size;
  } catch (problem) {
    await fs.rm(unfinished, { force: true });
    if (problem instanceof Refused) throw problem;
    throw new Refused(`${file} could not be written: ${problem instanceof Error ? problem.message : 'unknown'}.`);
  }
}

async function unpack(stream: Readable, dir: string): Promise<{ files: number; bytes: number }> {
  const tar = extract();
  const root = resolve(dir);
  const reading = pipeline(stream, tar);
  reading.catch(() => undefined);
  let [files, bytes] = [0, 0];
  for await (const one of tar) {
    const path = resolve(root, one.header.name);
    if (!path.startsWith(root + sep) || one.header.type !== 'file')
      throw new Refused('The server sent a name that leads out of the folder.');
    await fs.mkdir(dirname(path), { recursive: true, mode: 0o700 });
    await pipeline(one, createWriteStream(path, { mode: 0o600 }));
    files += 1;
    bytes += one.header.size ?? 0;
    progress('files', files, null);
  }
  await reading.catch(() => {
    throw new Refused('The server broke off in the middle; the export is not whole.');
  });
  return { files, bytes };
}
