import { Injectable } from '@nestjs/common';
import { isZone } from '@corvun/core';
import { createReadStream, createWriteStream, promises as fs } from 'node:fs';
import { join } from 'node:path';
import { createInterface } from 'node:readline';
import { pipeline } from 'node:stream/promises';
import { extract } from 'tar-stream';
import type { EntityManager } from 'typeorm';
import { User } from '../accounts/user.entity';
import { Refusal } from '../base/errors';
import { FileStore } from '../base/file-store';
import { Uploads } from '../base/uploads';
import { Writes } from '../base/writes';
import { Memories } from '../incoming/memories.service';
import { StreamService } from '../stream/stream.service';
import { EXPORT_MANIFEST, type ExportManifest } from './export-manifest';
import type { Owned } from '../kernel/kind';
import { OWNED } from '../kernel/kinds';
import { SettingsRow } from '../settings/settings.entity';
import { readSettings } from '../settings/settings-of';

type Progress = (done: number, total: number | null) => void;

const AT_ONCE = 200;
const MOST_ROW = 8 * 1024 * 1024;
const wrong = (why: string) => new Refusal('not-an-export', `This is not a whole export of Corvun: ${why}. Nothing was changed.`);

/** Unpacked: where the tables lie, and the hashes of the files that were in it. */
interface Unpacked {
  folder: string;
  manifest: ExportManifest;
  hashes: Set<string>;
}

/** Reads an export into an account that is still empty; all of it, or nothing. */
@Injectable()
export class ImportExportService {
  constructor(
    private readonly files: FileStore,
    private readonly uploads: Uploads,
    private readonly writes: Writes,
    private readonly memories: Memories,
    private readonly stream: StreamService,
  ) {}

  /** Whether nothing is kept for a user yet. */
  async isEmpty(manager: EntityManager, ownerId: string): Promise<boolean> {
    for (const { entity, only } of OWNED) if (await manager.existsBy(entity, { ownerId, ...only })) return false;
    return true;
  }

  /**
   * @param path a tar archive as `ExportService` writes it
   * @returns how many rows were taken
   * @throws Refusal the account is not empty, or this is no whole export
   */
  async read(user: User, path: string, progress: Progress): Promise<number> {
    const folder = this.uploads.fresh('unpacked');
    await fs.mkdir(folder, { mode: 0o700 });
    try {
      const unpacked = await this.unpack(path, folder, progress);
      const rows = await this.writes
        .write((manager) => this.write(manager, user, unpacked, progress))
        .catch((problem: unknown) => {
          const isStray = problem instanceof Refusal && problem.code === 'still-needed';
          throw isStray ? wrong('a row belongs to another that is not in it') : problem;
        });
      this.memories.forget(user.id);
      // So much is not told one by one.
      this.stream.fallBehind(user.id);
      return rows;
    } finally {
      await fs.rm(folder, { recursive: true, force: true });
      await fs.rm(path, { force: true });
    }
  }

