import { filesIn } from '@corvun/keeping';
import { Inject, Injectable, type OnApplicationBootstrap } from '@nestjs/common';
import { createHash } from 'node:crypto';
import { createReadStream, existsSync, promises as fs, type ReadStream } from 'node:fs';
import { join } from 'node:path';
import { newId } from './ids';
import { Refusal } from './refusal';
import { CONFIG, type Config } from './config';

/** A hundred thousand files take seconds to count, and the page Data asks again and again. Milliseconds. */
const COUNT_EVERY = 60_000;

/** Originals and attachments on disk, byte for byte, each under its SHA-256. */
@Injectable()
export class FileStore implements OnApplicationBootstrap {
  private readonly root: string;

  private readonly data: string;
  private counted: { at: number; used: Promise<{ count: number; bytes: number }> } | null = null;

  constructor(@Inject(CONFIG) { data }: Config) {
    this.data = data;
    this.root = join(data, 'files');
  }

  /** What a killed server had not finished writing is taken away. */
  async onApplicationBootstrap(): Promise<void> {
    const folders = await fs.readdir(this.root).catch(() => []);
    for (const folder of folders)
      for (const name of await fs.readdir(join(this.root, folder)).catch(() => []))
        if (!/^[0-9a-f]{62}$/.test(name)) await fs.rm(join(this.root, folder, name), { force: true });
  }

  /** Keeps bytes; when this resolves they survive a pulled plug. Keeping the same bytes twice is free. */
  keep(hash: string, bytes: Buffer): Promise<void> {
    return this.keepAll(new Map([[hash, bytes]]));
  }

  /** Keeps many at once, by their hashes: a folder that several go into is brought to the disk once. */
  async keepAll(all: ReadonlyMap<string, Buffer>): Promise<void> {
    const folders = new Set<string>();
    await Promise.all(
      [...all].map(async ([hash, bytes]) => {
        const path = this.pathOf(hash);
        if (existsSync(path)) return;
        folders.add(await this.write(path, bytes));
      }),
    );
    // A rename is only safe once its folder is on disk.
    await Promise.all([...folders].map(syncFolder));
  }

  /** Writes a file whole or not at all. @returns its folder */
  private async write(path: string, bytes: Buffer): Promise<string> {
    const folder = join(path, '..');
    const unfinished = `${path}.${newId()}`;
    const file = await openNew(unfinished);
    try {
      try {
        await file.writeFile(bytes);
        await file.sync();
      } finally {
        await file.close();
      }
      await fs.rename(unfinished, path);
    } catch (problem) {
      await fs.rm(unfinished, { force: true });
      throw problem;
    }
    return folder;
  }

  /** Keeps a file that lies on this disk already. @returns its hash */
  async keepFile(path: string): Promise<string> {
    const hash = createHash('sha256');
    for await (const chunk of createReadStream(path) as AsyncIterable<Buffer>) hash.update(chunk);
    const name = hash.digest('hex');
    const target = this.pathOf(name);
    if (await exists(target)) return name;
    await fs.mkdir(join(target, '..'), { recursive: true });
    const file = await fs.open(path, 'r');
    await file.sync().finally(() => file.close());
    await fs.rename(path, target);
    return name;
  }

  open(hash: string): ReadStream {
    return createReadStream(this.pathOf(hash));
  }

  /** The bytes, for an answer. @throws Refusal when they are not where they were kept */
  async openKept(hash: string): Promise<ReadStream> {
    if (!(await exists(this.pathOf(hash))))
      throw new Refusal(
        'file-missing',
        'Its file is not where it was kept. Everything else is; whoever runs Corvun finds it in a backup (corvun verify names it).',
      );
    return this.open(hash);
  }

  /** How many files are kept, and how large they are together; looked at once a minute at most. */
  used(): Promise<{ count: number; bytes: number }> {
    if (!this.counted || Date.now() - this.counted.at > COUNT_EVERY) {
      const used = filesIn(this.data).then((all) => ({
        count: all.length,
        bytes: all.reduce((sum, one) => sum + one.size, 0),
      }));
      this.counted = { at: Date.now(), used };
    }
    return this.counted.used;
  }

  /** Bytes of a kept file; null when it is not there. */
  async sizeOf(hash: string): Promise<number | null> {
    return fs.stat(this.pathOf(hash)).then(
      (found) => found.size,
      () => null,
    );
  }

  read(hash: string): Promise<Buffer> {
    return fs.readFile(this.pathOf(hash));
  }

  private pathOf(hash: string): string {
    if (!/^[0-9a-f]{64}$/.test(hash)) throw new Error('not a content hash');
    return join(this.root, hash.slice(0, 2), hash.slice(2));
  }
}

/** The folder of a new file is made when it turns out that there is none. */
async function openNew(path: string): Promise<fs.FileHandle> {
  try {
    return await fs.open(path, 'wx', 0o600);
  } catch (problem) {
    if ((problem as NodeJS.ErrnoException).code !== 'ENOENT') throw problem;
    await fs.mkdir(join(path, '..'), { recursive: true });
    return fs.open(path, 'wx', 0o600);
  }
}

async function syncFolder(path: string): Promise<void> {
  const folder = await fs.open(path, 'r');
  await folder.sync().finally(() => folder.close());
}

async function exists(path: string): Promise<boolean> {
  return fs.access(path).then(
    () => true,
    () => false,
  );
}
