import { createServer, type IncomingMessage } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { AgendaEntry, DecisionAnswer, OutboxInfo, SourceInfo, SourceLook, YesCost } from '@corvun/contract';
import { Outside, ServerProcess, Caller, clear, tempFolder, until } from './harness';

interface There {
  collections: Record<string, { objects: Record<string, { text: string; etag: string }> }>;
  asked: number;
  mood: string;
}

const LOGIN = { account: 'maren', secret: 'fen-water' };
let data: string;
let outside: Outside;
let server: ServerProcess;
let maren: Caller;

const there = async () => (await outside.state<There>('account')).collections['fen']?.objects ?? {};
const act = (what: string, more: Record<string, string> = {}) =>
  outside.act('/account/act', { what, collection: 'fen', ...more });
const one = async () => (await maren.get<SourceInfo[]>('/sources')).body[0] as SourceInfo;
const events = async () =>
  (await maren.get<{ entries: AgendaEntry[] }>('/agenda?from=2026-08-03&days=14')).body.entries.filter(
    ({ kind }) => kind === 'event',
  );
const waiting = async () => (await maren.get<OutboxInfo[]>('/outbox')).body.filter(({ state }) => state === 'waiting');
const sent = () => until(async () => (await waiting()).length === 0, 'everything to be sent');
const look = async () => {
  const before = (await one()).lastTry;
  await maren.post(`/sources/${(await one()).id}/run`);
  await until(async () => (await one()).progress === null && (await one()).lastTry !== before, 'the end of the look');
};
const vevent = (uid: string, title: string, at = '20260804T080000Z') =>
  ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//x//y//EN', 'BEGIN:VEVENT', `UID:${uid}`, 'DTSTAMP:20260801T000000Z']
    .concat([`SUMMARY:${title}`, `DTSTART:${at}`, 'DURATION:PT1H', 'X-GAUGE:north', 'END:VEVENT', 'END:VCALENDAR', ''])
    .join('\r\n');

async function start(): Promise<void> {
  server = await ServerProcess.start(data);
  maren = new Caller(server.url, maren.signedHeaders());
}

beforeEach(async () => {
  data = tempFolder();
  outside = await new Outside().start(data);
  server = await ServerProcess.start(data);
  maren = new Caller(server.url);
  await maren.post('/account', { name: 'Maren Holt', email: 'maren@alderfen.example', password: 'reed-bed-and-bittern' });
});
afterEach(async () => {
  await server.kill();
  outside.stop();
  clear(data);
});

/** Connects the calendar with some entries in it. */
async function connect(entries: number): Promise<void> {
  for (let at = 0; at < entries; at += 1)
    await act('put', {
      name: `e${at}.ics`,
      text: vevent(`e${at}`, `Round ${at}`, `202608${String(4 + (at % 9)).padStart(2, '0')}T080000Z`),
    });
  const input = { kind: 'account', name: 'Office', address: `${outside.url}/account/dav/`, ...LOGIN };
  const { body } = await maren.post<SourceLook>('/sources/look', input);
  const collections = body.settings.collections?.filter(({ name }) => name === 'Fen');
  await maren.post('/sources', { ...input, settings: { collections } });
  await until(async () => (await one()).lastSuccess, 'a first look');
}

it('a page for people, half an answer, no answer, a full server: each is said, nothing is lost, and it goes on afterwards', async () => {
  await connect(3);
  for (const [mood, says] of [
    ['html', /answers with a page for people, not with calendars/],
    ['half', /broke off in the middle of its answer/],
  ] as const) {
    await act('mood', { mood });
    await act('put', { name: 'e0.ics', text: vevent('e0', `Round ${mood}`) });
    await maren.post(`/sources/${(await one()).id}/run`);
    await until(async () => says.test((await one()).problem), `the sentence for ${mood}`);
    expect((await events()).length).toBe(3);
    await act('mood', { mood: 'well' });
    await look();
    expect((await events()).map(({ title }) => title)).toContain(`Round ${mood}`);
    expect((await one()).problem).toBe('');
  }
  await act('mood', { mood: 'full' });
  const [first] = await events();
  await maren.patch(`/events/${first?.id}`, { title: 'Round with Bo' });
  await until(async () => (await waiting())[0]?.problem, 'the refusal');
  expect((await waiting())[0]).toMatchObject({
    what: 'Bring “Round with Bo” up to date in Office',
    problem: expect.stringMatching(/has no room left \(507\)/) as string,
  });
  await act('mood', { mood: 'well' });
  await maren.post(`/outbox/${(await waiting())[0]?.id}/now`);
  await sent();
  expect(Object.values(await there()).filter(({ text }) => text.includes('Round with Bo'))).toHaveLength(1);
});

