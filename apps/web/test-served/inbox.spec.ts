import type { IncomingLine } from '@corvun/contract';
import { applyIncoming, arrived, putBack, takeOut } from '../src/data/inbox';
import { client, type InboxPage, type Order } from '../src/data/queries';
import { ServerProcess, clear, demoFolder } from '../../../testing/server';

const PAGE = 12;
const data = demoFolder();
let server: ServerProcess;
const realFetch = globalThis.fetch;

/** The page of a browser: addresses without a host are those of the server, and the user is signed in. */
beforeAll(async () => {
  server = await ServerProcess.start(data, { CORVUN_DEMO: '1' });
  const headers = { Authorization: `Bearer ${server.token()}` };
  globalThis.fetch = (address, options) =>
    realFetch(new URL(address as string, server.url), { ...options, headers: { ...(options?.headers as object), ...headers } });
});

afterAll(async () => {
  globalThis.fetch = realFetch;
  await server.kill();
  clear(data);
});

const ask = async <T>(path: string, body?: object): Promise<T> => {
  const post = { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) };
  return (await (await fetch(`/api${path}`, body ? post : {})).json()) as T;
};
const page = (order: Order, cursor = '', limit = PAGE) =>
  ask<InboxPage>(`/incoming?state=waiting&order=${order}&limit=${limit}${cursor ? `&cursor=${cursor}` : ''}`);

/** Loads the first pages, as the stack does. */
async function load(order: Order, pages: number): Promise<void> {
  const all = [await page(order)];
  while (all.length < pages) all.push(await page(order, all.at(-1)?.next ?? ''));
  client.setQueryData(['inbox', 'state=waiting', order], { pages: all, pageParams: all.map(() => '') });
}

const shown = (order: Order): { lines: IncomingLine[]; total: number | undefined } => {
  const held = client.getQueryData<{ pages: InboxPage[] }>(['inbox', 'state=waiting', order]);
  return { lines: held?.pages.flatMap((one) => one.items) ?? [], total: held?.pages[0]?.total };
};
const ids = (lines: readonly IncomingLine[]) => lines.map((line) => line.id);

/** What is shown is the beginning of what waits on the server, and the number is right. */
async function expectTrue(order: Order): Promise<void> {
  const { lines, total } = shown(order);
  const real = await page(order, '', 500);
  expect([ids(lines), total]).toEqual([ids(real.items.slice(0, lines.length)), real.total]);
}

const decide = (some: readonly string[]) => ask('/decisions', { incoming: some, to: 'drop' });
const capture = async (text: string) => (await ask<{ id: string }>('/captures', { text, inbox: true })).id;

describe('the pages of the inbox', () => {
  beforeEach(async () => {
    await load('oldest', 2);
    await load('newest', 1);
  });

  it('lose a line at once when it is decided, and are right when the server has answered', async () => {
    const [first, second] = ids(shown('oldest').lines);
    const before = shown('oldest');
    takeOut([first ?? '', second ?? '']);
    expect([ids(shown('oldest').lines), shown('oldest').total]).toEqual([ids(before.lines).slice(2), (before.total ?? 0) - 2]);
    await decide([first ?? '', second ?? '']);
    await arrived([first ?? '', second ?? '']);
    await expectTrue('oldest');
    await expectTrue('newest');
  });

  it('have a line back in its place when the decision was refused, also while the server says the old state', async () => {
    const line = shown('oldest').lines[4] as IncomingLine;
    const before = shown('oldest');
    takeOut([line.id]);
    // Something else asks for it meanwhile: it stays away until it is known what became of it.
    await applyIncoming([line.id]);
    expect(ids(shown('oldest').lines)).not.toContain(line.id);
    putBack([line]);
    expect(shown('oldest')).toEqual(before);
    await expectTrue('oldest');
  });

  it('have what comes in in its place: at the end where the newest are loaded, not behind what is not loaded yet', async () => {
    const id = await capture('A fresh thought');
    await applyIncoming([id]);
    expect(ids(shown('oldest').lines)).not.toContain(id);
    expect(ids(shown('newest').lines)[0]).toBe(id);
    expect(shown('oldest').total).toBe(shown('newest').total);
    await expectTrue('oldest');
    await expectTrue('newest');
  });

  it('have back what was taken back', async () => {
    const [, , third] = ids(shown('oldest').lines);
    takeOut([third ?? '']);
    await decide([third ?? '']);
    await arrived([third ?? '']);
    expect(ids(shown('oldest').lines)).not.toContain(third);
    await ask('/decisions/undo', {});
    await applyIncoming([third ?? '']);
    expect(ids(shown('oldest').lines)).toContain(third);
    await expectTrue('oldest');
  });

  it('ask once for what is asked for in one go, and again for what comes while the answer is on its way', async () => {
    const asked: string[] = [];
    const counted = globalThis.fetch;
    globalThis.fetch = (address, options) => {
      asked.push(address as string);
      return counted(address, options);
    };
    const [a = '', b = '', c = ''] = ids(shown('oldest').lines);
    const both = [applyIncoming([a]), applyIncoming([b])];
    await new Promise((resolve) => setTimeout(resolve));
    const later = applyIncoming([c]);
    await Promise.all([...both, later]);
    globalThis.fetch = counted;
    expect(asked.map(decodeURIComponent)).toEqual([`/api/incoming?ids=${a},${b}`, `/api/incoming?ids=${c}`]);
  });
});
