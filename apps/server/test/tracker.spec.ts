import type { SourceLook, TaskFull } from '@corvun/contract';
import { type Outside, clear, until, withOutside, type Caller, type Page, type Running } from './harness';

interface Task {
  id: string;
  title: string;
  status: string;
  parentId: string | null;
  estimate: number | null;
  deadline: string | null;
  deadlineFixed: boolean;
}
interface Source {
  id: string;
  problem: string;
  progress: unknown;
  outbox: { waiting: number; failed: number };
  held: { waiting: number; decided: number; tasks: number };
  lastSuccess: string | null;
}
interface Tracked {
  cards: {
    id: string;
    title: string;
    status: string;
    due: string | null;
    estimate: number | null;
    rev: number;
    checklist: { id: string; done: boolean }[];
  }[];
  time: { card: string; minutes: number }[];
}

let server: Running;
let outside: Outside;
let maren: Caller;
let source: Source;

const BOARD = { id: 'boardwalk', name: 'Boardwalk board', ready: ['ready'], done: 'built', reopen: 'ready' };
const input = () => ({
  kind: 'tracker',
  name: 'Team tracker',
  address: `${outside.url}/tracker`,
  settings: { boards: [BOARD], due: 'fixed', writeTime: true },
});
const inbox = async () => (await maren.get<Page>('/incoming?limit=100')).body.items;
const tasks = async () => (await maren.get<Task[]>('/tasks')).body;
const task = async (id: string) => (await maren.get<Task>(`/tasks/${id}`)).body;
const card = async (id: string) => (await outside.state<Tracked>('tracker')).cards.find((one) => one.id === id);
const info = async () => (await maren.get<Source>(`/sources/${source.id}`)).body;
const look = () => maren.post(`/sources/${source.id}/run`);
const line = async (subject: string) => (await inbox()).find((one) => one.subject === subject);

beforeAll(async () => {
  ({ server, outside, maren } = await withOutside());
});

afterAll(async () => {
  await server.stop();
  outside.stop();
  clear(server.data);
});

