import { readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { request } from 'node:http';
import { join } from 'node:path';
import { isPrivate } from '../src/sources/outside-http';
import { sentenceOf } from '../src/sources/problem';
import { FileStore } from '../src/base/file-store';
import { Uploads } from '../src/base/uploads';
import { database, Caller, clear, firstAccount, sendMail, startServer, until, type Page, type Running } from './harness';

const PASSWORD = 'reed-bed-and-bittern';
const MAREN = 'maren@alderfen.example';
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

const signedIn = async (): Promise<Caller> => {
  const caller = new Caller(server.url);
  expect((await caller.post('/session', { email: MAREN, password: PASSWORD })).status).toBe(204);
  return caller;
};
/** A stream, and a promise of its end. */
const streamOf = async (headers: Record<string, string>) => {
  const response = await fetch(`${server.url}/api/stream`, { headers });
  return { status: response.status, end: response.text() };
};
/** A request with headers that fetch does not let one choose. */
const raw = (path: string, headers: Record<string, string>, method = 'GET', body = ''): Promise<number> =>
  new Promise((resolve, reject) => {
    const { hostname, port } = new URL(server.url);
    const sent = request(
      { hostname, port, path, method, headers: { 'Content-Type': 'application/json', ...headers } },
      (answer) => {
        answer.resume();
        resolve(answer.statusCode ?? 0);
      },
    );
    sent.on('error', reject);
    sent.end(body);
  });

describe('a stream', () => {
  it('ends with the sign-out of its session, and with the token it was opened with', async () => {
    const caller = await signedIn();
    const bySession = await streamOf(caller.signedHeaders());
    expect(bySession.status).toBe(200);
    await caller.remove('/session');
    await bySession.end;
    const { body } = await maren.post<{ id: string; token: string }>('/tokens', { name: 'window' });
    const byToken = await streamOf({ Authorization: `Bearer ${body.token}` });
    await maren.remove(`/tokens/${body.id}`);
    await byToken.end;
    expect((await streamOf({ Authorization: `Bearer ${body.token}` })).status).toBe(401);
  });

  it('of another session goes on', async () => {
    const [one, other] = [await signedIn(), await signedIn()];
    const stays = await streamOf(other.signedHeaders());
    let ended = false;
    void stays.end.then(() => (ended = true));
    await one.remove('/session');
    await maren.post('/captures', { text: 'still told', inbox: true });
    expect(ended).toBe(false);
    await other.post('/session/everywhere');
    await stays.end;
    maren = await signedIn();
  });
});

describe('passwords', () => {
  it('are changed with the present one only; every other session ends, tokens stay', async () => {
    const [one, other] = [await signedIn(), await signedIn()];
    const { body } = await one.post<{ token: string }>('/tokens', { name: 'program' });
    const program = new Caller(server.url, { Authorization: `Bearer ${body.token}` });
    const wrong = await one.post<{ error: { fields: object } }>('/password', {
      present: 'not the one',
      wanted: 'sedge-and-alder-roots',
    });
    expect([wrong.status, wrong.body.error.fields]).toEqual([422, { present: 'The present password is not right.' }]);
    expect((await one.post('/password', { present: PASSWORD, wanted: 'short' })).status).toBe(400);
    expect((await program.post('/password', { present: PASSWORD, wanted: 'sedge-and-alder-roots' })).status).toBe(403);
    expect((await one.post('/password', { present: PASSWORD, wanted: 'sedge-and-alder-roots' })).status).toBe(204);
    expect([(await one.get('/me')).status, (await other.get('/me')).status, (await program.get('/me')).status]).toEqual([
      200, 401, 200,
    ]);
    expect((await other.post('/session', { email: MAREN, password: PASSWORD })).status).toBe(401);
    expect((await one.post('/password', { present: 'sedge-and-alder-roots', wanted: PASSWORD })).status).toBe(204);
    maren = one;
  });

  it('guessed 150 times at once are tried a few times only, and the server answers meanwhile', async () => {
    const guesser = new Caller(server.url);
    const guesses = Array.from({ length: 150 }, (_, at) =>
      guesser.post('/session', { email: MAREN, password: `guess number ${at}` }),
    );
    const health = Array.from({ length: 20 }, () => guesser.get('/health'));
    const statuses = (await Promise.all(guesses)).map((answer) => answer.status);
    expect(statuses.filter((one) => one === 401)).toHaveLength(8);
    expect(statuses.filter((one) => one === 429)).toHaveLength(142);
    expect((await Promise.all(health)).every((answer) => answer.status === 200)).toBe(true);
  });
});

describe('first accounts', () => {
  it('asked for ten times at once are one', async () => {
    const empty = await startServer('empty');
    const answers = await Promise.all(
      Array.from({ length: 10 }, (_, at) =>
        new Caller(empty.url).post('/account', { name: `N ${at}`, email: `n${at}@alderfen.example`, password: PASSWORD }),
      ),
    );
    expect(answers.filter((answer) => answer.status === 204)).toHaveLength(1);
    expect(await database(empty).query('SELECT count(*) AS n FROM user')).toMatchObject([{ n: 1 }]);
    await empty.stop();
    clear(empty.data);
  });
});

describe('foreign pages', () => {
  const evil = { Origin: 'https://evil.example', Host: 'localhost' };
  it('cannot act with the cookie, whatever other header they send', async () => {
    const { Cookie = '' } = maren.signedHeaders();
    const others: Record<string, string>[] = [
      {},
      { Authorization: 'Basic eA==' },
      { Authorization: 'Bearer' },
      { Authorization: 'x' },
    ];
    for (const more of others)
      expect(await raw('/api/captures', { ...evil, Cookie, ...more }, 'POST', '{"text":"evil"}')).toBe(403);
    expect(await raw('/api/captures', { ...evil, Cookie, Authorization: 'Bearer x' }, 'POST', '{"text":"evil"}')).toBe(401);
    expect(await raw('/api/account', { ...evil, Authorization: 'Bearer x' }, 'POST', '{}')).toBe(403);
    expect(await raw('/api/session', { ...evil }, 'POST', '{"email":"a@b.example","password":"x"}')).toBe(403);
  });

  it('reach nothing under a name of their own', async () => {
    for (const Host of ['evil.example', 'evil.example:4600', '127.0.0.1.evil.example'])
      for (const path of ['/api/health', '/api/session', '/', '/api/openapi.json'])
        expect([Host, await raw(path, { Host })]).toEqual([Host, 421]);
    for (const Host of ['localhost', '127.0.0.1:4600', '[::1]:4600', '192.168.7.20'])
      expect([Host, await raw('/api/health', { Host })]).toEqual([Host, 200]);
  });
});

describe('what is no sense is refused with 4xx', () => {
  it('nulls, days that are none, long tags, blank names, deep bodies', async () => {
    const { body: made } = await maren.post<{ id: string }>('/captures', { text: 'Count the buoys tomorrow' });
    for (const change of [
      { title: null },
      { status: null },
      { priority: null },
      { tags: null },
      { notes: null },
      { shelved: null },
      { lookAgain: '2026-00-00' },
      { tags: ['x'.repeat(100_000)] },
      { title: '   ' },
    ])
      expect([JSON.stringify(change).slice(0, 40), (await maren.patch(`/tasks/${made.id}`, change)).status]).toEqual([
        JSON.stringify(change).slice(0, 40),
        400,
      ]);
    expect((await maren.patch(`/tasks/${made.id}`, { lookAgain: null, plannedDay: null, deadline: null })).status).toBe(200);
    expect((await maren.get('/agenda?from=9999-12-31')).status).toBe(400);
    expect((await maren.get('/days?from=0001-01-01&days=62')).status).toBe(400);
    expect((await maren.post('/tokens', { name: ' ' })).status).toBe(400);
    const deep = `${'['.repeat(5000)}${']'.repeat(5000)}`;
    expect(
      await raw('/api/captures', { Cookie: maren.signedHeaders()['Cookie'] ?? '' }, 'POST', `{"text":"x","note":${deep}}`),
    ).toBe(400);
    expect((await maren.post('/captures', { text: 'brackets in text are no depth', note: '['.repeat(500) })).status).toBe(201);
  });

  it('an original that is missing on the disk, with a sentence', async () => {
    await sendMail(server.smtpPort, { to: MAREN, subject: 'Lost file', text: 'x' });
    const line = await until(
      async () => (await maren.get<Page>('/incoming')).body.items.find((one) => one.subject === 'Lost file'),
      'the mail',
    );
    rmSync(join(server.data, 'files'), { recursive: true });
    const answer = await maren.get<{ error: { code: string; message: string } }>(`/incoming/${line.id}/original`);
    expect([answer.status, answer.body.error.code]).toEqual([410, 'file-missing']);
    expect(answer.body.error.message).toMatch(/not where it was kept/);
    expect((await maren.get(`/incoming/${line.id}`)).status).toBe(200);
  });
});

describe('small doors', () => {
  it('mail to an address with a mark after a plus reaches its user', async () => {
    expect(await sendMail(server.smtpPort, { to: 'maren+fen@alderfen.example', subject: 'Plus', text: 'x' })).toMatch(/^250/);
    expect(await sendMail(server.smtpPort, { to: 'nobody+fen@alderfen.example', subject: 'Plus', text: 'x' })).toMatch(/550/);
  });

  it('addresses that lead back into the house are private, however they are written', () => {
    for (const one of [
      '127.0.0.1',
      '::1',
      '::127.0.0.1',
      '::ffff:10.0.0.1',
      '::',
      '169.254.1.1',
      'fe80::1',
      'fd00::1',
      '64:ff9b::7f00:1',
    ])
      expect([one, isPrivate(one)]).toEqual([one, true]);
    for (const one of ['93.184.216.34', '2606:2800:220:1::1']) expect([one, isPrivate(one)]).toEqual([one, false]);
  });

  it('what TLS libraries say is said in words', () => {
    const sentence = (code: string, message = '') => sentenceOf(Object.assign(new Error(message), { code }), 'The mailbox');
    expect(sentence('ERR_SSL_WRONG_VERSION_NUMBER', 'C0FFEE:error:0A00010B:SSL routines:ssl3_get_record')).toMatch(
      /does not speak TLS as expected/,
    );
    expect(sentence('DEPTH_ZERO_SELF_SIGNED_CERT')).toMatch(/certificate that nobody known has signed/);
    expect(sentence('CERT_HAS_EXPIRED')).toMatch(/expired/);
    for (const code of ['EPROTO', 'ERR_TLS_CERT_ALTNAME_INVALID', 'UNABLE_TO_VERIFY_LEAF_SIGNATURE'])
      expect(sentence(code, 'error:0A:SSL routines')).not.toMatch(/error:|routines/);
  });

  it('half uploads and half files are taken away; what is wanted stays', async () => {
    const uploads = server.app.get(Uploads);
    writeFileSync(join(uploads.folder, 'half'), 'x');
    uploads.keepFor(() => Promise.resolve(new Set([join(uploads.folder, 'wanted')])));
    writeFileSync(join(uploads.folder, 'wanted'), 'x');
    await uploads.sweep(3_600_000);
    expect(readdirSync(uploads.folder).sort()).toEqual(['half', 'wanted']);
    await uploads.sweep(0);
    expect(readdirSync(uploads.folder)).toEqual(['wanted']);
    const files = server.app.get(FileStore);
    const hash = 'ab'.repeat(32);
    await files.keep(hash, Buffer.from('whole'));
    const folder = join(server.data, 'files', 'ab');
    writeFileSync(join(folder, `${hash.slice(2)}.half`), 'x');
    await files.onApplicationBootstrap();
    expect(readdirSync(folder)).toEqual([hash.slice(2)]);
    expect(readFileSync(join(folder, hash.slice(2)), 'utf8')).toBe('whole');
  });
});
