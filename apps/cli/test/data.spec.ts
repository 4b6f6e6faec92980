import { execFile } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ServerProcess, clear, demoFolder } from '../../../testing/server';

const root = mkdtempSync(join(tmpdir(), 'corvun-cli-data-'));
interface Server {
  url: string;
  token: string;
  data: string;
}
const servers: ServerProcess[] = [];

/** A server in a process of its own: with the demo, or empty with one account. */
async function start(data: string, demo: boolean): Promise<Server> {
  const server = await ServerProcess.start(data, { CORVUN_DEMO: demo ? '1' : '' });
  servers.push(server);
  return { url: server.url, token: demo ? server.token() : await firstToken(server.url), data };
}

async function firstToken(url: string): Promise<string> {
  const post = (path: string, body: object, headers: Record<string, string> = {}) =>
    fetch(`${url}/api${path}`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', ...headers },
      body: JSON.stringify(body),
    });
  const made = await post('/account', { name: 'Someone', email: 'someone@alderfen.example', password: 'ten letters at least' });
  const Cookie = made.headers.get('set-cookie')?.split(';')[0] ?? '';
  return ((await (await post('/tokens', { name: 'test' }, { Cookie })).json()) as { token: string }).token;
}

interface Ran {
  code: number;
  out: string;
  err: string;
}
const run = (args: string[], env: Record<string, string> = {}): Promise<Ran> =>
  new Promise((resolve) => {
    execFile(
      process.execPath,
      [join(__dirname, '../dist/main.js'), ...args],
      { env: { ...process.env, CORVUN_DATA: join(root, 'nowhere'), CORVUN_URL: '', CORVUN_TOKEN: '', ...env }, maxBuffer: 1e8 },
      (problem, out, err) => resolve({ code: problem ? Number(problem.code) : 0, out, err }),
    );
  });
const at = ({ url, token }: Server) => ['--server', url, '--token', token, '--json'];
const json = <T>({ out }: Ran): T => JSON.parse(out) as T;
const filesIn = (dir: string): string[] =>
  readdirSync(dir, { recursive: true, withFileTypes: true })
    .filter((one) => one.isFile())
    .map((one) => join(one.parentPath, one.name).slice(dir.length + 1))
    .sort();

let demo: Server;
beforeAll(async () => {
  demo = await start(demoFolder(), true);
});
afterAll(() => {
  for (const server of servers) void server.kill();
  clear(demo.data);
  rmSync(root, { recursive: true, force: true });
});

describe('export and import', () => {
  it('everything in open formats; read into an empty Corvun and exported again it is the same, byte for byte', async () => {
    const [one, two] = [join(root, 'one'), join(root, 'two')];
    const written = await run(['export', one, ...at(demo)]);
    expect(written.code).toBe(0);
    const files = filesIn(one);
    expect(json<{ files: number }>(written).files).toBe(files.length);
    const kinds = (ending: string) => files.filter((name) => name.endsWith(ending)).length;
    expect(files.filter((name) => name.startsWith('calendars/') || name === 'tasks.ics')).toHaveLength(4);
    expect(kinds('.eml')).toBeGreaterThan(150);
    expect(files).toEqual(
      expect.arrayContaining(['people.vcf', 'tasks.csv', 'time.csv', 'export.json', 'data/tasks.json', 'data/log.json']),
    );
    const empty = await start(join(root, 'empty'), false);
    const read = await run(['import', one, ...at(empty)]);
    expect([read.code, json<{ taken: number }>(read).taken > 500]).toEqual([0, true]);
    expect((await run(['export', two, ...at(empty)])).code).toBe(0);
    expect(filesIn(two)).toEqual(files);
    for (const name of files)
      expect([name, readFileSync(join(two, name)).equals(readFileSync(join(one, name)))]).toEqual([name, true]);
    // What came along works: the last doing is taken back, and things are found.
    expect((await run(['undo', ...at(empty)])).code).toBe(0);
    const again = await run(['import', one, ...at(empty)]);
    expect([again.code, again.err]).toEqual([1, expect.stringContaining('There are things in this account already') as string]);
  });

  it('the calendars and tasks can be read by anybody: each event is one occurrence or a series', async () => {
    const dir = join(root, 'readable');
    await run(['export', dir, ...at(demo)]);
    const calendar = filesIn(dir).find((name) => /^calendars\/.*Fen/.test(name)) ?? '';
    const expanded = await run([
      'expand',
      join(dir, calendar),
      '--from',
      '2026-08-01',
      '--to',
      '2026-08-15',
      '--zone',
      'Europe/Vienna',
      '--json',
    ]);
    expect(json<unknown[]>(expanded).length).toBeGreaterThan(3);
    const table = readFileSync(join(dir, 'tasks.csv'), 'utf8');
    expect(table.split('\r\n')[0]).toBe('\uFEFFid,title,list,tags,priority,estimate,spent,deadline,day,status,completed,notes');
  });

  it('refuses a folder that is not empty, and one that is no whole export', async () => {
    const full = join(root, 'full');
    mkdirSync(full);
    writeFileSync(join(full, 'x'), 'x');
    expect(await run(['export', full, ...at(demo)])).toMatchObject({ code: 1, out: '' });
    const broken = join(root, 'broken');
    const empty = await start(join(root, 'empty-2'), false);
    await run(['export', broken, ...at(demo)]);
    rmSync(join(broken, 'data', 'tasks.json'));
    const { code, err } = await run(['import', broken, ...at(empty)]);
    expect([code, err]).toEqual([1, expect.stringContaining('the table tasks is missing') as string]);
    expect(json<{ total: number }>(await run(['inbox', ...at(empty)])).total).toBe(0);
  });
});