describe('the tracker', () => {
  it('says before anything is written what would come in: the own cards that are ready', async () => {
    const { status, body } = await maren.post<{
      sentence: string;
      choices: { id: string }[];
      settings: { boards: { id: string; done: string }[] };
    }>('/sources/look', { ...input(), settings: {} });
    expect(status).toBe(200);
    expect(body.choices.map((one) => one.id)).toEqual(['boardwalk', 'volunteers']);
    expect(body.settings.boards.map((one) => one.done)).toEqual(['built', 'finished']);
    expect(body.sentence).toBe('3 of 8 cards: yours and ready');
    expect(await inbox()).toEqual([]);
  });

  it('can be asked for cards with some labels or words only', async () => {
    const asked = async (settings: object) => {
      const { body } = await maren.post<SourceLook>('/sources/look', { ...input(), settings });
      return [body.sample, body.labels?.map(({ name, count }) => `${name} ${count}`)];
    };
    const labels = ['site 1', 'write 1'];
    expect(await asked({ labels: ['Site'] })).toEqual([['Order larch decking, 48 m'], labels]);
    expect(await asked({ words: ['HELPERS', ' '] })).toEqual([['Write to last year’s helpers'], labels]);
    expect(await asked({ words: ['north gate'], labels: ['write'] })).toEqual([[], labels]);
  });

  it('brings in the chosen board only, and the same card never twice', async () => {
    source = (await maren.post<Source>('/sources', input())).body;
    await until(async () => (await info()).lastSuccess, 'a first look');
    expect((await inbox()).map((one) => one.subject).sort()).toEqual(['Close section C with fence', 'Order larch decking, 48 m']);
    await look();
    await until(async () => (await info()).progress === null, 'a second look');
    expect(await inbox()).toHaveLength(2);
  });

  it('follows a card that changes while it waits', async () => {
    await outside.act('/tracker/cards/BW-14', { title: 'Close section C with a fence' });
    await look();
    await until(() => line('Close section C with a fence'), 'the new title');
  });

  it('a decided card is a task with its steps; done here is done there, and taking it back takes it back there', async () => {
    const decking = await line('Order larch decking, 48 m');
    const { body } = await maren.post<{ made: { id: string }[] }>('/decisions', {
      incoming: [decking?.id],
      to: 'list',
      list: (await maren.post<{ id: string }>('/lists', { name: 'Boardwalk' })).body.id,
    });
    const id = body.made[0]?.id ?? '';
    expect(await task(id)).toMatchObject({ title: 'Order larch decking, 48 m', estimate: 45, deadlineFixed: true });
    const steps = (await tasks()).filter((one) => one.parentId === id);
    expect(steps.map((one) => one.title)).toEqual([
      'Confirm the profile with the contractor',
      'Order with delivery to the north gate',
    ]);
    expect((await maren.get<unknown[]>('/outbox')).body).toEqual([]);

    await maren.patch(`/tasks/${steps[0]?.id}`, { status: 'COMPLETED' });
    await until(async () => (await card('BW-12'))?.checklist[0]?.done, 'the step done there');
    await maren.patch(`/tasks/${id}`, { status: 'COMPLETED' });
    await until(async () => (await card('BW-12'))?.status === 'built', 'done there');
    await maren.post('/decisions/undo');
    await until(async () => (await card('BW-12'))?.status === 'ready', 'reopened there');
  });

  it('merges field by field: what each side changed alone is followed', async () => {
    const id = (await tasks()).find((one) => one.title === 'Order larch decking, 48 m')?.id ?? '';
    await until(async () => (await info()).outbox.waiting === 0, 'an empty outbox');
    await outside.act('/tracker/cards/BW-12', { due: '2026-08-20' });
    await maren.patch(`/tasks/${id}`, { estimate: 60 });
    await until(async () => (await card('BW-12'))?.estimate === 60, 'the estimate there');
    await until(async () => (await task(id)).deadline === '2026-08-20', 'the date here');
  });

  it('a real conflict becomes an incoming that shows both, and keeping one settles it on both sides', async () => {
    const id = (await tasks()).find((one) => one.title === 'Order larch decking, 48 m')?.id ?? '';
    await until(async () => (await info()).outbox.waiting === 0, 'an empty outbox');
    await outside.act('/tracker/mood', { mood: 'error' });
    await maren.patch(`/tasks/${id}`, { title: 'Order larch boards' });
    await outside.act('/tracker/cards/BW-12', { title: 'Order decking, 52 m' });
    await outside.act('/tracker/mood', { mood: 'well' });
    await look();
    const conflict = await until(
      async () => (await inbox()).find((one) => one.subject === 'Order larch boards'),
      'the conflict in the inbox',
    );
    const { body: shown } = await maren.get<{ conflict: { fields: object[] }; text: string }>(`/incoming/${conflict.id}`);
    expect(shown.conflict.fields).toMatchObject([{ field: 'title', here: 'Order larch boards', there: 'Order decking, 52 m' }]);
    expect([(await card('BW-12'))?.title, (await task(id)).title]).toEqual(['Order decking, 52 m', 'Order larch boards']);

    await maren.post(`/incoming/${conflict.id}/settle`, { keep: 'here' });
    await until(async () => (await card('BW-12'))?.title === 'Order larch boards', 'what stands here, there');
    expect((await inbox()).some((one) => one.id === conflict.id)).toBe(false);
    expect(
      (await maren.post<{ error: { code: string } }>(`/incoming/${conflict.id}/settle`, { keep: 'there' })).body.error.code,
    ).toBe('no-conflict');
  });

  it('writes time spent back once, and done there is done here', async () => {
    const fence = await line('Close section C with a fence');
    await maren.post('/decisions', { incoming: [fence?.id], to: 'done', minutes: 20 });
    await until(async () => (await outside.state<Tracked>('tracker')).time.length, 'the minutes there');
    expect((await outside.state<Tracked>('tracker')).time).toMatchObject([{ card: 'BW-14', minutes: 20 }]);
    const id = (await tasks()).find((one) => one.title === 'Order larch boards')?.id ?? '';
    await outside.act('/tracker/cards/BW-12', { status: 'built' });
    await look();
    await until(async () => (await task(id)).status === 'COMPLETED', 'done here');
  });

  it('time is corrected there when it is here, and taken away; what is refused waits and is not counted twice', async () => {
    const id = (await tasks()).find((one) => one.title.startsWith('Close section C'))?.id ?? '';
    const entries = async () => (await maren.get<TaskFull>(`/tasks/${id}`)).body.time;
    const there = async () => (await outside.state<Tracked>('tracker')).time.map(({ minutes }) => minutes).sort();
    const [first] = await entries();
    await maren.patch(`/time/${first?.id}`, { minutes: 35 });
    await until(async () => (await there()).join() === '35', 'the minutes that were corrected');
    await outside.act('/tracker/mood', { mood: 'error' });
    await maren.post(`/tasks/${id}/time`, { minutes: 15 });
    const refused = await until(
      async () =>
        (await maren.get<{ id: string; kind: string; problem: string }[]>('/outbox')).body.find(
          ({ kind, problem }) => kind === 'time' && problem !== '',
        ),
      'the sentence',
    );
    expect(refused.problem).toMatch(/answered with an error \(500\)/);
    expect((await entries()).map(({ minutes }) => minutes).sort()).toEqual([15, 35]);
    await outside.act('/tracker/mood', { mood: 'well' });
    await maren.post(`/outbox/${refused.id}/now`);
    await until(async () => (await there()).join() === '15,35', 'both there');
    await maren.remove(`/time/${first?.id}`);
    await until(async () => (await there()).join() === '15', 'the one that is left');
  });

  it.each([
    ['error', 70, /answered with an error \(500\)/],
    ['busy', 80, /asks to wait 2 seconds/],
    ['half', 90, /no whole JSON/],
  ])(
    'a tracker that behaves like “%s” is said so, nothing is lost, and it goes on by itself',
    async (mood, minutes, sentence) => {
      await outside.act('/tracker/mood', { mood });
      const before = (await tasks()).length;
      await look();
      await until(async () => sentence.test((await info()).problem), 'the sentence');
      const task1 = (await tasks()).find((one) => one.title === 'Order larch boards');
      await maren.patch(`/tasks/${task1?.id}`, { estimate: minutes });
      await until(async () => (await info()).outbox.failed === 1, 'a try that failed');
      const [entry] = (await maren.get<{ id: string; problem: string; state: string }[]>('/outbox')).body;
      expect(entry).toMatchObject({ state: 'waiting' });
      expect(entry?.problem).toMatch(sentence);
      await outside.act('/tracker/mood', { mood: 'well' });
      await maren.post(`/outbox/${entry?.id}/now`);
      await until(async () => (await card('BW-12'))?.estimate === minutes, 'the estimate there in the end');
      await look();
      await until(async () => (await info()).problem === '', 'health again');
      expect(await tasks()).toHaveLength(before);
    },
  );

  it('what is given up is not sent, and what the tracker has stands', async () => {
    const id = (await tasks()).find((one) => one.title === 'Order larch boards')?.id ?? '';
    await outside.act('/tracker/mood', { mood: 'error' });
    await maren.patch(`/tasks/${id}`, { title: 'Never to be sent' });
    const entry = await until(
      async () => (await maren.get<{ id: string; state: string }[]>('/outbox')).body.find((one) => one.state === 'waiting'),
      'an entry',
    );
    expect((await maren.post(`/outbox/${entry.id}/give-up`)).status).toBe(204);
    await outside.act('/tracker/mood', { mood: 'well' });
    await outside.act('/tracker/cards/BW-12', { comment: 'still the old title' });
    await look();
    await until(async () => (await task(id)).title === 'Order larch boards', 'the title of the tracker');
  });

  it('does not read private addresses unless the server allows it', async () => {
    const closed = await withOutside();
    closed.outside.stop();
    await closed.server.stop();
    const { startServer, Caller: Speaker } = await import('./harness');
    const strict = await startServer('empty', closed.server.data);
    try {
      const other = new Speaker(strict.url);
      await other.post('/session', { email: 'maren.holt@alderfen.example', password: 'ten letters at least' });
      for (const address of [
        `${outside.url}/tracker`,
        'http://localhost:1/',
        'http://[::1]/',
        'http://169.254.1.1/',
        'http://10.0.0.1',
        'file:///etc/hostname',
      ]) {
        const { status, body } = await other.post<{ error: { message: string } }>('/sources/look', {
          kind: 'feed',
          name: 'x',
          address,
        });
        expect(status).toBe(502);
        expect(body.error.message).toMatch(/private address|begin with http/);
      }
    } finally {
      await strict.stop();
      clear(closed.server.data);
    }
  });
});
