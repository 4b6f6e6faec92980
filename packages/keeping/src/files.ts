import { createHash } from 'node:crypto';
import { createReadStream, promises as fs } from 'node:fs';
import { join } from 'node:path';
import { FILES } from './layout';

/** A kept file: its hash, which is its name, and its size. */
export interface KeptFile {
  hash: string;
  size: number;
}

/** Every whole file in the store, by hash; what is still being written has another name and is passed over. */
export async function filesIn(data: string): Promise<KeptFile[]> {
  const root = join(data, FILES);
  const found: KeptFile[] = [];
  for (const folder of (await fs.readdir(root).catch(() => [])).sort())
    for (const name of (await fs.readdir(join(root, folder)).catch(() => [])).sort())
      if (/^[0-9a-f]{2}$/.test(folder) && /^[0-9a-f]{62}$/.test(name)) {
        const stat = await fs.stat(join(root, folder, name)).catch(() => null);
        if (stat?.isFile()) found.push({ hash: folder + name, size: stat.size });
      }
  return found;
}

/** SHA-256 of a file, read piece by piece; null when it cannot be read. */
export async function hashOfFile(path: string): Promise<string | null> {
  const hash = createHash('sha256');
  try {
    for await (const chunk of createReadStream(path) as AsyncIterable<Buffer>) hash.update(chunk);
    return hash.digest('hex');
  } catch {
    return null;
  }
}

/** Makes sure that a file or folder is on disk. */
export async function sync(path: string): Promise<void> {
  const file = await fs.open(path, 'r');
  await file.sync().finally(() => file.close());
}
