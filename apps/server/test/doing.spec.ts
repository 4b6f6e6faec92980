import type { AgendaEntry, Done, ProjectInfo, TaskFull } from '@corvun/contract';
import { ownServer } from './harness';

// It is Monday, 3 August 2026, 10:50 in Vienna.
const here = ownServer('test');
const task = async (line: string, change: object = {}, list?: string) => {
  const { ids } = (await here.maren.post<{ ids: string[] }>('/tasks', { lines: [line], ...(list ? { list } : {}) })).body;
  const id = ids[0] ?? '';
  if (Object.keys(change).length) await here.maren.patch(`/tasks/${id}`, change);
  return id;
};
const full = async (id: string) => (await here.maren.get<TaskFull>(`/tasks/${id}`)).body;
const list = async (name: string, project: boolean) =>
  (await here.maren.post<{ id: string }>('/lists', { name, project })).body.id;
const progress = async (id: string) => (await here.maren.get<ProjectInfo[]>('/projects')).body.find((one) => one.listId === id);
const blocks = async () =>
  (await here.maren.get<{ entries: AgendaEntry[] }>('/agenda?from=2026-08-03&days=1')).body.entries.filter(
    ({ kind }) => kind === 'block',
  );

describe('beginning a task', () => {
  it('puts it under way and gives it the next minutes, once; undo takes both back', async () => {
    const id = await task('Call the seed merchant', { shelved: true, plannedWeek: '2026-W36' });
    const { body } = await here.maren.post<Done>(`/tasks/${id}/beginning`, { minutes: 25 });
    expect(body.sentence).toMatch(/^“Call the seed merchant” is begun, until 11:1\d$/);
    expect(await full(id)).toMatchObject({ status: 'IN-PROCESS', plannedDay: '2026-08-03', estimate: 25, shelved: false });
    await here.maren.post(`/tasks/${id}/beginning`, { minutes: 60 });
    expect(await blocks()).toHaveLength(1);
    expect((await here.maren.post(`/tasks/${id}/beginning`, { minutes: 0 })).status).toBe(400);
    await here.maren.post('/decisions/undo');
    expect(await blocks()).toEqual([]);
    expect(await full(id)).toMatchObject({ status: 'NEEDS-ACTION', shelved: true, plannedWeek: '2026-W36' });
    await here.maren.patch(`/tasks/${id}`, { status: 'COMPLETED' });
    expect((await here.maren.post(`/tasks/${id}/beginning`, { minutes: 25 })).body).toMatchObject({
      error: { code: 'bad-field', fields: { status: expect.stringContaining('done already') as string } },
    });
  });
});

describe('a better estimate', () => {
  it('is offered from what tasks of the list took, and never changes the figure itself', async () => {
    const field = await list('Field season', false);
    for (const minutes of [30, 30, 60, 40, 60])
      await task(`Plot ${minutes}`, { estimate: minutes, spent: minutes * 1.5, status: 'COMPLETED' }, field);
    const id = await task('Count the orchids 1h', {}, field);
    expect(await full(id)).toMatchObject({ estimate: 60, better: { minutes: 90, ratio: 1.5, count: 5, like: 'list' } });
    await here.maren.patch(`/tasks/${id}`, { estimate: 90 });
    expect((await full(id)).better).toMatchObject({ minutes: 135 });
    expect((await full(await task('Somewhere else 1h'))).better).toBeNull();
  });
});

describe('a project', () => {
  it('says how far it is, what comes next, and when it is stalled', async () => {
    const id = await list('Boardwalk repair', true);
    expect(await progress(await list('Reading', false))).toBeUndefined();
    expect(await progress(id)).toMatchObject({ done: 0, open: 0, next: null, stalled: '' });
    await task('Order decking', { waitingOn: 'Jonas', estimate: 30 }, id);
    expect(await progress(id)).toMatchObject({ open: 1, next: null, stalled: 'It has no step that can be done now.' });
    await task('Close the walk', { notBefore: '2026-08-10', estimate: 15 }, id);
    const measure = await task('Measure the span', { estimate: 60 }, id);
    const paint = await task('Paint', { estimate: 120 }, id);
    expect(await progress(id)).toMatchObject({ open: 4, minutesLeft: 225, next: { id: measure }, stalled: '' });
    await here.maren.patch(`/tasks/${measure}`, { status: 'COMPLETED', spent: 75 });
    expect(await progress(id)).toMatchObject({ done: 1, open: 3, minutesDone: 75, minutesLeft: 165, next: { id: paint } });
    expect((await progress(id))?.lastDone).toMatch(/^2026-08-03T10:5/);
  });
});
