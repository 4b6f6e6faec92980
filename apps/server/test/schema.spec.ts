import Libsql from 'libsql';
import { join } from 'node:path';
import { CorvunDataSource } from '../src/base/data-source';
import { MIGRATIONS } from '../src/migrations';
import { Caller, clear, database, firstAccount, startServer, tempFolder } from './harness';

interface Column {
  name: string;
  type: string;
  notnull: number;
}

describe('the schema', () => {
  const data = tempFolder();
  const source = new CorvunDataSource(data);
  beforeAll(() => source.initialize());
  afterAll(async () => {
    await source.destroy();
    clear(data);
  });

  const rows = async <T>(sql: string) => source.query<T[]>(sql);

  it('is what the entities say: tables, columns, what may be empty, keys, unique indexes, and what belongs to what', async () => {
    const tables = (await rows<{ name: string }>(`SELECT name FROM sqlite_master WHERE type = 'table'`))
      .map(({ name }) => name)
      .filter((name) => !/^(?:sqlite_|search_|migrations$)/.test(name));
    expect(tables.sort()).toEqual(source.entityMetadatas.map(({ tableName }) => tableName).sort());
    for (const { tableName, columns, indices, primaryColumns, foreignKeys } of source.entityMetadatas) {
      const present = await rows<Column & { pk: number }>(`PRAGMA table_info("${tableName}")`);
      const wanted = columns.map((one) => `${one.databaseName} ${one.isNullable ? 'or nothing' : 'always'}`);
      const found = present.map((one) => `${one.name} ${one.notnull || one.pk ? 'always' : 'or nothing'}`);
      expect([tableName, ...found.sort()]).toEqual([tableName, ...wanted.sort()]);
      expect([tableName, ...present.filter((one) => one.pk).map((one) => one.name)].sort()).toEqual(
        [tableName, ...primaryColumns.map((one) => one.databaseName)].sort(),
      );
      const made = (await rows<{ name: string; unique: number }>(`PRAGMA index_list("${tableName}")`)).filter(
        ({ name }) => !name.startsWith('sqlite_'),
      );
      const said = indices.map(({ name, isUnique }) => `${name}${isUnique ? ', unique' : ''}`);
      const kept = await rows<{ from: string; table: string }>(`PRAGMA foreign_key_list("${tableName}")`);
      expect([tableName, ...kept.map(({ from, table }) => `${from} of ${table}`).sort()]).toEqual([
        tableName,
        ...foreignKeys.map((one) => `${one.columnNames.join()} of ${one.referencedEntityMetadata.tableName}`).sort(),
      ]);
      expect(made.map(({ name, unique }) => `${name}${unique ? ', unique' : ''}`).sort()).toEqual(said.sort());
    }
  });

  it('knows each migration once, in the order of their numbers', async () => {
    const names = (await rows<{ name: string }>('SELECT name FROM migrations ORDER BY id')).map(({ name }) => name);
    expect(names).toEqual(MIGRATIONS.map((Migration) => new Migration().name));
    expect(names.map((name) => Number(/\d+$/.exec(name)?.[0]))).toEqual(
      names.map((name) => Number(/\d+$/.exec(name)?.[0])).sort((a, b) => a - b),
    );
  });
});

const OWNER = `INSERT INTO "user" ("id", "name", "email", "passwordHash", "zone", "hours", "created", "captureAddress")
  VALUES ('u', 'Maren Holt', 'maren@alderfen.example', '', 'Europe/Vienna', '{}', 1, 'maren@capture.example')`;

describe('what belongs to something', () => {
  it('stands for itself where that was lost before it was guarded, goes where it cannot, and is not lost any more', async () => {
    const data = tempFolder();
    const before = new CorvunDataSource(data);
    Object.assign(before.writing.options, { migrations: MIGRATIONS.slice(0, 10) });
    await before.writing.initialize();
    await before.writing.destroy();
    const open = () => new Libsql(join(data, 'corvun.sqlite'));
    const old = open();
    old.exec(`${OWNER};
      INSERT INTO "list" ("id", "ownerId", "version", "created", "changed", "name", "code", "hue", "group", "position", "project", "outcome", "concentration")
        VALUES ('l', 'u', 1, 1, 1, 'Banks', 'BA', 1, '', 1, 0, '', '');
      INSERT INTO "block" VALUES ('b', 'u', 1, 1, 1, 'work', 'gone', 5, 6, 1);
      INSERT INTO "attachment" ("id", "ownerId", "incomingId", "position", "name", "type", "size", "hash")
        VALUES ('a', 'u', 'gone', 0, '', '', 0, '')`);
    old.close();
    const source = await new CorvunDataSource(data).initialize();
    expect(await source.query('SELECT "id", "taskId" FROM "block"')).toEqual([{ id: 'b', taskId: null }]);
    expect(await source.query('SELECT * FROM "attachment"')).toEqual([]);
    expect(await source.query('SELECT "id" FROM "list"')).toEqual([{ id: 'l' }]);
    expect(await source.query('PRAGMA integrity_check')).toEqual([{ integrity_check: 'ok' }]);
    await expect(source.writing.query(`UPDATE "block" SET "taskId" = 'gone'`)).rejects.toThrow('FOREIGN KEY');
    for (const _later of MIGRATIONS.slice(10)) await source.writing.undoLastMigration();
    expect(await source.writing.query(`UPDATE "block" SET "taskId" = 'gone'`)).toBeDefined();
    await source.destroy();
    clear(data);
  });
});