it('a second look where nothing changed is a handful of requests', async () => {
  await connect(5);
  const before = (await outside.state<There>('account')).asked;
  await look();
  expect((await outside.state<There>('account')).asked - before).toBe(1);
});

it('killed in the middle of a first look and in the middle of sending, nothing is doubled and nothing is lost', async () => {
  await connect(0);
  for (let at = 0; at < 250; at += 1) await act('put', { name: `m${at}.ics`, text: vevent(`m${at}`, `Measure ${at}`) });
  await maren.post(`/sources/${(await one()).id}/run`);
  await until(async () => (await events()).length > 0, 'the first of them');
  await server.kill();
  await start();
  await until(async () => (await events()).length === 250, 'all of them');
  const calendarId = (await one()).settings.collections?.[0]?.calendarId;

  // It was made there, and the answer never came: it is known again.
  await act('mood', { mood: 'deaf' });
  const made = await maren.post<DecisionAnswer>('/events', {
    title: 'Evening round',
    start: '2026-08-06T18:00',
    minutes: 30,
    calendarId,
  });
  await until(async () => (await waiting())[0]?.attempts, 'a first try');
  await server.kill();
  await act('mood', { mood: 'well' });
  await start();
  await maren.post(`/outbox/${(await waiting())[0]?.id}/now`);
  await sent();
  const own = Object.entries(await there()).filter(([, { text }]) => text.includes('Evening round'));
  expect(own).toHaveLength(1);
  await look();
  expect((await events()).filter(({ title }) => title === 'Evening round')).toHaveLength(1);

  // The same with a change, which is taken back here meanwhile.
  await act('mood', { mood: 'deaf' });
  await maren.patch(`/events/${made.body.made[0]?.id}`, { title: 'Late round' });
  await until(async () => (await waiting())[0]?.attempts, 'a try');
  await server.kill();
  await act('mood', { mood: 'well' });
  await start();
  await maren.patch(`/events/${made.body.made[0]?.id}`, { title: 'Evening round' });
  await sent();
  expect(Object.values(await there()).filter(({ text }) => text.includes('Evening round'))).toHaveLength(1);
  await look();
  expect((await events()).filter(({ title }) => title === 'Evening round')).toHaveLength(1);
  expect((await maren.get<{ total: number }>('/incoming')).body.total).toBe(0);
});

it('what is taken away on one side and changed on the other is asked about, either way round', async () => {
  await connect(2);
  const [first, second] = await events();
  const id = (await one()).id;
  await maren.patch(`/sources/${id}`, { state: 'paused' });
  await maren.remove(`/events/${first?.id}`);
  await act('title', { name: 'e0.ics', text: 'Round with Ines' });
  await maren.patch(`/events/${second?.id}`, { title: 'Round with Bo' });
  await act('drop', { name: 'e1.ics' });
  await maren.patch(`/sources/${id}`, { state: 'active' });
  const asked = () => maren.get<{ items: { id: string; subject: string }[] }>('/incoming?limit=10');
  await until(async () => (await asked()).body.items.length === 2, 'both questions');
  expect((await events()).map(({ title }) => title).sort()).toEqual(['Round with Bo', 'Round with Ines']);
  for (const { id: question, subject } of (await asked()).body.items)
    await maren.post(`/incoming/${question}/settle`, { keep: subject === 'Round with Bo' ? 'here' : 'there' });
  await sent();
  expect(
    Object.values(await there())
      .map(({ text }) => /^SUMMARY:(.*)\r$/m.exec(text)?.[1])
      .sort(),
  ).toEqual(['Round with Bo', 'Round with Ines']);
  expect((await asked()).body.items).toEqual([]);
});