describe('backup, restore and verify', () => {
  it('made from a running server, put into an empty folder: all of it is there again', async () => {
    const [file, data] = [join(root, 'backup.tar'), join(root, 'restored')];
    const made = await run(['backup', file, ...at(demo)]);
    expect([made.code, json<{ file: string; bytes: number }>(made)]).toEqual([0, expect.objectContaining({ file }) as object]);
    expect(await run(['backup', file, ...at(demo)])).toMatchObject({ code: 1 });
    const restored = await run(['restore', file, '--json'], { CORVUN_DATA: data });
    expect([restored.code, restored.err]).toEqual([
      0,
      expect.stringContaining('passwords of sources have to be written again') as string,
    ]);
    expect(await run(['restore', file, '--json'], { CORVUN_DATA: data })).toMatchObject({ code: 1, out: '' });
    const checked = await run(['verify', '--json'], { CORVUN_DATA: data });
    expect([checked.code, json<{ ok: boolean }>(checked).ok]).toEqual([0, true]);
    const total = json<{ total: number }>(await run(['inbox', ...at(demo)])).total;
    // The demo itself is what was backed up, its account included: its token opens the copy.
    writeFileSync(join(data, 'demo-token'), demo.token);
    const copy = await start(data, true);
    expect(json<{ total: number }>(await run(['inbox', ...at({ ...copy, token: demo.token })])).total).toBe(total);
  });

  it('the key goes along when both sides say so, and the sentence says what that means', async () => {
    const [file, data] = [join(root, 'with-keys.tar'), join(root, 'with-keys')];
    writeFileSync(join(demo.data, 'key'), Buffer.alloc(32, 7), { mode: 0o600 });
    const made = await run(['backup', file, '--with-keys', ...at(demo)]);
    expect([made.code, made.err]).toEqual([0, expect.stringContaining('passwords of all sources') as string]);
    await run(['restore', file, '--with-keys', '--json'], { CORVUN_DATA: data });
    expect(readFileSync(join(data, 'key')).equals(Buffer.alloc(32, 7))).toBe(true);
  });

  it('verify speaks to a server where one answers, and ends with 1 when something is wrong', async () => {
    const checked = await run(['verify', ...at(demo)]);
    expect([checked.code, json<{ checks: { name: string }[] }>(checked).checks.map((one) => one.name)]).toEqual([
      0,
      ['database', 'references', 'files', 'search index', 'outbox', 'log'],
    ]);
    const data = join(root, 'spoiled');
    await run(['restore', join(root, 'backup.tar'), '--json'], { CORVUN_DATA: data });
    const [folder = ''] = readdirSync(join(data, 'files'));
    rmSync(join(data, 'files', folder), { recursive: true });
    const wrong = await run(['verify', '--json'], { CORVUN_DATA: data });
    expect([wrong.code, json<{ ok: boolean }>(wrong).ok]).toEqual([1, false]);
    const none = await run(['verify', '--json'], { CORVUN_DATA: join(root, 'nothing-here') });
    expect([none.code, existsSync(join(root, 'nothing-here'))]).toEqual([1, false]);
  });
});
