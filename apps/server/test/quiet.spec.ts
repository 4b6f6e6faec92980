import type { DayInfo, DayLogInfo, Done, GraceInfo, LedgerInfo, QuietState } from '@corvun/contract';
import { Caller, ServerProcess, clear, tempFolder } from './harness';

interface Failure {
  error: { code: string; message: string };
}

// It is Monday, 3 August 2026 in Vienna; each part begins at its own time of day.
const TODAY = '2026-08-03';
const SITES = ['fen-news.example', 'marsh-board.example'];
const data = tempFolder();
let server: ServerProcess;
let maren: Caller;

const at = async (clock: string) => {
  const again = server ? server.samePorts : {};
  if (server) await server.kill();
  server = await ServerProcess.start(data, { CORVUN_NOW: `${TODAY}T${clock}:00+02:00`, CORVUN_FOLDERS: '', ...again });
};
const state = async () => (await maren.get<QuietState>('/quiet')).body;
const here = async () => (await maren.post<QuietState>('/quiet/here')).body;
const grace = (input: object) => maren.post<Done & { grace: GraceInfo } & Failure>('/quiet/graces', input);
const logged = async () =>
  (await maren.get<DayLogInfo>(`/log?day=${TODAY}`)).body.entries
    .filter(({ kind }) => kind === 'quiet')
    .map(({ title, text }) => `${title}: ${text}`);
const block = async (input: object) =>
  (await maren.post<{ made: { id: string }[] }>('/blocks', { kind: 'quiet', minutes: 60, ...input })).body.made[0]?.id ?? '';
const clock = (iso: string | undefined) => iso?.slice(11, 16);

beforeAll(async () => {
  await at('08:00');
  maren = new Caller(server.url);
  await maren.post('/account', {
    ...{ name: 'Maren Holt', email: 'maren.holt@alderfen.example', password: 'ten letters at least', zone: 'Europe/Vienna' },
  });
});

afterAll(async () => {
  await server.kill();
  clear(data);
});

it('sites are chosen as they are typed, each once; one that is none is said', async () => {
  const typed = ['https://www.Fen-News.example/today', 'fen-news.example', 'marsh-board.example'];
  expect((await maren.patch<Done>('/settings', { quiet: { sites: typed } })).body.sentence).toBe('What is held back was changed');
  expect((await state()).sites).toEqual(SITES);
  const refused = await maren.patch<Failure>('/settings', { quiet: { sites: ['news'] } });
  expect([refused.status, refused.body.error.message]).toEqual([400, '“news” is no site. Write one like news.example.']);
  expect((await state()).sites).toEqual(SITES);
});

it('quiet time says what it holds back, its own sites or those that always are, until when, and what comes next', async () => {
  const first = await block({ start: `${TODAY}T10:00`, minutes: 90, title: 'Report' });
  await block({ start: `${TODAY}T14:00` });
  await maren.post('/events', { title: 'Stand-up', start: `${TODAY}T11:00`, minutes: 20 });
  expect(await state()).toMatchObject({ quiet: null, next: { title: 'Report', sites: SITES } });
  expect(clock((await state()).next?.until)).toBe('11:00');

  const { sentence } = (await maren.patch<Done>(`/blocks/${first}`, { sites: ['https://ferry.example/times'] })).body;
  expect(sentence).toBe('“Report” holds 1 site back');
  expect((await state()).next?.sites).toEqual(['ferry.example']);
  const days = (await maren.get<{ days: DayInfo[] }>(`/days?from=${TODAY}&days=1`)).body.days[0]?.entries ?? [];
  expect(days.find(({ id }) => id === first)?.sites).toEqual(['ferry.example']);
  await maren.post('/decisions/undo');
  expect((await state()).next?.sites).toEqual(SITES);

  const pause = await block({ kind: 'break', start: `${TODAY}T12:00`, minutes: 30 });
  const refused = await maren.patch<Failure>(`/blocks/${pause}`, { sites: SITES });
  expect([refused.status, refused.body.error.message]).toEqual([422, 'Sites are held back in quiet time only.']);
});

