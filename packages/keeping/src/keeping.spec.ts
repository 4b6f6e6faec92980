import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, statSync, truncateSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { backUp, backUpBeside, backupsIn, prune } from './backup';
import { openDatabase, rows } from './database';
import { inspectFolder } from './inspect';
import { DATABASE, KeepingError, databaseOf, fileOf } from './layout';
import { restore } from './restore';
import { verify } from './verify';

const MIGRATIONS = ['First1', 'Second2'];
const TABLES: Record<string, string> = {
  user: 'id text',
  migrations: 'id integer PRIMARY KEY, name text',
  incoming: 'id text, ownerId text, originalHash text',
  attachment: 'id text, ownerId text, incomingId text, hash text',
  task: 'id text, ownerId text, listId text, parentId text',
  block: 'id text, ownerId text, taskId text',
  event: 'id text, ownerId text, calendarId text',
  list: 'id text, ownerId text',
  tag: 'id text, ownerId text',
  calendar: 'id text, ownerId text',
  person: 'id text, ownerId text',
  note: 'id text, ownerId text',
  source: 'id text, ownerId text',
  counterpart: 'id text, ownerId text, sourceId text',
  access: 'id text, userId text',
  outbox: 'id text, ownerId text, state text, payload text, sourceId text',
  entry: 'revision integer PRIMARY KEY, id text, ownerId text, actorId text, state text, changes text',
  search_doc: 'doc integer PRIMARY KEY, id text',
};

const root = mkdtempSync(join(tmpdir(), 'corvun-keeping-'));
let number = 0;
const fresh = () => join(root, String((number += 1)));
afterAll(() => rmSync(root, { recursive: true, force: true }));

/** A data folder with one account, one message and its file. */
function folder(): { data: string; hash: string } {
  const data = fresh();
  mkdirSync(data, { recursive: true });
  const text = Buffer.from(`Subject: ${data}\r\n\r\nThe gauge`);
  const hash = createHash('sha256').update(text).digest('hex');
  mkdirSync(dirname(fileOf(data, hash)), { recursive: true });
  writeFileSync(fileOf(data, hash), text);
  writeFileSync(join(data, 'key'), 'the key');
  const database = openDatabase(databaseOf(data));
  database.exec('PRAGMA journal_mode = WAL');
  for (const [name, columns] of Object.entries(TABLES)) database.exec(`CREATE TABLE "${name}" (${columns})`);
  database.exec(`CREATE VIRTUAL TABLE search_fts USING fts5 (title)`);
  database.exec(`INSERT INTO migrations (name) VALUES ('First1'); INSERT INTO "user" VALUES ('u');
    INSERT INTO incoming VALUES ('m', 'u', '${hash}'); INSERT INTO search_doc VALUES (1, 'm');
    INSERT INTO search_fts (rowid, title) VALUES (1, 'The gauge');
    INSERT INTO outbox VALUES ('o', 'u', 'waiting', '{}', NULL);
    INSERT INTO entry VALUES (1, 'd', 'u', 'u', 'done', '[]')`);
  database.close();
  return { data, hash };
}

const change = (data: string, sql: string) => {
  const database = openDatabase(databaseOf(data));
  database.exec(sql);
  database.exec('PRAGMA wal_checkpoint(TRUNCATE)');
  database.close();
};
const problemOf = (work: () => unknown): string => {
  try {
    work();
  } catch (problem) {
    if (problem instanceof KeepingError) return `${problem.code}: ${problem.message}`;
    throw problem;
  }
  return '';
};

