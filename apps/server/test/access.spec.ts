import { AccountsService } from '../src/accounts/accounts.service';
import { database, Caller, clear, sendMail, startServer, type Page, type Running } from './harness';

const PASSWORD = 'reed-bed-and-bittern';
let server: Running;
let first: Caller;
let second: Caller;

beforeAll(async () => {
  server = await startServer('empty');
  first = new Caller(server.url);
  second = new Caller(server.url);
});

afterAll(async () => {
  await server.stop();
  clear(server.data);
});

const errorOf = (answer: { body: unknown }) =>
  (answer.body as { error: { code: string; message: string; fields?: Record<string, string> } }).error;

describe('accounts', () => {
  it('lets a first visit make the first account, and no second one', async () => {
    expect((await first.get('/session')).body).toEqual({ demo: false, firstAccount: true });
    const wrong = errorOf(await first.post('/account', { name: 'Maren', email: 'no', password: 'short' }));
    expect(wrong.fields).toEqual({ email: 'This is not a mail address.', password: 'The password has at least 10 characters.' });
    const made = await first.post('/account', {
      name: 'Maren Holt',
      email: 'Maren@alderfen.example',
      password: PASSWORD,
      zone: 'Europe/Vienna',
    });
    expect([made.status, made.headers.get('set-cookie')]).toEqual([
      204,
      expect.stringMatching(/HttpOnly; SameSite=Strict/) as string,
    ]);
    expect((await second.post('/account', { name: 'Eve', email: 'eve@x.example', password: PASSWORD })).status).toBe(403);
  });

  it('has no demo sign-in outside the demo', async () => {
    expect((await second.post('/session/demo')).status).toBe(403);
  });

  it('signs in with the right password only, and slows guessing down', async () => {
    await server.app.get(AccountsService).create({ name: 'Pia', email: 'pia@alderfen.example', password: PASSWORD });
    for (let guess = 0; guess < 8; guess += 1)
      expect((await second.post('/session', { email: 'maren@alderfen.example', password: `guess-${guess}` })).status).toBe(401);
    expect((await second.post('/session', { email: 'maren@alderfen.example', password: PASSWORD })).status).toBe(429);
    expect((await second.post('/session', { email: 'pia@alderfen.example', password: PASSWORD })).status).toBe(204);
  });

  it('keeps no password and no secret in the clear', async () => {
    const dump =
      JSON.stringify(await database(server).query('SELECT * FROM user')) +
      JSON.stringify(await database(server).query('SELECT * FROM access'));
    expect(dump).not.toContain(PASSWORD);
    expect(dump).toMatch(/scrypt\$/);
    const cookie = (first as unknown as { headers: Record<string, string> }).headers['Cookie']?.split('=')[1] ?? 'none';
    expect(dump).not.toContain(cookie);
  });

  it('gives programs tokens that can be withdrawn', async () => {
    const { id, token } = (await first.post<{ id: string; token: string }>('/tokens', { name: 'script' })).body;
    const script = new Caller(server.url, { Authorization: `Bearer ${token}` });
    expect((await script.get('/me')).status).toBe(200);
    expect((await second.call('DELETE', `/api/tokens/${id}`)).status).toBe(404);
    expect((await first.call('DELETE', `/api/tokens/${id}`)).status).toBe(204);
    expect((await script.get('/me')).status).toBe(401);
  });

  it('a token may do what it says and no more; what belongs to the account is for whoever is signed in', async () => {
    const made = async (may: string) => {
      const { id, token } = (await first.post<{ id: string; token: string }>('/tokens', { name: may, may })).body;
      return { id, program: new Caller(server.url, { Authorization: `Bearer ${token}` }) };
    };
    const [calendars, read, write, account] = [
      await made('calendars'),
      await made('read'),
      await made('write'),
      await made('account'),
    ];
    const statuses = (method: string, path: string, body?: object) =>
      Promise.all(
        [calendars, read, write, account].map(({ program }) =>
          program.call(method, `/api${path}`, body).then(({ status }) => status),
        ),
      );
    expect(await statuses('GET', '/incoming')).toEqual([403, 200, 200, 200]);
    expect(await statuses('POST', '/captures', { text: 'Oil the gate' })).toEqual([403, 403, 201, 201]);
    expect(await statuses('GET', '/data/backups/none')).toEqual([403, 403, 403, 404]);
    expect(await statuses('PATCH', '/data', { keep: 7 })).toEqual([403, 403, 403, 204]);
    expect(await statuses('GET', '/tokens')).toEqual([403, 403, 403, 200]);
    for (const [method, path] of [
      ['GET', '/sessions'],
      ['POST', '/session/everywhere'],
      ['DELETE', '/session'],
    ] as const)
      expect([path, ...(await statuses(method, path))]).toEqual([path, 403, 403, 403, 403]);
    expect(await statuses('POST', '/password', { present: 'x', wanted: 'ten letters at least' })).toEqual([403, 403, 403, 403]);
    const more = (may: string) => account.program.call<{ token: string }>('POST', '/api/tokens', { name: 'script', may });
    expect((await more('account')).status).toBe(403);
    const script = new Caller(server.url, { Authorization: `Bearer ${(await more('write')).body.token}` });
    expect((await script.call('GET', '/api/me')).status).toBe(200);
    // What a token made ends with it.
    expect((await first.call('DELETE', `/api/tokens/${account.id}`)).status).toBe(204);
    expect((await script.call('GET', '/api/me')).status).toBe(401);
    expect((await first.call('GET', '/api/me')).status).toBe(200);
  });

  it('ends a session when the user signs out', async () => {
    const third = new Caller(server.url);
    await third.post('/session', { email: 'pia@alderfen.example', password: PASSWORD });
    const { headers } = third as unknown as { headers: Record<string, string> };
    const kept = new Caller(server.url, { Cookie: headers['Cookie'] ?? '' });
    expect((await kept.get('/me')).status).toBe(200);
    await third.call('DELETE', '/api/session');
    expect((await kept.get('/me')).status).toBe(401);
  });
});