it('where nobody holds anything back, nothing is said of it; a look is let where something is held back, and counts once', async () => {
  const outside = await grace({ site: 'fen-news.example' });
  expect([outside.status, outside.body.error.code]).toEqual([409, 'not-quiet']);

  await at('10:10');
  expect(await state()).toMatchObject({ extension: null, graces: [] });
  const foreign = await grace({ site: 'ferry.example' });
  expect([foreign.status, foreign.body.error.message]).toEqual([422, 'ferry.example is not held back.']);

  const quiet = await here();
  expect(quiet.quiet).toMatchObject({ title: 'Report', sites: SITES });
  expect(clock(quiet.quiet?.until)).toBe('11:00');
  const let1 = await grace({ site: 'https://mill.fen-news.example/gauges' });
  expect(let1.body).toMatchObject({
    sentence: 'fen-news.example can be looked at until 10:15',
    grace: { site: 'fen-news.example' },
  });
  const again = await grace({ site: 'fen-news.example' });
  expect(again.body.grace).toEqual(let1.body.grace);
  expect((await state()).graces).toEqual([let1.body.grace]);
  expect(clock((await state()).extension ?? '')).toBe('10:10');
});

it('a look ends with what is held back, and one from while the server was away is told later, once', async () => {
  await at('10:58');
  expect(clock((await grace({ site: 'marsh-board.example' })).body.grace.until)).toBe('11:00');
  const earlier = { site: 'fen-news.example', at: `${TODAY}T10:40:00+02:00` };
  const told = (await grace(earlier)).body.grace;
  expect([clock(told.from), clock(told.until)]).toEqual(['10:40', '10:45']);
  expect((await grace(earlier)).body.grace).toEqual(told);
  expect((await grace({ ...earlier, at: `${TODAY}T10:42:00+02:00` })).body.grace).toEqual(told);
  expect((await grace({ ...earlier, at: '2026-08-01T10:00' })).status).toBe(422);
  expect((await state()).graces).toHaveLength(3);
});

it('in a meeting nothing is held back; after it the same quiet time goes on', async () => {
  await at('11:10');
  expect((await here()).quiet).toBeNull();
  expect(clock((await state()).next?.from)).toBe('11:20');
});

it('a quiet time that is over is told with what was held back in it; one the extension was away for says so', async () => {
  await at('12:00');
  expect(await logged()).toEqual([
    'Report: quiet for 1 h 30, 2 sites held back from 10:10 on, fen-news.example looked at 2 times, 10 min, marsh-board.example looked at for 2 min',
  ]);
  const { total } = (await maren.get<LedgerInfo>(`/ledger?from=${TODAY}&to=${TODAY}&by=kind`)).body;
  // Twenty minutes of a meeting and twelve minutes of looking.
  expect(total).toMatchObject({ quiet: 90, quietKept: 58 });

  await at('15:10');
  expect((await logged())[1]).toBe('Quiet time: quiet for 1 h, nothing was held back: the extension was away');
});

it('heads-down holds back what always is while one works, not in its pauses, and is told with its task', async () => {
  const id = (await maren.post<{ ids: string[] }>('/tasks', { lines: ['Results chapter'] })).body.ids[0] ?? '';
  await maren.post('/heads-down', { task: id });
  const { quiet } = await here();
  expect(quiet).toMatchObject({ title: 'Results chapter', sites: SITES });
  expect(clock(quiet?.until)).toBe('15:35');
  await grace({ site: 'fen-news.example' });
  await maren.post('/heads-down/turn');
  expect((await here()).quiet).toBeNull();
  await maren.post('/heads-down/turn');
  expect((await here()).quiet?.title).toBe('Results chapter');

  await at('15:20');
  await maren.remove('/heads-down');
  expect((await here()).quiet).toBeNull();
  const told = (await logged()).find((one) => one.startsWith('Heads-down'));
  expect(told).toBe('Heads-down: Results chapter: quiet for 10 min, 2 sites held back, fen-news.example looked at for 5 min');
});

it('what is held back is one’s own', async () => {
  const other = new Caller(server.url);
  expect((await other.get('/quiet')).status).toBe(401);
  expect((await other.post('/quiet/here')).status).toBe(401);
});
