import { createHash } from 'node:crypto';
import { promises as fs } from 'node:fs';
import { basename, dirname, join, relative, sep } from 'node:path';
import { newId } from '../base/ids';
import { SourceProblem } from './problem';

export interface NoteFile {
  /** Path below the folder, with forward slashes. */
  path: string;
  mtime: number;
  size: number;
}

export const FOLDER_LIMITS = { maxFiles: 20_000, maxDepth: 20 };

/** Markdown files below a folder. Links that lead out of it, or round in a circle, are not followed. */
export async function* filesBelow(root: string, leaveOut: readonly string[]): AsyncGenerator<NoteFile> {
  const real = await fs.realpath(root);
  const seen = new Set<string>();
  let count = 0;
  const todo = [{ folder: real, depth: 0 }];
  for (let next = todo.shift(); next; next = todo.shift()) {
    if (seen.has(next.folder)) continue;
    seen.add(next.folder);
    const entries = await fs.readdir(next.folder, { withFileTypes: true });
    for (const entry of entries.sort((a, b) => a.name.localeCompare(b.name))) {
      if (entry.name.startsWith('.')) continue;
      const path = await fs.realpath(join(next.folder, entry.name)).catch(() => null);
      if (!path || (path !== real && !path.startsWith(real + sep))) continue;
      const below = relative(real, path).split(sep).join('/');
      if (isOut(below, leaveOut)) continue;
      const stat = await fs.stat(path).catch(() => null);
      if (stat?.isDirectory() && next.depth < FOLDER_LIMITS.maxDepth) todo.push({ folder: path, depth: next.depth + 1 });
      if (!stat?.isFile() || !/\.(?:md|markdown)$/i.test(entry.name) || seen.has(path)) continue;
      seen.add(path);
      count += 1;
      if (count > FOLDER_LIMITS.maxFiles)
        throw new SourceProblem(`There are more than ${FOLDER_LIMITS.maxFiles} notes in this folder.`, 'refused');
      yield { path: below, mtime: Math.round(stat.mtimeMs), size: stat.size };
    }
  }
}

/** Whether a path lies in a folder that is left out: named by itself, or by its path from the top. */
export function isOut(path: string, leaveOut: readonly string[]): boolean {
  const out = new Set(leaveOut.map((one) => one.replace(/^\/+|\/+$/g, '').toLowerCase()).filter(Boolean));
  const parts = path.toLowerCase().split('/');
  return parts.some((part, at) => out.has(part) || out.has(parts.slice(0, at + 1).join('/')));
}

export const hashOf = (bytes: Buffer): string => createHash('sha256').update(bytes).digest('hex');

/**
 * Replaces a file in one step, if it is still what it was when it was read. Nothing is lost: when it was changed
 * meanwhile it stays as it is, and a crash leaves either the old or the new file.
 * @returns false when it was changed meanwhile
 */
export async function replaceFile(path: string, readHash: string, text: string): Promise<boolean> {
  const { mode } = await fs.stat(path);
  const fresh = join(dirname(path), `.${basename(path)}.${newId()}.new`);
  const file = await fs.open(fresh, 'wx', mode);
  try {
    await file.writeFile(text, 'utf8');
    await file.sync();
  } finally {
    await file.close();
  }
  // Looked at as late as possible: whoever writes between this look and the rename would lose.
  const now = await fs.readFile(path).catch(() => null);
  if (!now || hashOf(now) !== readHash) {
    await fs.rm(fresh, { force: true });
    return false;
  }
  await fs.rename(fresh, path);
  return true;
}
