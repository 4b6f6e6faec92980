import { Inject, Injectable } from '@nestjs/common';
import { createReadStream, promises as fs, type ReadStream } from 'node:fs';
import { join } from 'node:path';
import { newId } from './ids';
import { CONFIG, type Config } from './config';

/** Originals and attachments on disk, byte for byte, each under its SHA-256. */
@Injectable()
export class FileStore {
  private readonly root: string;

  constructor(@Inject(CONFIG) { data }: Config) {
    this.root = join(data, 'files');
  }

  /** Keeps bytes; when this resolves they survive a pulled plug. Keeping the same bytes twice is free. */
  async keep(hash: string, bytes: Buffer): Promise<void> {
    const path = this.pathOf(hash);
    if (await exists(path)) return;
    const folder = join(path, '..');
    await fs.mkdir(folder, { recursive: true });
    const unfinished = `${path}.${newId()}`;
    const file = await fs.open(unfinished, 'wx', 0o600);
    try {
      await file.writeFile(bytes);
      await file.sync();
    } finally {
      await file.close();
    }
    await fs.rename(unfinished, path);
    // The rename itself is only safe once the folder is on disk.
    const directory = await fs.open(folder, 'r');
    await directory.sync().finally(() => directory.close());
  }

  open(hash: string): ReadStream {
    return createReadStream(this.pathOf(hash));
  }

  read(hash: string): Promise<Buffer> {
    return fs.readFile(this.pathOf(hash));
  }

  private pathOf(hash: string): string {
    if (!/^[0-9a-f]{64}$/.test(hash)) throw new Error('not a content hash');
    return join(this.root, hash.slice(0, 2), hash.slice(2));
  }
}

async function exists(path: string): Promise<boolean> {
  return fs.access(path).then(
    () => true,
    () => false,
  );
}