describe('the search index', () => {
  it('is made anew for a kind that is found by something else than before, and not touched otherwise', async () => {
    const data = tempFolder();
    const open = () => new Libsql(join(data, 'corvun.sqlite'));
    const start = async () => (await new CorvunDataSource(data).initialize()).destroy();
    await start();
    const first = open();
    first.exec(`DROP TRIGGER "search_note_insert"; ${OWNER};
      INSERT INTO "note" ("id", "ownerId", "version", "created", "changed", "title", "text", "parentId", "position", "incomingIds")
      VALUES ('n', 'u', 1, 5, 5, 'Sluice', 'Grease the rack', NULL, 1, '[]')`);
    expect(first.prepare('SELECT count(*) AS n FROM search_doc').all()).toMatchObject([{ n: 0 }]);
    first.close();
    await start();
    const second = open();
    expect(second.prepare(`SELECT id, thing, at FROM search_doc`).all()).toMatchObject([{ id: 'n', thing: 'note', at: 5 }]);
    expect(second.prepare(`SELECT rowid FROM search_fts WHERE search_fts MATCH 'grease'`).all()).toHaveLength(1);
    // Filled by hand with something else: an index that fits is left alone.
    second.exec(`UPDATE search_fts SET body = 'heron'`);
    second.close();
    await start();
    const third = open();
    expect(third.prepare(`SELECT rowid FROM search_fts WHERE search_fts MATCH 'heron'`).all()).toHaveLength(1);
    third.close();
    clear(data);
  });
});

describe('a log of the version before', () => {
  it('is taken over, smaller: what was done can be taken back and done again', async () => {
    const first = await startServer('empty');
    const maren = await firstAccount(first);
    const { id } = (await maren.post<{ id: string }>('/captures', { text: 'Count the buoys tomorrow' })).body;
    const [row] = await database(first).query<Record<string, unknown>[]>('SELECT * FROM "task" WHERE id = ?', [id]);
    await maren.patch(`/tasks/${id}`, { title: 'Count all buoys' });
    const renamed = { ...row, title: 'Count all buoys', version: 2, changed: Number(row?.['changed']) + 5 };
    const [user] = await database(first).query<{ id: string }[]>('SELECT id FROM "user"');
    await first.stop();

    const old = new Libsql(join(first.data, 'corvun.sqlite'));
    old.exec(`DROP TABLE "entry"; DROP TABLE "job"; DELETE FROM "migrations" WHERE "name" LIKE 'Log%' OR "name" LIKE 'Jobs%';
      CREATE TABLE "decision" ("id" text PRIMARY KEY NOT NULL, "ownerId" text NOT NULL, "version" integer NOT NULL,
        "created" integer NOT NULL, "changed" integer NOT NULL, "seq" integer NOT NULL, "action" text NOT NULL,
        "destination" text, "sentence" text NOT NULL, "at" integer NOT NULL, "incomingIds" text NOT NULL,
        "changes" text NOT NULL, "state" text NOT NULL)`);
    const insert = old.prepare(`INSERT INTO "decision" VALUES (?, ?, 1, 1, 1, ?, 'change', NULL, ?, 1, '[]', ?, ?)`);
    const lists = { tags: [], links: [] };
    const step = (before: unknown, after: unknown) => JSON.stringify([{ kind: 'task', id, before, after }]);
    insert.run(['d1', user?.id, 1, 'It is there', step(null, { ...row, ...lists }), 'done']);
    insert.run(['d2', user?.id, 2, 'It was changed', step({ ...row, ...lists }, { ...renamed, ...lists }), 'done']);
    insert.run(['d3', user?.id, 3, 'It was lost', step(null, { id: 'gone' }), 'lost']);
    old.close();

    const second = await startServer('empty', first.data);
    const again = new Caller(second.url, maren.signedHeaders());
    const entries = await database(second).query<{ id: string; changes: string; state: string }[]>(
      'SELECT * FROM "entry" ORDER BY "revision"',
    );
    expect(entries.map((one) => `${one.id} ${one.state}`)).toEqual(['d1 done', 'd2 done', 'd3 lost']);
    expect(JSON.parse(entries[1]?.changes ?? '')).toEqual([
      { kind: 'task', id, before: { title: 'Count the buoys' }, after: { title: 'Count all buoys' } },
    ]);
    const titles = async () => (await again.get<{ title: string }[]>('/tasks')).body.map((task) => task.title);
    const turn = async (to: 'undo' | 'redo') => (await again.post<{ sentence: string }>(`/decisions/${to}`)).body.sentence;
    expect([await titles(), await turn('undo'), await titles()]).toEqual([
      ['Count all buoys'],
      'It was changed',
      ['Count the buoys'],
    ]);
    expect([await turn('undo'), await titles(), await turn('redo'), await titles()]).toEqual([
      'It is there',
      [],
      'It is there',
      ['Count the buoys'],
    ]);
    await second.stop();
    clear(first.data);
  });
});
