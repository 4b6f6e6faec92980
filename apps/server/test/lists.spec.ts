import type { ListInfo, TaskInfo, ViewInfo } from '@corvun/contract';
import { clear, firstAccount, startServer, type Caller, type Running } from './harness';

interface Refused {
  error: { code: string; message: string; fields?: Record<string, string> };
}

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

const lists = async () => (await maren.get<ListInfo[]>('/lists')).body;
const make = async (name: string, more: object = {}) => (await maren.post<{ id: string }>('/lists', { name, ...more })).body.id;
const one = async (id: string) => (await lists()).find((list) => list.id === id);
const undo = () => maren.post('/decisions/undo');
const task = async (id: string) => (await maren.get<TaskInfo>(`/tasks/${id}`)).body;
const add = async (list: string, ...lines: string[]) => (await maren.post<{ ids: string[] }>('/tasks', { lines, list })).body.ids;

describe('lists', () => {
  it('are made with a code and a hue that no other has, and changed field by field', async () => {
    const ids = await Promise.all(['Permits', 'Perches', 'Reading'].map((name) => make(name)));
    const made = await lists();
    expect(new Set(made.map((list) => list.code)).size).toBe(3);
    expect(new Set(made.map((list) => list.hue)).size).toBe(3);
    const fields = {
      name: 'Permits 2026',
      group: 'Trust',
      code: 'PX',
      hue: 9,
      project: true,
      outcome: 'All signed',
      ends: '2026-09-30',
      concentration: 'deep',
    };
    for (const [field, value] of Object.entries(fields)) await maren.patch(`/lists/${ids[0]}`, { [field]: value });
    await maren.patch(`/lists/${ids[0]}`, { defaultTag: '#Write' });
    expect(await one(ids[0] ?? '')).toMatchObject({ ...fields, defaultTag: 'write' });
    await undo();
    expect((await one(ids[0] ?? ''))?.defaultTag).toBeNull();
  });

  it.each([
    [{ code: 'PX' }, 'has the code PX already'],
    [{ hue: 9 }, 'has this hue already'],
    [{ name: 'permits 2026' }, 'There is a list “permits 2026” already'],
    [{ name: '  ' }, 'more than spaces'],
    [{ code: 'P' }, 'two letters or digits'],
    [{ ends: '2026-02-30' }, 'not a day in the calendar'],
  ])('refuses %j with a sentence', async (change, words) => {
    const id = (await lists()).find((list) => list.name === 'Reading')?.id ?? '';
    const { status, body } = await maren.patch<Refused>(`/lists/${id}`, change);
    expect(status).toBeGreaterThanOrEqual(400);
    expect(body.error.message).toContain(words);
  });

  it('stand in the order and the groups they are put in, as one doing', async () => {
    const before = (await lists()).map(({ id, group }) => ({ id, group }));
    await maren.post('/lists/order', { lists: [...before].reverse().map(({ id }, at) => ({ id, group: at ? 'Own' : 'Trust' })) });
    expect((await lists()).map(({ id }) => id)).toEqual(before.map(({ id }) => id).reverse());
    expect((await lists()).map(({ group }) => group)).toEqual(['Trust', 'Own', 'Own']);
    await undo();
    expect((await lists()).map(({ id, group }) => ({ id, group }))).toEqual(before);
    expect((await maren.post<Refused>('/lists/order', { lists: [{ id: 'nobody', group: '' }] })).status).toBe(422);
  });

  it('give new tasks their tag and their kind of work', async () => {
    const id = await make('Calls');
    await maren.patch(`/lists/${id}`, { defaultTag: 'call', concentration: 'light' });
    const [first = '', second = ''] = await add(id, 'Ring the county', 'Ring the fund #money');
    expect(await task(first)).toMatchObject({ tags: ['call'], concentration: 'light' });
    expect((await task(second)).tags).toEqual(['money', 'call']);
    const { made } = (await maren.post<{ made: { id: string }[] }>('/captures', { text: 'Ring the seed shop >Calls' })).body;
    expect((await task(made[0]?.id ?? '')).tags).toEqual(['call']);
  });

  it('are put away with what is on them, offered no more, and brought back', async () => {
    const id = await make('Winter');
    const [kept = ''] = await add(id, 'Mend the nets');
    await maren.patch(`/lists/${id}`, { archived: true });
    expect((await one(id))?.archived).toBe(true);
    const captured = await maren.post<{ kind: string; title: string }>('/captures', { text: 'Tar the boat >Winter tomorrow' });
    expect(captured.body.title).toContain('Winter');
    expect((await task(kept)).listId).toBe(id);
    await maren.patch(`/lists/${id}`, { archived: false });
    expect((await one(id))?.archived).toBe(false);
  });

  it('go, and their tasks go where it is said', async () => {
    const other = await make('Field season');
    for (const [tasks, listId, status] of [
      ['keep', null, 'NEEDS-ACTION'],
      ['drop', null, 'CANCELLED'],
      [other, other, 'NEEDS-ACTION'],
    ] as const) {
      const id = await make('Short');
      const [first = ''] = await add(id, 'Count the poles');
      await maren.remove(`/lists/${id}?tasks=${tasks}`);
      expect(await one(id)).toBeUndefined();
      expect(await task(first)).toMatchObject({ listId, status });
      await undo();
      expect(await task(first)).toMatchObject({ listId: id, status: 'NEEDS-ACTION' });
      await maren.remove(`/lists/${id}?tasks=drop`);
    }
    expect((await maren.remove<Refused>(`/lists/${other}?tasks=${other}`)).body.error.message).toContain('Say which list');
  });
});