describe('every route', () => {
  it('needs a sign-in, but for the few that are open', async () => {
    const document = (await (await fetch(`${server.url}/api/openapi.json`)).json()) as {
      paths: Record<string, Record<string, unknown>>;
    };
    const open = new Set(['/api/session', '/api/session/demo', '/api/account', '/api/health']);
    const nobody = new Caller(server.url);
    const routes = Object.entries(document.paths).flatMap(([path, methods]) =>
      Object.keys(methods).map((method) => ({ path, method })),
    );
    expect(routes.length).toBeGreaterThan(25);
    for (const { path, method } of routes) {
      // Strangers have a link instead: without it there is nothing.
      const stranger = path.startsWith('/api/public/');
      if (open.has(path) && method !== 'delete') continue;
      const answer = await nobody.call(
        method.toUpperCase(),
        path.replace(/\{\w+\}/g, 'x'),
        method === 'get' || method === 'delete' ? undefined : {},
      );
      const refused = stranger ? (method === 'get' || method === 'delete' ? 404 : 400) : 401;
      expect([method, path, answer.status]).toEqual([method, path, refused]);
    }
  });

  it('hides one user’s things from another', async () => {
    await sendMail(server.smtpPort, { to: 'maren@capture.example', subject: 'Private', text: 'Please keep this.' });
    const [line] = (await first.get<Page>('/incoming')).body.items;
    const { id } = (await first.post<{ id: string }>('/captures', { text: 'Mow tomorrow 10:00' })).body;
    const note = (await first.post<{ id: string }>('/notes', { title: 'Private page' })).body.id;
    expect((await second.get<Page>('/incoming')).body.total).toBe(0);
    expect((await second.get<object[]>('/notes')).body).toEqual([]);
    expect((await second.get<object[]>('/people')).body).toEqual([]);
    const foreign = [
      await second.get(`/notes/${note}`),
      await second.patch(`/notes/${note}`, { text: 'mine now' }),
      await second.remove(`/notes/${note}`),
      await second.get(`/incoming/${line?.id}`),
      await second.get(`/incoming/${line?.id}/original`),
      await second.post('/decisions', { incoming: [line?.id], to: 'drop' }),
      await second.patch(`/blocks/${id}`, { start: '2026-08-05T10:00', minutes: 30 }),
      await second.call('DELETE', `/api/blocks/${id}`),
    ];
    expect(foreign.map((answer) => answer.status)).toEqual(foreign.map(() => 404));
    expect((await second.post('/decisions/undo')).status).toBe(409);
    expect((await first.get(`/incoming/${line?.id}`)).status).toBe(200);
  });

  it('refuses changes that come from another site with the user’s cookie', async () => {
    const answer = await first.call('POST', '/api/captures', { text: 'x' }, { Origin: 'https://elsewhere.example' });
    expect([answer.status, errorOf(answer).code]).toEqual([403, 'foreign-origin']);
  });

  it('answers bad requests with a code and a sentence', async () => {
    const answers = [
      await first.call('POST', '/api/captures', '{"text":'),
      await first.post('/captures', { text: 7 }),
      await first.post('/captures', { text: 'x', extra: 1 }),
      await first.get('/incoming?limit=0'),
      await first.get('/incoming?cursor=zzz!'),
      await first.get('/days?from=2026-13-01'),
      await first.get('/nothing-here'),
    ];
    expect(answers.map((answer) => [answer.status, errorOf(answer).message.length > 10])).toEqual([
      [400, true],
      [400, true],
      [400, true],
      [400, true],
      [400, true],
      [400, true],
      [404, true],
    ]);
    expect((await first.call('POST', '/api/captures', { text: 'x'.repeat(2_000_000) })).status).toBe(413);
  });

  it('sends a policy that lets nothing of elsewhere in', async () => {
    const policy = (await fetch(`${server.url}/api/health`)).headers.get('content-security-policy') ?? '';
    expect(policy).toContain("default-src 'self'");
    expect(policy).not.toMatch(/https?:|unsafe-eval|script-src[^;]*unsafe-inline/);
  });

  it('gives two whose mail begins alike different addresses to be captured under', async () => {
    const account = (email: string) => ({ name: 'Lea Winter', email, password: 'sedge-and-alder-roots' });
    const accounts = server.app.get(AccountsService);
    const [one, other] = [
      await accounts.create(account('lea@alderfen.example')),
      await accounts.create(account('lea@county.example')),
    ];
    expect([one.captureAddress, other.captureAddress]).toEqual(['lea@capture.example', 'lea2@capture.example']);
  });
});