describe('a folder, before anything is opened', () => {
  it('is made where there is none, and is nobody else’s to read', () => {
    const data = fresh();
    expect(inspectFolder(data, MIGRATIONS)).toEqual({ known: false, pending: MIGRATIONS });
    expect(statSync(data).mode & 0o777).toBe(0o700);
  });

  it('tells which migrations are still to come', () => {
    expect(inspectFolder(folder().data, MIGRATIONS)).toEqual({ known: true, pending: ['Second2'] });
  });

  it.each<[string, (data: string) => void, RegExp]>([
    ['emptied', (data) => truncateSync(databaseOf(data), 0), /damaged: .* is empty/],
    [
      'cut in half',
      (data) => truncateSync(databaseOf(data), Math.floor(statSync(databaseOf(data)).size / 2)),
      /damaged: .* is damaged/,
    ],
    ['no database at all', (data) => writeFileSync(databaseOf(data), 'x'.repeat(5000)), /damaged: .* is not a database/],
    [
      'overwritten in the middle',
      (data) => {
        const bytes = readFileSync(databaseOf(data));
        bytes.fill(0xff, 4096, 4096 * 4);
        writeFileSync(databaseOf(data), bytes);
      },
      /damaged: .* is damaged/,
    ],
    ['away, with its files still there', (data) => rmSync(databaseOf(data)), /damaged: .* is missing, but files/],
    [
      'without its account, with files still there',
      (data) => change(data, 'DELETE FROM "user"'),
      /damaged: .* has lost its account/,
    ],
    [
      'written by a newer program',
      (data) => change(data, `INSERT INTO migrations (name) VALUES ('Third3')`),
      /newer: .* newer Corvun/,
    ],
    ['of some other program', (data) => change(data, 'DROP TABLE migrations'), /damaged: .* not one of Corvun's/],
  ])('with a database that is %s is refused with one sentence, and stays as it is', (_name, spoil, said) => {
    const { data } = folder();
    change(data, 'SELECT 1');
    spoil(data);
    const before = existsSync(databaseOf(data)) ? readFileSync(databaseOf(data)) : null;
    const problem = problemOf(() => inspectFolder(data, MIGRATIONS));
    expect(problem).toMatch(said);
    expect(problem.split('\n')).toHaveLength(1);
    expect(existsSync(databaseOf(data)) ? readFileSync(databaseOf(data)) : null).toEqual(before);
  });

  it('that cannot be written, or is a file, is refused with one sentence', () => {
    const file = fresh();
    writeFileSync(file, 'x');
    expect(problemOf(() => inspectFolder(file, MIGRATIONS))).toMatch(/unusable: .*Choose another with CORVUN_DATA/);
    expect(problemOf(() => inspectFolder('/proc/corvun', MIGRATIONS))).toMatch(/unusable: .*Choose another with CORVUN_DATA/);
  });
});

describe('a backup', () => {
  it('put into an empty folder gives what was there, the key only when both sides say so', async () => {
    const { data, hash } = folder();
    const file = join(fresh(), '..', 'one.tar');
    const seen: number[] = [];
    const made = await backUp(data, file, { withKeys: true, progress: (done) => seen.push(done) });
    expect([made.bytes, seen]).toEqual([statSync(file).size, [1]]);
    const [without, withKeys] = [fresh(), fresh()];
    await restore(file, without);
    expect(readFileSync(fileOf(without, hash))).toEqual(readFileSync(fileOf(data, hash)));
    expect(existsSync(join(without, 'key'))).toBe(false);
    expect(await restore(file, withKeys, { withKeys: true })).toMatchObject({ keys: true, files: 1 });
    expect(readFileSync(join(withKeys, 'key'), 'utf8')).toBe('the key');
    expect(await verify(without)).toMatchObject({ ok: true });
    await backUp(data, `${file}.2`);
    const bare = fresh();
    await restore(`${file}.2`, bare, { withKeys: true });
    expect(existsSync(join(bare, 'key'))).toBe(false);
  });

  it('is made while another connection writes, and is whole', async () => {
    const { data } = folder();
    const writer = openDatabase(databaseOf(data));
    writer.exec(`BEGIN IMMEDIATE; INSERT INTO list VALUES ('half', 'u')`);
    const file = `${fresh()}.tar`;
    await backUp(data, file);
    writer.exec('COMMIT');
    writer.close();
    const back = fresh();
    await restore(file, back);
    const database = openDatabase(databaseOf(back));
    expect(rows(database, 'SELECT id FROM list')).toEqual([]);
    database.close();
  });

  it('goes into an empty folder only, and a damaged one leaves that empty', async () => {
    const { data } = folder();
    const file = `${fresh()}.tar`;
    await backUp(data, file);
    await expect(restore(file, data)).rejects.toThrow(/not empty/);
    const whole = readFileSync(file);
    const at = whole.indexOf('The gauge');
    for (const spoiled of [
      whole.subarray(0, whole.length / 2),
      whole.subarray(0, 100),
      Buffer.from('no tar at all'),
      Buffer.concat([whole.subarray(0, at), Buffer.from('The fauge'), whole.subarray(at + 9)]),
    ]) {
      const [bad, target] = [`${fresh()}.tar`, fresh()];
      writeFileSync(bad, spoiled);
      await expect(restore(bad, target)).rejects.toBeInstanceOf(KeepingError);
      expect(existsSync(databaseOf(target))).toBe(false);
      expect(existsSync(join(target, 'restoring'))).toBe(false);
    }
    await expect(restore('/nowhere.tar', fresh())).rejects.toThrow('There is no backup');
  });

  it('that cannot be written says so, and leaves nothing half', async () => {
    const { data } = folder();
    await expect(backUp(data, '/proc/one.tar')).rejects.toThrow(/cannot be written/);
  });

  it('beside the data shares its files, is put back like any other, and the oldest give way', async () => {
    const { data, hash } = folder();
    for (const name of ['daily-1', 'daily-2', 'daily-3']) await backUpBeside(data, name);
    const beside = (await backupsIn(data)).map((one) => one.name);
    expect(beside).toEqual(['daily-3', 'daily-2', 'daily-1']);
    expect(statSync(fileOf(data, hash)).nlink).toBe(4);
    await prune(data, 'daily', 2);
    expect((await backupsIn(data)).map((one) => one.name)).toEqual(['daily-3', 'daily-2']);
    const back = fresh();
    await restore(join(data, 'backups', 'daily-2'), back);
    expect(await verify(back)).toMatchObject({ ok: true });
  });
});

describe('a check', () => {
  it('says that all is whole', async () => {
    const { ok, checks } = await verify(folder().data);
    expect([ok, checks.map((one) => one.name)]).toEqual([
      true,
      ['database', 'references', 'files', 'search index', 'outbox', 'log'],
    ]);
  });

  it.each<[string, (data: string, hash: string) => void]>([
    ['files', (data, hash) => rmSync(fileOf(data, hash))],
    ['files', (data, hash) => writeFileSync(fileOf(data, hash), 'another')],
    ['references', (data) => change(data, `INSERT INTO block VALUES ('b', 'u', 'no task')`)],
    ['references', (data) => change(data, `INSERT INTO list VALUES ('l', 'nobody')`)],
    ['search index', (data) => change(data, `INSERT INTO task VALUES ('t', 'u', NULL, NULL)`)],
    ['search index', (data) => change(data, `INSERT INTO search_doc VALUES (2, 'ghost')`)],
    ['outbox', (data) => change(data, `INSERT INTO outbox VALUES ('p', 'u', 'waiting', '{', NULL)`)],
    ['outbox', (data) => change(data, `INSERT INTO outbox VALUES ('p', 'u', 'waiting', '{}', 'gone')`)],
    ['log', (data) => change(data, `UPDATE entry SET actorId = NULL`)],
    ['log', (data) => change(data, `UPDATE entry SET changes = 'x'`)],
  ])('finds what is wrong with the %s', async (name, spoil) => {
    const { data, hash } = folder();
    spoil(data, hash);
    const { ok, checks } = await verify(data);
    expect([ok, checks.filter((one) => !one.ok).map((one) => one.name)]).toEqual([false, [name]]);
  });

  it('finds a damaged and a missing database', async () => {
    const { data } = folder();
    const bytes = readFileSync(join(data, DATABASE));
    writeFileSync(join(data, DATABASE), Buffer.concat([bytes.subarray(0, 8192), Buffer.alloc(bytes.length - 8192, 0xee)]));
    expect((await verify(data)).checks[0]).toMatchObject({ name: 'database', ok: false });
    expect((await verify(fresh())).checks[0]).toMatchObject({ name: 'database', ok: false });
  });
});