describe('tasks out of a list, and in again', () => {
  const out = async (ids: string[], format: string) => (await maren.call<string>('POST', '/api/tasks/out', { ids, format })).body;

  it('are written in the order given, steps below their task', async () => {
    const id = await make('Poles');
    const [first = '', second = ''] = await add(id, 'Count the poles ++ tomorrow by Friday 30 min #site', 'Oil the tools');
    const { ids: steps } = (await maren.post<{ ids: string[] }>('/tasks', { lines: ['North bank'], parent: first })).body;
    await maren.patch(`/tasks/${second}`, { status: 'COMPLETED' });
    const ids = [first, ...steps, second, 'nobody'];
    expect(await out(ids, 'md')).toBe(
      '- [ ] Count the poles #site {by 2026-08-07 | on 2026-08-04 | high}\n  - [ ] North bank\n- [x] Oil the tools {done 2026-08-03}\n',
    );
    expect(await out(ids, 'text')).toBe(
      '[ ] Count the poles (due Fri 7 Aug, Tue 4 Aug, 30 min)\n    [ ] North bank\n[x] Oil the tools\n',
    );
    const other = await make('Nets');
    const [net = ''] = await add(other, 'Mend the nets');
    expect(await out([first, net], 'md')).toMatch(/^## Poles\n\n- \[ \] Count .*\n\n## Nets\n\n- \[ \] Mend the nets\n$/);
    expect((await maren.post('/tasks/out', { ids, format: 'pdf' })).status).toBe(400);
  });

  it.each(['csv', 'ics', 'md'])('as .%s are read in again', async (format) => {
    const id = await make(`From ${format}`);
    const [first = ''] = await add(id, 'Paint the hut ++ by 14 August #site');
    const text = await out([first], format);
    await maren.patch(`/tasks/${first}`, { status: 'CANCELLED' });
    const form = new FormData();
    form.append('files', new Blob([text]), `tasks.${format}`);
    const report = (await maren.post<{ taken: number; refused: unknown[] }>('/import', form)).body;
    expect([report.taken, report.refused]).toEqual([1, []]);
    const read = (await maren.get<TaskInfo[]>('/tasks')).body.filter((one) => one.title === 'Paint the hut').at(-1);
    expect(read).toMatchObject({ priority: 'high', deadline: '2026-08-14', tags: ['site'] });
    // A Markdown list of one list does not name it.
    expect(read?.listId).toBe(format === 'md' ? null : id);
  });
});

describe('views that are kept', () => {
  it('have a name of their own, and are changed and taken away', async () => {
    const { id } = (await maren.post<{ id: string }>('/views', { name: 'Calls I can make', query: 'find=%23call' })).body;
    expect((await maren.post<Refused>('/views', { name: 'calls i can make', query: '' })).body.error.message).toContain(
      'already',
    );
    await maren.patch(`/views/${id}`, { query: 'find=%23call&sort=age' });
    expect((await maren.get<ViewInfo[]>('/views')).body).toMatchObject([
      { name: 'Calls I can make', query: 'find=%23call&sort=age' },
    ]);
    await maren.remove(`/views/${id}`);
    expect((await maren.get<ViewInfo[]>('/views')).body).toEqual([]);
    await undo();
    expect((await maren.get<ViewInfo[]>('/views')).body).toHaveLength(1);
  });
});
