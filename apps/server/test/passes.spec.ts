import type { DayOutline, Done, OutboxInfo, PassInfo, PassState, TaskInfo } from '@corvun/contract';
import { ownServer, until } from './harness';

// It is Monday, 3 August 2026, 10:50 in Vienna.
const here = ownServer('test');
const task = async (line: string, change: object = {}) => {
  const id = (await here.maren.post<{ ids: string[] }>('/tasks', { lines: [line] })).body.ids[0] ?? '';
  if (Object.keys(change).length) await here.maren.patch(`/tasks/${id}`, change);
  return id;
};
const state = async () => (await here.maren.get<PassState>('/passes')).body;
const begin = async (kind: string) => (await here.maren.post<PassInfo>('/passes', { kind })).body;
const change = async (id: string, body: object) => here.maren.patch<PassInfo>(`/passes/${id}`, body);
const outline = async (day?: string) => (await here.maren.get<DayOutline>(`/days/outline${day ? `?day=${day}` : ''}`)).body;
const tasks = async () => (await here.maren.get<TaskInfo[]>('/tasks')).body;

describe('the outline of a day', () => {
  it('says what comes in order and what it needs, what is at risk and what stayed open', async () => {
    await here.maren.post('/events', { title: 'Site walk', start: '2026-08-03T13:00', minutes: 60, location: 'Gate 3' });
    const figures = await task('Grant figures 1h today');
    await here.maren.post('/blocks', { taskId: figures, start: '2026-08-03T15:00', minutes: 60 });
    await task('Sign the timesheets 10 min today');
    await task('Count posts', { plannedDay: '2026-07-31' });
    await task('Order decking', { plannedWeek: '2026-W31' });
    await task('Permit', { estimate: 600, deadline: '2026-08-03', deadlineFixed: true });
    await here.maren.patch('/days', { day: '2026-08-03', picks: [figures] });
    const { lines, text } = await outline();
    const of = (part: string) => lines.filter((line) => line.part === part).map(({ text: said }) => said);
    expect(of('time')).toEqual(['Site walk', 'Grant figures']);
    expect(of('matters')).toEqual(['Grant figures']);
    expect(of('task')).toEqual(['Sign the timesheets']);
    expect(of('left')).toEqual(['Order decking', 'Count posts']);
    expect(of('risk')).toEqual(['Permit']);
    expect(text).toContain('Mon 3 Aug\n1 h with others, 1 h 10 of your own work;');
    expect(text).toContain('- 13:00 – 14:00  Site walk (Gate 3)');
    expect((await outline('2026-08-08')).text).toMatch(/^Sat 8 Aug\nNo working time\n/);
    expect((await here.maren.get('/days/outline?day=2026-02-30')).status).toBe(400);
  });

  it('is mailed at a set time on chosen weekdays, once', async () => {
    await task('Sign the timesheets 10 min today');
    const mails = async () =>
      (await here.maren.get<OutboxInfo[]>('/outbox')).body.filter(({ what }) => what.startsWith('Your day'));
    await here.maren.patch('/settings', { day: { mailAt: '10:45', mailDays: [2, 3] } });
    await here.maren.patch('/settings', { day: { mailDays: [1, 2] } });
    await until(async () => (await mails())[0], 'the outline is mailed');
    await here.maren.patch('/settings', { day: { mailAt: '10:46' } });
    await here.maren.patch('/settings', { day: { mailAt: '10:47' } });
    expect((await mails()).map(({ what }) => what)).toEqual(['Your day: Mon 3 Aug']);
    const refused = await here.maren.patch<{ error: { fields: object } }>('/settings', { day: { mailAt: '7:30' } });
    expect([refused.status, JSON.stringify(refused.body)]).toEqual([400, expect.stringContaining('Write the time as HH:MM.')]);
  });
});

describe('a pass', () => {
  it('is gone on with where one stands, in another window, too; a second one leaves the first', async () => {
    expect((await state()).running).toBeNull();
    const pass = await begin('open-day');
    await change(pass.id, { step: 'left', notes: { mind: 2 } });
    expect((await begin('open-day')).id).toBe(pass.id);
    expect((await state()).running).toMatchObject({ id: pass.id, step: 'left', notes: { mind: 2 }, day: '2026-08-03' });
    const other = await begin('close-day');
    expect((await state()).running?.id).toBe(other.id);
    const over = await change(pass.id, { step: 'matter' });
    expect([over.status, over.body]).toMatchObject([409, { error: { code: 'not-running' } }]);
    expect((await here.maren.post('/passes', { kind: 'nap' })).status).toBe(400);
  });

  it('opens the day and closes it; what was done in it is taken back as one, what was done before stays', async () => {
    const before = await task('Paint the hut');
    const [again, drop] = [await task('Count posts', { plannedDay: '2026-07-31' }), await task('Old idea')];
    // What was done in the same millisecond would count to the pass.
    for (const since = Date.now(); Date.now() === since;);
    const pass = await begin('open-day');
    await here.maren.patch(`/tasks/${again}`, { plannedDay: '2026-08-03' });
    await here.maren.patch(`/tasks/${drop}`, { status: 'CANCELLED' });
    await here.maren.patch('/days', { day: '2026-08-03', picks: [again] });
    expect((await change(pass.id, { state: 'done' })).body).toMatchObject({ state: 'done' });
    const { today, running } = await state();
    expect(running).toBeNull();
    expect(today).toMatchObject({ picks: [again], closed: null });
    expect(today.opened).toMatch(/^2026-08-03T10:5/);
    const closing = await begin('close-day');
    await change(closing.id, { state: 'done' });
    expect((await state()).today.closed).toMatch(/^2026-08-03T10:5/);

    await here.maren.patch(`/tasks/${drop}`, { status: 'COMPLETED' });
    const { body } = await here.maren.post<Done>(`/passes/${pass.id}/undo`);
    expect(body.sentence).toBe('The pass is taken back, 3 things in all; 1 thing was changed since and stays');
    const open = (await tasks()).map(({ title, plannedDay }) => [title, plannedDay]);
    expect(open).toContainEqual(['Count posts', '2026-07-31']);
    expect((await tasks()).find(({ id }) => id === drop)?.status).toBe('COMPLETED');
    expect((await tasks()).some(({ id }) => id === before)).toBe(true);
    const nothing = await here.maren.post(`/passes/${(await begin('close-day')).id}/undo`);
    expect([nothing.status, nothing.body]).toMatchObject([409, { error: { code: 'nothing-to-undo' } }]);
  });

  it('what matters is there, each thing once; what is not there is refused', async () => {
    const id = await task('Count posts');
    const { body } = await here.maren.patch<Done>('/days', { day: '2026-08-04', picks: [id, id] });
    expect(body.sentence).toBe('“Count posts” matters most on Tue 4 Aug');
    expect((await here.maren.patch('/days', { day: '2026-08-04', picks: ['nobody'] })).status).toBe(404);
    expect((await outline('2026-08-04')).lines.filter(({ part }) => part === 'matters')).toHaveLength(1);
    await here.maren.post('/decisions/undo');
    expect((await outline('2026-08-04')).lines.filter(({ part }) => part === 'matters')).toHaveLength(0);
  });
});