  private async unpack(path: string, folder: string, progress: Progress): Promise<Unpacked> {
    const tar = extract();
    const reading = pipeline(createReadStream(path), tar);
    reading.catch(() => undefined);
    const hashes = new Set<string>();
    let manifest: ExportManifest | null = null;
    let done = 0;
    try {
      for await (const entry of tar) {
        const name = entry.header.name.replace(/^\.\//, '');
        const table = /^data\/([a-z-]{1,30})\.json$/.exec(name)?.[1];
        const isFile = /^(?:mail|originals|attachments|files)\/.+/.test(name);
        const target = join(folder, table ?? (name === EXPORT_MANIFEST ? 'manifest' : 'part'));
        if (entry.header.type !== 'file' || !(table || isFile || name === EXPORT_MANIFEST)) {
          entry.resume();
          continue;
        }
        await pipeline(entry, createWriteStream(target, { mode: 0o600 }));
        if (isFile) hashes.add(await this.files.keepFile(target));
        if (name === EXPORT_MANIFEST) manifest = JSON.parse(await fs.readFile(target, 'utf8')) as ExportManifest;
        progress((done += 1), null);
      }
      await reading;
    } catch (problem) {
      if (problem instanceof Refusal) throw problem;
      throw wrong('it is cut off or damaged');
    }
    if (manifest?.format !== 'corvun-export') throw wrong(`there is no ${EXPORT_MANIFEST} in it`);
    if (manifest.version !== 1) throw wrong('it was made by a newer Corvun');
    return { folder, manifest, hashes };
  }

  private async write(manager: EntityManager, user: User, unpacked: Unpacked, progress: Progress): Promise<number> {
    if (!(await this.isEmpty(manager, user.id)))
      throw new Refusal('not-empty', 'There are things in this account already. An export is only read into an empty one.');
    let rows = 0;
    for (const table of OWNED) {
      for await (const batch of this.batches(table, unpacked, user, manager)) {
        await manager.insert(table.entity, batch).catch((problem: unknown) => {
          if (/CONSTRAINT/.test(String((problem as { code?: string }).code)) || /constraint|NOT NULL/i.test(String(problem)))
            throw wrong(`a row of ${table.exported.name} does not fit, or is here already`);
          throw problem;
        });
        rows += batch.length;
        progress(rows, null);
        // Other requests are answered in between.
        await new Promise((resolve) => setImmediate(resolve));
      }
    }
    const { name, zone, hours, settings } = unpacked.manifest.account;
    if (typeof name === 'string' && name.trim() && isZone(zone) && typeof hours === 'object') {
      // Exports of before hold no settings; what others may have written into the file is looked at like any input.
      const chosen = readSettings(settings);
      await manager.update(User, { id: user.id }, { name: name.slice(0, 120), zone, hours, settings: chosen });
      await manager.update(SettingsRow, { ownerId: user.id }, { chosen: { ...chosen, name: name.slice(0, 120), zone, hours } });
    }
    return rows;
  }

  private async *batches(
    table: Owned,
    { folder, hashes }: Unpacked,
    user: User,
    manager: EntityManager,
  ): AsyncGenerator<object[]> {
    const columns = new Set(manager.connection.getMetadata(table.entity).columns.map((column) => column.propertyName));
    let batch: object[] = [];
    for await (const row of rowsOf(join(folder, table.exported.name), table.exported)) {
      const known = Object.fromEntries(Object.entries(row).filter(([column]) => columns.has(column)));
      const own = { ...(table.in ? table.in(known, user.id) : known), ownerId: user.id } as Record<string, unknown>;
      // A hash names a file of somebody else's just as well: only what came along is given out.
      if (own['originalHash'] && !hashes.has(own['originalHash'] as string)) own['originalHash'] = null;
      if (table.bytes && !hashes.has(own['hash'] as string)) continue;
      batch.push(own);
      if (batch.length >= AT_ONCE) {
        yield batch;
        batch = [];
      }
    }
    if (batch.length) yield batch;
  }
}

/** Rows of a table: a JSON array, one row a line. @throws Refusal */
async function* rowsOf(path: string, { name, later }: Owned['exported']): AsyncGenerator<Record<string, unknown>> {
  if (!(await fs.stat(path).catch(() => null))) {
    if (later) return;
    throw wrong(`the table ${name} is missing`);
  }
  const lines = createInterface({ input: createReadStream(path), crlfDelay: Infinity });
  for await (const line of lines) {
    const text = line.trim().replace(/,$/, '');
    if (text === '[' || text === ']' || text === '[]' || !text) continue;
    try {
      if (text.length > MOST_ROW) throw new Error('too long');
      yield JSON.parse(text) as Record<string, unknown>;
    } catch {
      throw wrong(`a line of ${name} cannot be read`);
    }
  }
}
