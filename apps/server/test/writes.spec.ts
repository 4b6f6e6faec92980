import { execFileSync } from 'node:child_process';
import { statSync } from 'node:fs';
import { join } from 'node:path';
import Libsql from 'libsql';
import { Writes } from '../src/base/writes';
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

interface Row {
  subject: string;
}
const subjectsIn = (data: string): string[] => {
  const other = new Libsql(join(data, 'corvun.sqlite'));
  try {
    return (other.prepare('SELECT subject FROM incoming').all() as Row[]).map((row) => row.subject);
  } finally {
    other.close();
  }
};

describe('what was acknowledged is there for another connection', () => {
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
  const capture = (text: string) => maren.post('/captures', { text, inbox: true });

  it('after a commit that failed, an ordinary 409, and a transaction that was broken off', async () => {
    const writes = server.app.get(Writes);
    await writes.write(async (manager) => {
      await manager.query('CREATE TABLE parent (id integer PRIMARY KEY)');
      await manager.query('CREATE TABLE child (of integer REFERENCES parent (id) DEFERRABLE INITIALLY DEFERRED)');
    });
    // A deferred foreign key is looked at by COMMIT alone, which then fails with the transaction still open.
    await expect(writes.write((manager) => manager.query('INSERT INTO child VALUES (7)'))).rejects.toThrow('what it belongs to');
    await expect(
      writes.write(async (manager) => {
        await manager.query('INSERT INTO parent VALUES (1)');
        throw new Error('broken off');
      }),
    ).rejects.toThrow('broken off');
    expect((await maren.post('/decisions/undo')).status).toBe(409);
    for (let at = 0; at < 5; at += 1) {
      expect((await capture(`Thought ${at}`)).status).toBe(201);
      expect(subjectsIn(server.data)).toContain(`Thought ${at}`);
    }
    expect(await writes.write((manager) => manager.query('SELECT count(*) AS n FROM parent'))).toMatchObject([{ n: 0 }]);
  });

  it('a part that fails takes back what it wrote, and nothing else', async () => {
    const writes = server.app.get(Writes);
    await writes.write(async (manager) => {
      await manager.query('INSERT INTO parent VALUES (10)');
      await expect(
        writes.part(async () => {
          await manager.query('INSERT INTO parent VALUES (11)');
          throw new Error('this part only');
        }),
      ).rejects.toThrow('this part only');
      await manager.query('INSERT INTO parent VALUES (12)');
    });
    const rows = await writes.write((manager) => manager.query<{ id: number }[]>('SELECT id FROM parent ORDER BY id'));
    expect(rows.map((row) => row.id)).toEqual([10, 12]);
  });

  it('a database that another program holds is said, and writing goes on by itself when it lets go', async () => {
    const other = new Libsql(join(server.data, 'corvun.sqlite'));
    other.exec('BEGIN IMMEDIATE');
    const health = () => maren.get<{ ok: boolean; canWrite: boolean }>('/health').then((answer) => answer.body);
    const refused = capture('While it is held');
    const read = await maren.get<Page>('/incoming');
    expect(read.status).toBe(200);
    expect(await refused).toMatchObject({ status: 503, body: { error: { code: 'database-busy' } } });
    expect(await health()).toEqual({ ok: true, canWrite: false });
    other.exec('COMMIT');
    other.close();
    await until(async () => (await health()).canWrite, 'writing again');
    expect((await capture('After it let go')).status).toBe(201);
    expect(subjectsIn(server.data)).toContain('After it let go');
    expect(subjectsIn(server.data)).not.toContain('While it is held');
  });
});

describe('a full disk', () => {
  it('is said with a sentence; what was and what is acknowledged later survives a kill', async () => {
    const data = tempFolder();
    const server = await ServerProcess.start(data);
    const maren = new Caller(server.url);
    await maren.post('/account', { name: 'Maren Holt', email: 'maren@alderfen.example', password: 'reed-bed-and-bittern' });
    const kept: string[] = [];
    const capture = async (text: string) => {
      const { status, body } = await maren.post<{ error?: { code: string; message: string } }>('/captures', {
        text,
        inbox: true,
      });
      if (status === 201) kept.push(text);
      return { status, body };
    };
    for (let at = 0; at < 5; at += 1) await capture(`Before ${at}`);
    // No file of the server may grow beyond the size its log has now.
    const size = statSync(join(data, 'corvun.sqlite-wal')).size;
    const limit = (bytes: string) => execFileSync('prlimit', ['--pid', String(server.pid), `--fsize=${bytes}`]);
    limit(`${size}:unlimited`);
    const refused = await capture('While it is full');
    expect(refused).toMatchObject({ status: 507, body: { error: { code: 'disk-full' } } });
    expect(await sendMail(server.smtpPort, { to: 'maren@alderfen.example', subject: 'Full', text: 'x'.repeat(5000) })).toMatch(
      /452|451/,
    );
    expect((await maren.get<{ canWrite: boolean }>('/health')).body.canWrite).toBe(false);
    limit('unlimited:unlimited');
    await until(async () => (await maren.get<{ canWrite: boolean }>('/health')).body.canWrite, 'writing again');
    for (let at = 0; at < 10; at += 1) expect((await capture(`After ${at}`)).status).toBe(201);
    expect(await sendMail(server.smtpPort, { to: 'maren@alderfen.example', subject: 'Room again', text: 'Now' })).toMatch(/^250/);
    await server.kill('SIGKILL');
    expect(subjectsIn(data)).toEqual(expect.arrayContaining([...kept, 'Room again']));
    expect(subjectsIn(data)).not.toContain('While it is full');
    clear(data);
  });
});

describe('the end', () => {
  it('comes in time with an open window, finishes what has begun, and leaves everything in the database file itself', async () => {
    const data = tempFolder();
    const server = await ServerProcess.start(data);
    const maren = new Caller(server.url);
    await maren.post('/account', { name: 'Maren Holt', email: 'maren@alderfen.example', password: 'reed-bed-and-bittern' });
    const window = await fetch(`${server.url}/api/stream`, { headers: maren.signedHeaders() });
    expect(window.status).toBe(200);
    const under = Array.from({ length: 10 }, (_, at) => maren.post('/captures', { text: `Line ${at}`, inbox: true }));
    await under[0];
    const began = Date.now();
    const ended = server.kill('SIGTERM');
    const answers = await Promise.all(under.map((one) => one.then((answer) => answer.status === 201).catch(() => false)));
    expect(await ended).toMatchObject({ code: 0 });
    expect(Date.now() - began).toBeLessThan(9000);
    await window.text();
    expect(statSync(join(data, 'corvun.sqlite-wal'), { throwIfNoEntry: false })?.size ?? 0).toBe(0);
    const found = subjectsIn(data);
    answers.forEach((done, at) => done && expect(found).toContain(`Line ${at}`));
    clear(data);
  });

  it('nobody else on the machine can read what is kept', async () => {
    const data = tempFolder();
    const server = await ServerProcess.start(data);
    const maren = new Caller(server.url);
    await maren.post('/account', { name: 'Maren Holt', email: 'maren@alderfen.example', password: 'reed-bed-and-bittern' });
    await sendMail(server.smtpPort, { to: 'maren@alderfen.example', subject: 'Private', text: 'x' });
    const modes = execFileSync('find', [data, '-printf', '%m %y\n'], { encoding: 'utf8' }).trim().split('\n');
    expect(new Set(modes)).toEqual(new Set(['700 d', '600 f']));
    await server.kill('SIGKILL');
    clear(data);
  });
});
