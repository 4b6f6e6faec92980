import type { TaskInfo } from '@corvun/contract';
import { ServerProcess, clear, demoFolder } from '../../../testing/server';
import { forget, keep, read, refresh, sendKept, write, type Kept } from '../src/desk';

/** What of a browser the desk uses: a store that outlives its windows, and locks between them. */
function browser(): void {
  const store = new Map<string, string>();
  const local = {
    get: (defaults: Record<string, unknown>) =>
      Promise.resolve(
        Object.fromEntries(
          Object.entries(defaults).map(([key, value]) => [key, store.has(key) ? JSON.parse(store.get(key) ?? '') : value]),
        ) as object,
      ),
    set: (patch: Record<string, unknown>) => {
      for (const [key, value] of Object.entries(patch)) store.set(key, JSON.stringify(value));
      return Promise.resolve();
    },
  };
  let last: Promise<unknown> = Promise.resolve();
  const request = <T>(_name: string, work: () => Promise<T>): Promise<T> => {
    const run = last.then(work);
    last = run.catch(() => undefined);
    return run;
  };
  Object.assign(globalThis, { chrome: { storage: { local } } });
  Object.defineProperty(globalThis, 'navigator', { value: { locks: { request } }, configurable: true });
}

const data = demoFolder();
let server: ServerProcess;
const call = async <T>(path: string): Promise<T> =>
  (await (await fetch(`${server.url}/api${path}`, { headers: { Authorization: `Bearer ${server.token()}` } })).json()) as T;
const capture = (id: string, text: string): Kept => ({ id, what: 'capture', input: { text } });
const titled = async (title: string) => (await call<TaskInfo[]>('/tasks')).filter((task) => task.title === title);

beforeAll(async () => {
  browser();
  server = await ServerProcess.start(data, { CORVUN_DEMO: '1' });
  await write({ link: { server: server.url, token: server.token() } });
});

afterAll(async () => {
  await server.kill();
  clear(data);
});

describe('what is kept in the browser', () => {
  it('is sent at once where the server answers, and says what became of it', async () => {
    expect(await keep(capture('line-a-0001', 'Sharpen the scythe tomorrow'))).toEqual({
      sentence: expect.stringContaining('“Sharpen the scythe”') as string,
      waits: false,
    });
    expect([(await read()).kept, (await titled('Sharpen the scythe')).length]).toEqual([[], 1]);
  });

  it('is taken once, however often it is sent', async () => {
    const line = capture('line-b-0001', 'Count the swallows tomorrow');
    await keep(line);
    await write({ kept: [line] });
    expect((await sendKept()).get('line-b-0001')).toBe('It is there.');
    expect([(await read()).kept, (await titled('Count the swallows')).length]).toEqual([[], 1]);
  });

  it('ticks a task off, also one that is gone meanwhile', async () => {
    const [task] = await titled('Count the swallows');
    const done = await keep({ id: 'tick-0001', what: 'finish', taskId: task?.id ?? '', title: 'x' });
    expect(done).toEqual({ sentence: '“Count the swallows” is done', waits: false });
    const gone = await keep({ id: 'tick-0002', what: 'finish', taskId: 'nowhere', title: 'x' });
    expect(gone).toEqual({ sentence: 'It is no longer there.', waits: false });
  });

  it('stays where the server cannot take it, with the reason, until it is taken away; others go on', async () => {
    const bad = await keep(capture('line-c-0001', '#tag'));
    expect(bad.waits).toBe(true);
    expect((await keep(capture('line-c-0002', 'Whet the blades tomorrow'))).waits).toBe(false);
    expect((await read()).kept.map((one) => one.id)).toEqual(['line-c-0001']);
    expect((await read()).problem).not.toBe('');
    await forget('line-c-0001');
    expect(await read()).toMatchObject({ kept: [], problem: '' });
  });

  it('waits for a token that opens the door', async () => {
    await write({ link: { server: server.url, token: 'wrong' } });
    const { waits } = await keep(capture('line-d-0001', 'Mend the net tomorrow'));
    expect([waits, (await refresh()).problem]).toEqual([true, expect.stringMatching(/\w/) as string]);
    await write({ link: { server: server.url, token: server.token() } });
    expect((await sendKept()).has('line-d-0001')).toBe(true);
  });

  it('waits in order while the server is away, is sent once when it is back; what was shown stays', async () => {
    const { today } = await refresh();
    expect(today?.me.name).toBe('Maren Holt');
    expect(today?.tasks.length).toBeGreaterThan(3);
    await server.kill();
    for (const at of [1, 2, 3]) expect((await keep(capture(`line-e-000${at}`, `Away ${at} tomorrow`))).waits).toBe(true);
    expect(await refresh()).toEqual({ today, away: true, problem: '' });
    server = await ServerProcess.start(data, { CORVUN_DEMO: '1', ...server.samePorts });
    expect([...(await sendKept()).keys()]).toEqual(['line-e-0001', 'line-e-0002', 'line-e-0003']);
    for (const at of [1, 2, 3]) expect(await titled(`Away ${at}`)).toHaveLength(1);
  });
});
