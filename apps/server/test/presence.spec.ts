import type { Done, PresenceInfo, SourceInfo } from '@corvun/contract';
import { Caller, NOW, Outside, ServerProcess, clear, tempFolder, until, type Page } from './harness';

interface Chatted {
  presence: { text: string; dnd: boolean; until: string | null };
}

// It is Monday, 3 August 2026, 10:50 in Vienna.
const data = tempFolder();
const outside = new Outside();
let server: ServerProcess;
let maren: Caller;
let chat = '';

const start = async (now = NOW) => {
  const again = server ? server.samePorts : {};
  server = await ServerProcess.start(data, { CORVUN_NOW: now, CORVUN_FOLDERS: '', ...again });
};
const shown = async () => (await outside.state<Chatted>('chat')).presence;
const shows = (text: string, dnd = false) =>
  until(async () => {
    const { presence } = await outside.state<Chatted>('chat');
    return presence.text === text && presence.dnd === dnd;
  }, `“${text}” in the chat`);
const here = async () => (await maren.get<PresenceInfo>('/presence')).body;
const inbox = async () => (await maren.get<Page>('/incoming?limit=100')).body.items.map(({ subject }) => subject);
const task = async (line: string) => (await maren.post<{ ids: string[] }>('/tasks', { lines: [line] })).body.ids[0] ?? '';

beforeAll(async () => {
  await outside.start(data);
  await start();
  maren = new Caller(server.url);
  await maren.post('/account', {
    ...{ name: 'Maren Holt', email: 'maren.holt@alderfen.example', password: 'ten letters at least', zone: 'Europe/Vienna' },
  });
  const input = { kind: 'chat', name: 'Team chat', address: `${outside.url}/chat`, settings: { presence: true } };
  chat = (await maren.post<{ id: string }>('/sources', input)).body.id;
  // What was there before comes first: a look that goes on when it becomes quiet is not broken off.
  const looked = async () => (await maren.get<SourceInfo[]>('/sources')).body.find(({ id }) => id === chat)?.lastSuccess;
  await until(looked, 'the first look');
});

afterAll(async () => {
  await server.kill();
  outside.stop();
  clear(data);
});

it('what the day says is shown, without what one does: at work, in a meeting, quiet; and own words for a while', async () => {
  await shows('At work');
  expect(await here()).toMatchObject({ kind: 'work', text: 'At work', dnd: false, own: null, shownIn: ['Team chat'] });
  const { made } = (
    await maren.post<{ made: { id: string }[] }>('/events', { title: 'Salary talk', start: '2026-08-03T10:30', minutes: 60 })
  ).body;
  await shows('In a meeting until 11:30');
  expect((await maren.patch<Done>('/presence', { text: 'On the boat', until: '15:00' })).body.sentence).toBe(
    'Others see “On the boat” until 15:00',
  );
  await shows('On the boat');
  const over = await maren.patch<{ error: { message: string } }>('/presence', { text: 'On the boat', until: '09:00' });
  expect([over.status, over.body.error.message]).toEqual([422, '9:00 is over.']);
  await maren.patch('/presence', { text: null });
  await shows('In a meeting until 11:30');
  await maren.remove(`/events/${made[0]?.id}`);
  await shows('At work');
});

it('messages wait in quiet time, and come after it', async () => {
  const { made } = (
    await maren.post<{ made: { id: string }[] }>('/blocks', { kind: 'quiet', start: '2026-08-03T10:30', minutes: 60 })
  ).body;
  await shows('Quiet until 11:30', true);
  const before = await inbox();
  await outside.act('/chat/post', { by: 'jonas', channel: 'field-crew', text: '@maren the pump is here' });
  // Whatever looks by itself until then leaves it there: that this one goes out comes after it.
  await maren.patch('/presence', { text: 'On the boat' });
  await shows('On the boat', true);
  expect(await inbox()).toEqual(before);
  await maren.patch('/presence', { text: '' });
  await maren.remove(`/blocks/${made[0]?.id}`);
  await shows('At work');
  await until(async () => (await inbox()).includes('@maren the pump is here'), 'the message after it');
});

it('is taken back after a kill in the middle of it', async () => {
  await maren.post('/heads-down', { task: await task('Grant figures') });
  await until(async () => (await shown()).dnd, 'do-not-disturb');
  expect((await shown()).text).toMatch(/^Quiet until 11:1\d$/);
  await server.kill();
  // Nobody took it back.
  expect((await shown()).dnd).toBe(true);
  await start('2026-08-03T11:30:00+02:00');
  await shows('Pause');
  await maren.remove('/heads-down');
  await shows('At work');
  await server.kill();
  await start('2026-08-03T19:00:00+02:00');
  await shows('Away until Tue 4 Aug, 9:00');
});

it('a chat that does not answer is told later, and one that is to show nothing any more shows nothing', async () => {
  outside.stop();
  await maren.patch('/presence', { text: 'On the boat' });
  const waits = async () =>
    (await maren.get<{ kind: string; state: string; what: string; problem: string }[]>('/outbox')).body.find(
      ({ kind, state }) => kind === 'presence' && state === 'waiting',
    );
  await until(async () => (await waits())?.problem, 'a sentence on it');
  expect((await waits())?.what).toBe('Show “On the boat” in Team chat');
  await outside.startAgain();
  for (const entry of (await maren.get<{ id: string; state: string }[]>('/outbox')).body)
    if (entry.state === 'waiting') await maren.post(`/outbox/${entry.id}/now`);
  await shows('On the boat');
  const { settings } = (await maren.get<SourceInfo>(`/sources/${chat}`)).body;
  await maren.patch(`/sources/${chat}`, { settings: { ...settings, presence: false } });
  await shows('');
  expect((await here()).shownIn).toEqual([]);
});

it('a chat that is removed shows nothing any more; one that does not answer is removed all the same, and that is said', async () => {
  await maren.patch(`/sources/${chat}`, { settings: { presence: true } });
  await maren.patch('/presence', { text: 'On the boat' });
  await shows('On the boat');
  await maren.remove(`/sources/${chat}`);
  await shows('');
  const input = { kind: 'chat', name: 'Old chat', address: `${outside.url}/nowhere`, settings: { presence: true } };
  const old = (await maren.post<{ id: string }>('/sources', input)).body.id;
  expect((await maren.remove<Done>(`/sources/${old}`)).body.sentence).toContain(
    'it did not answer, and may go on showing how you are',
  );
});