it('of a colleague only is known when he is busy: with a meeting it is said, and other times suit him, too', async () => {
  const input = { kind: 'account', name: 'Office', address: `${outside.url}/account/dav/`, ...LOGIN };
  const { body: found } = await maren.post<SourceLook>('/sources/look', input);
  const jonas = { name: 'Jonas Brandl', address: 'jonas.brandl@alderfen.example' };
  const free = { id: 'free:/account/maren/jonas/', ...jonas };
  expect(found.choices.filter(({ name }) => name === jonas.name)).toEqual([
    { ...free, count: null, chosen: true, writable: false },
  ]);
  expect(found.settings.collections).toContainEqual(free);
  await maren.post('/sources', { ...input, settings: found.settings });
  await until(async () => (await one()).lastSuccess, 'a first look');
  expect((await events()).filter(({ title }) => title === 'Out with the crew')).toEqual([]);

  const meeting = {
    title: 'Pump round',
    minutes: 60,
    guests: [`${jonas.name} <${jonas.address}>`, 'Ines <ines@aalto-timber.example>'],
  };
  const made = async (start: string) =>
    (await maren.post<DecisionAnswer>('/events', { ...meeting, start })).body.made[0]?.id ?? '';
  const cost = async (id: string) => (await maren.get<YesCost>(`/cost?event=${id}`)).body;
  const ofBoth = (busy: boolean) => [
    { ...jonas, busy },
    { name: 'Ines', address: 'ines@aalto-timber.example', busy: null },
  ];
  // He is out from 9 to 11 on the next three working days.
  const clash = await cost(await made('2026-08-05T10:00'));
  expect(clash.guests).toEqual(ofBoth(true));
  const starts = clash.instead.map(({ start }) => start.slice(5, 16));
  expect(starts).toHaveLength(3);
  expect(starts.filter((start) => /08-0[456]T(09|10)/.test(start))).toEqual([]);
  expect((await cost(await made('2026-08-05T15:30'))).guests).toEqual(ofBoth(false));

  // What is refused is said and not known; the rest goes on.
  await act('untell', { collection: 'jonas' });
  await act('put', { name: 'e0.ics', text: vevent('e0', 'Round meanwhile') });
  const id = (await one()).id;
  await maren.patch(`/sources/${id}`, { settings: (await one()).settings });
  await until(async () => (await one()).left, 'the refusal');
  expect((await one()).left).toMatch(/^It is not told when Jonas Brandl is busy: \S+ does not allow this\.$/);
  expect((await one()).problem).toBe('');
  await until(async () => (await events()).some(({ title }) => title === 'Round meanwhile'), 'the rest');
  expect((await cost(await made('2026-08-05T12:00'))).guests[0]?.busy).toBeNull();

  // What is not there any more is said, too.
  await act('close', { collection: 'jonas' });
  await act('put', { name: 'e1.ics', text: vevent('e1', 'Round after it') });
  await maren.post(`/sources/${(await one()).id}/run`);
  await until(async () => (await one()).problem.includes('“Jonas Brandl” is not there any more'), 'the sentence');
  expect((await events()).map(({ title }) => title)).toContain('Round after it');
});

it('asks a Corvun as it asks any other server: with a token that may only read, when its owner is busy', async () => {
  const { token } = (await maren.post<{ token: string }>('/tokens', { name: 'Colleague', may: 'read' })).body;
  await maren.post('/events', { title: 'Board', start: '2026-08-06T09:00', minutes: 180 });
  const input = {
    kind: 'account',
    name: 'Maren',
    address: `${server.url}/dav/`,
    account: 'maren@alderfen.example',
    secret: token,
  };
  const { body } = await maren.post<SourceLook>('/sources/look', input);
  const offered = body.choices.filter(({ id }) => id.startsWith('free:'));
  expect(offered.length).toBeGreaterThan(0);
  expect(offered.every(({ chosen }) => !chosen)).toBe(true);
  const collections = offered.map(({ id, name }) => ({ id, name, address: 'Tomas@County-Water.example' }));
  await maren.post('/sources', { ...input, settings: { collections } });
  await until(async () => (await one()).lastSuccess, 'a first look');
  const meet = { title: 'Meet', start: '2026-08-06T10:00', minutes: 30, guests: ['Tomas <tomas@county-water.example>'] };
  const { body: made } = await maren.post<DecisionAnswer>('/events', meet);
  const { guests } = (await maren.get<YesCost>(`/cost?event=${made.made[0]?.id}`)).body;
  expect(guests).toEqual([{ name: 'Tomas', address: 'tomas@county-water.example', busy: true }]);
});

it('a server that sends on to another place does not make the password go there, and what is no address is said so', async () => {
  const asked: IncomingMessage[] = [];
  const elsewhere = createServer((request, response) => void (asked.push(request), response.writeHead(404).end()));
  const sending = createServer(
    (_request, response) => void response.writeHead(301, { Location: `${addressOf(elsewhere)}/dav/` }).end(),
  );
  const addressOf = (server: typeof elsewhere) => `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  for (const server of [elsewhere, sending]) await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  const look = (address: string) =>
    maren.post<{ error: { message: string } }>('/sources/look', { kind: 'account', name: 'Office', address, ...LOGIN });
  expect((await look(addressOf(sending))).status).toBe(502);
  expect(asked.map(({ headers }) => headers.authorization).filter(Boolean)).toEqual([]);
  expect((await look('no address')).body.error.message).toBe('https://no address is not an address.');
  for (const server of [elsewhere, sending]) server.close();
});
