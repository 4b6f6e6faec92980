import { writeVcards } from '@corvun/formats';
import { entry, snapshot } from '@corvun/keeping';
import { createReadStream, createWriteStream, promises as fs } from 'node:fs';
import { once } from 'node:events';
import { join } from 'node:path';
import { finished } from 'node:stream/promises';
import { pack, type Pack } from 'tar-stream';
import { DataSource, MoreThan, type FindManyOptions, type ObjectLiteral } from 'typeorm';
import { User } from '../accounts/user.entity';
import type { Config } from '../base/config';
import { readingOptions } from '../base/data-source';
import { FileStore } from '../base/file-store';
import { Incoming, type StoredAttachment } from '../incoming/incoming.entity';
import { Note } from '../notes/note.entity';
import { cardOf } from '../people/card';
import { Person } from '../people/person.entity';
import { EXPORT_MANIFEST, type ExportManifest } from './export-manifest';
import { calendarFiles, tableFiles } from './open-formats';
import { safeName } from './safe-name';
import type { Content, Owned } from '../kernel/kind';
import { OWNED } from '../kernel/kinds';

const PAGE = 400;
/** Bytes of a file that is read at once: nearly all mails are as small, and there may be very many. */
const SMALL = 256 * 1024;

/** Writes everything of one user in open formats: mail, calendars, tasks, people, notes, tables, and the rest as JSON. */
export class ExportWriter {
  private readonly files: FileStore;

  /** @param folder for what is only needed meanwhile; whoever made it takes it away */
  constructor(
    private readonly config: Pick<Config, 'data'>,
    private readonly folder: string,
  ) {
    this.files = new FileStore(config as Config);
  }

  /** A tar archive, made from a copy of the database at one moment while it is read. */
  stream(userId: string): Pack {
    const tar = pack();
    this.fill(tar, userId).then(
      () => tar.finalize(),
      (problem: unknown) => tar.destroy(problem instanceof Error ? problem : new Error(String(problem))),
    );
    return tar;
  }

  private async fill(tar: Pack, userId: string): Promise<void> {
    const copy = join(this.folder, 'database');
    await snapshot(this.config.data, copy);
    const source = new DataSource({ ...readingOptions(this.config.data), database: copy } as never);
    await source.initialize();
    try {
      const user = await source.manager.findOneByOrFail(User, { id: userId });
      const text = (name: string, content: string) => {
        const bytes = Buffer.from(content);
        return entry(tar, name, bytes.length, bytes);
      };
      const manifest: ExportManifest = {
        format: 'corvun-export',
        version: 1,
        account: { name: user.name, zone: user.zone, hours: user.hours, settings: sorted({ ...user.settings }) },
      };
      await text(EXPORT_MANIFEST, `${JSON.stringify(manifest, null, 2)}\n`);
      for (const table of OWNED) await this.table(tar, source, user, table);
      for await (const { name, content } of calendarFiles(source, user)) await text(name, content);
      for await (const { name, content } of tableFiles(source, user)) await text(name, content);
      await text('people.vcf', writeVcards((await own(source, Person, user)).map(cardOf)));
      for (const { id, title, text: markdown } of await own(source, Note, user))
        await text(`notes/${safeName(title)}-${id.slice(0, 6)}.md`, `# ${title}\n\n${markdown}\n`);
      await this.originals(tar, source, user);
    } finally {
      await source.destroy();
      for (const end of ['', '-wal', '-shm']) await fs.rm(copy + end, { force: true });
    }
  }

  /** A table as a JSON array with one row a line, so that a large one is read line by line. */
  private async table(tar: Pack, source: DataSource, user: User, table: Owned): Promise<void> {
    const path = join(this.folder, 'table');
    const file = createWriteStream(path, { mode: 0o600 });
    file.write('[');
    let first = true;
    for await (const row of pages(source, table, user)) {
      const { ownerId: _ownerId, ...rest } = row;
      const out = table.out ? table.out(rest) : rest;
      if (!file.write(`${first ? '' : ','}\n${JSON.stringify(sorted(out))}`)) await once(file, 'drain');
      first = false;
    }
    file.end('\n]\n');
    await finished(file);
    await entry(tar, `data/${table.exported.name}.json`, (await fs.stat(path)).size, createReadStream(path));
    await fs.rm(path, { force: true });
  }

  private async originals(tar: Pack, source: DataSource, user: User): Promise<void> {
    const kept = async (name: string, hash: string) => {
      const size = await this.files.sizeOf(hash);
      if (size === null) return;
      await entry(tar, name, size, size < SMALL ? await this.files.read(hash) : this.files.open(hash));
    };
    for await (const row of pages(source, { entity: Incoming, exported: { name: 'incoming', order: 'id' } }, user)) {
      const { id, kind, originalHash } = row as unknown as Incoming;
      if (originalHash) await kept(kind === 'mail' || kind === 'invitation' ? `mail/${id}.eml` : `originals/${id}`, originalHash);
    }
    for (const table of OWNED)
      if (table.bytes)
        for await (const row of pages(source, table, user)) {
          const { id, name, hash } = row as unknown as Pick<StoredAttachment, 'id' | 'name' | 'hash'>;
          await kept(`${table.bytes}/${id}/${safeName(name)}`, hash);
        }
  }
}

/** Rows of one owner, page by page, in order. */
async function* pages(source: DataSource, { entity, exported, only }: Owned, user: User): AsyncGenerator<Content> {
  for (let last: unknown = null; ;) {
    const options: FindManyOptions<ObjectLiteral> = {
      where: { ownerId: user.id, ...only, ...(last === null ? {} : { [exported.order]: MoreThan(last) }) },
      order: { [exported.order]: 'ASC' },
      take: PAGE,
    };
    const rows = await source.manager.find(entity, options);
    for (const row of rows) yield { ...row };
    if (rows.length < PAGE) return;
    last = (rows.at(-1) as Content)[exported.order];
  }
}

const own = <T extends ObjectLiteral>(source: DataSource, entity: new () => T, user: User): Promise<T[]> =>
  source.manager.find(entity, { where: { ownerId: user.id }, order: { id: 'ASC' } } as never);

/** Keys in one order: what comes from the database and what was read in are then written alike. */
const sorted = (row: Content) => Object.fromEntries(Object.entries(row).sort(([a], [b]) => a.localeCompare(b)));
