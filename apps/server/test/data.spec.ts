import Libsql from 'libsql';
import { existsSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { pack } from 'tar-stream';
import { AccountsService } from '../src/accounts/accounts.service';
import { Backups } from '../src/data/backups.service';
import {
  ServerProcess,
  Caller,
  clear,
  firstAccount,
  sendMail,
  startServer,
  tempFolder,
  until,
  type Page,
  type Running,
} from './harness';

interface Job {
  state: string;
  sentence: string;
  backup: string | null;
  checks: { ok: boolean }[] | null;
}

let server: Running;
let maren: Caller;
beforeAll(async () => {
  server = await startServer('empty');
  maren = await firstAccount(server);
});
afterAll(async () => {
  await server.stop();
  clear(server.data);
});

const finished = (caller: Caller) =>
  until(async () => {
    const { body } = await caller.get<Job>('/data/job');
    return body.state !== 'running' && body;
  }, 'the end of the job');

describe('backups beside the data', () => {
  it('one is made a day, and no more are kept than was said', async () => {
    const backups = server.app.get(Backups);
    expect([await backups.daily(), await backups.daily()]).toEqual([true, false]);
    const { body } = await maren.get<{ keep: number; backups: { name: string; kind: string }[] }>('/data');
    expect([body.keep, body.backups.map((one) => one.kind)]).toEqual([7, ['folder']]);
    expect((await maren.patch('/data', { keep: 3 })).status).toBe(204);
    expect((await maren.patch('/data', { keep: 0 })).status).toBe(400);
    expect((await maren.get<{ keep: number }>('/data')).body.keep).toBe(3);
    expect((await maren.get(`/data/backups/${body.backups[0]?.name}`)).status).toBe(422);
  });

  it('one at a time; a name that leads elsewhere is none', async () => {
    const [one, other] = await Promise.all([maren.post<Job>('/data/backups'), maren.post<Job>('/data/verify')]);
    expect([one.status, other.status].sort()).toEqual([202, 409]);
    expect((await finished(maren)).state).toBe('done');
    for (const name of ['..%2Fcorvun.sqlite', 'corvun.sqlite', '%2e%2e%2fkey'])
      expect([404, 422]).toContain((await maren.get(`/data/backups/${name}`)).status);
    expect(existsSync(join(server.data, 'corvun.sqlite'))).toBe(true);
  });

  it('is taken before a new version changes the database', async () => {
    const data = tempFolder();
    const first = await ServerProcess.start(data);
    await firstAccount({ ...server, url: first.url });
    await first.kill('SIGTERM');
    const database = new Libsql(join(data, 'corvun.sqlite'));
    database.exec(`DELETE FROM migrations WHERE name LIKE 'Firm%'; DROP TABLE about`);
    for (const column of ['duration', 'exrule', 'following']) database.exec(`ALTER TABLE event DROP COLUMN ${column}`);
    database.close();
    const second = await ServerProcess.start(data);
    expect(await second.listens()).toBe(true);
    await second.kill('SIGKILL');
    expect(readdirSync(join(data, 'backups'))).toEqual([expect.stringMatching(/^before-Firm/) as string]);
    const kept = new Libsql(join(data, 'backups', readdirSync(join(data, 'backups'))[0] ?? '', 'corvun.sqlite'));
    expect(kept.prepare(`SELECT name FROM sqlite_master WHERE name = 'about'`).all()).toEqual([]);
    kept.close();
    clear(data);
  });
});

describe('an export that is read in', () => {
  /** A tar archive with these files, as a form. */
  const archive = async (files: Record<string, string>): Promise<FormData> => {
    const tar = pack();
    for (const [name, content] of Object.entries(files)) tar.entry({ name }, content);
    tar.finalize();
    const chunks: Uint8Array[] = [];
    for await (const chunk of tar) chunks.push(chunk as Uint8Array);
    const form = new FormData();
    form.append('file', new Blob([new Uint8Array(Buffer.concat(chunks))]), 'export.tar');
    return form;
  };
  const names = [
    'lists',
    'tags',
    'calendars',
    'people',
    'sources',
    'incoming',
    'attachments',
    'tasks',
    'blocks',
    'events',
    'notes',
    'counterparts',
    'outbox',
    'log',
    'capture-keys',
  ];
  const tables = (more: Record<string, object[]> = {}): Record<string, string> => ({
    'export.json': JSON.stringify({
      format: 'corvun-export',
      version: 1,
      account: { name: 'Eve', zone: 'Europe/Vienna', hours: {} },
    }),
    ...Object.fromEntries(
      names.map((name) => [`data/${name}.json`, `[\n${(more[name] ?? []).map((row) => JSON.stringify(row)).join(',\n')}\n]\n`]),
    ),
  });

  it('gives nobody a file of somebody else’s, whatever hash it names', async () => {
    await sendMail(server.smtpPort, { to: 'maren@alderfen.example', subject: 'Private', text: 'Maren’s own words' });
    const line = await until(async () => (await maren.get<Page>('/incoming')).body.items[0], 'the mail');
    const database = new Libsql(join(server.data, 'corvun.sqlite'));
    const [row] = database.prepare('SELECT * FROM incoming WHERE id = ?').all(line.id) as Record<string, unknown>[];
    database.close();
    await server.app
      .get(AccountsService)
      .create({ name: 'Eve', email: 'eve@alderfen.example', password: 'ten letters at least' });
    const eve = new Caller(server.url);
    await eve.post('/session', { email: 'eve@alderfen.example', password: 'ten letters at least' });
    const stolen = {
      ...row,
      id: 'stolenstolenstolenst',
      recipients: [],
      problems: [],
      facts: { asks: [], dates: [] },
      hints: {},
      invitation: null,
      context: null,
      conflict: null,
      bulk: false,
    };
    const attachment = {
      id: 'stolenattachmentstol',
      incomingId: stolen.id,
      position: 0,
      name: 'x',
      type: 'text/plain',
      size: 1,
      hash: row?.['originalHash'],
    };
    expect(
      (await eve.post('/data/import', await archive(tables({ incoming: [stolen], attachments: [attachment] })))).status,
    ).toBe(202);
    expect((await finished(eve)).state).toBe('done');
    expect((await eve.get(`/incoming/${stolen.id}/original`)).status).toBe(404);
    expect((await eve.get(`/attachments/${attachment.id}`)).status).toBe(404);
  });

  it('that is none, or not whole, changes nothing and says why', async () => {
    const noor = new Caller(server.url);
    await server.app
      .get(AccountsService)
      .create({ name: 'Noor', email: 'noor@alderfen.example', password: 'ten letters at least' });
    await noor.post('/session', { email: 'noor@alderfen.example', password: 'ten letters at least' });
    const { 'data/log.json': _log, ...missing } = tables();
    const row = { id: 'block-of-nothing-0000', version: 1, created: 1, changed: 1 };
    const ofNothing = { ...row, kind: 'work', taskId: 'gone', startAt: 1, endAt: 2, busy: true };
    for (const [files, said] of [
      [{ 'x.txt': 'x' }, /there is no export.json/],
      [missing, /the table log is missing/],
      [{ ...tables(), 'data/tasks.json': '[\n{"id": \n]\n' }, /a line of tasks cannot be read/],
      [tables({ lists: [{ id: 'a' }] }), /a row of lists does not fit/],
      [tables({ blocks: [ofNothing] }), /a row belongs to another that is not in it/],
    ] as const) {
      await noor.post('/data/import', await archive(files));
      expect(await finished(noor)).toMatchObject({ state: 'failed', sentence: expect.stringMatching(said) as string });
    }
    expect((await noor.get<{ empty: boolean }>('/data')).body.empty).toBe(true);
    expect((await maren.get<{ empty: boolean }>('/data')).body.empty).toBe(false);
    expect(readdirSync(join(server.data, 'uploads'))).toEqual([]);
  });

  it('checks say what is wrong with the files', async () => {
    const [folder = ''] = readdirSync(join(server.data, 'files'));
    const [name = ''] = readdirSync(join(server.data, 'files', folder));
    writeFileSync(join(server.data, 'files', folder, name), 'something else');
    await maren.post('/data/verify');
    const { checks, sentence } = await finished(maren);
    expect([sentence, checks?.filter((one) => !one.ok).length]).toEqual(['Something is not as it was kept.', 1]);
  });
});
