import type {
  Captured,
  DayInfo,
  DecksPreview,
  Done,
  ListInfo,
  PassInfo,
  PassState,
  Proposal,
  TaskFull,
  TaskInfo,
} from '@corvun/contract';
import { ownServer } from './harness';

// It is Monday, 3 August 2026, 10:50 in Vienna.
const here = ownServer('test');
const task = async (line: string, change: object = {}) => {
  const id = (await here.maren.post<{ ids: string[] }>('/tasks', { lines: [line] })).body.ids[0] ?? '';
  if (Object.keys(change).length) await here.maren.patch(`/tasks/${id}`, change);
  return id;
};
const state = async () => (await here.maren.get<PassState>('/passes')).body;
const begin = async (kind: string) => (await here.maren.post<PassInfo>('/passes', { kind })).body;
const full = async (id: string) => (await here.maren.get<TaskFull>(`/tasks/${id}`)).body;
const tasks = async () => (await here.maren.get<TaskInfo[]>('/tasks')).body;
const undo = async () => here.maren.post('/decisions/undo');

describe('a task that is too big', () => {
  it('is broken down in one step: what it is made of, how long that takes, why it stayed open, and when the first begins', async () => {
    const id = await task('Repair the boardwalk', { estimate: 360, plannedDay: '2026-07-30', concentration: 'deep' });
    await here.maren.post('/tasks', { lines: ['Ask Jonas'], parent: id });
    const { body, status } = await here.maren.post<Done>(`/tasks/${id}/steps`, {
      steps: [
        { title: ' Measure the span ', minutes: 45 },
        { title: 'Order decking', minutes: null },
      ],
      start: '2026-08-04T09:00',
      change: { leftOpen: 'too-big', plannedWeek: '2026-W32' },
    });
    expect([status, body.sentence]).toEqual([
      200,
      '“Repair the boardwalk” has 2 more steps; the first has time on Tue 4 Aug at 9:00',
    ]);
    const broken = await full(id);
    expect(broken).toMatchObject({ leftOpen: 'too-big', plannedWeek: '2026-W32', plannedDay: null });
    expect(broken.history.map(({ what }) => what).join(' ')).toContain('not finished, too big');
    expect(broken.steps.map(({ title, estimate, plannedDay }) => [title, estimate, plannedDay])).toEqual([
      ['Ask Jonas', null, null],
      ['Measure the span', 45, '2026-08-04'],
      ['Order decking', null, null],
    ]);
    expect(broken.steps[1]?.blocks.map(({ start, end }) => [start, end])).toEqual([
      ['2026-08-04T09:00:00+02:00', '2026-08-04T09:45:00+02:00'],
    ]);
    await undo();
    expect(await full(id)).toMatchObject({ leftOpen: null, plannedDay: '2026-07-30', steps: [{ title: 'Ask Jonas' }] });
  });

  it('what stands in its way comes before its steps; what cannot be is refused and changes nothing', async () => {
    const id = await task('Print the signs');
    await here.maren.post('/tasks', { lines: ['Choose paper'], parent: id });
    const steps = [{ title: 'Get the permit', minutes: null }];
    await here.maren.post(`/tasks/${id}/steps`, { steps, before: true, change: { leftOpen: 'blocked' } });
    const { steps: now } = await full(id);
    expect(now.map(({ title }) => title)).toEqual(['Get the permit', 'Choose paper']);
    const refusals = [
      await here.maren.post(`/tasks/${id}/steps`, { steps: [] }),
      await here.maren.post(`/tasks/${id}/steps`, { steps: [{ title: '  ', minutes: 5 }] }),
      await here.maren.post(`/tasks/${id}/steps`, { steps: [{ title: 'x', minutes: 0 }] }),
      await here.maren.post(`/tasks/${id}/steps`, { steps, start: 'soon' }),
      await here.maren.post(`/tasks/${id}/steps`, { steps, change: { list: null } }),
      await here.maren.post(`/tasks/${id}/steps`, { steps, change: { leftOpen: 'boring' } }),
    ];
    expect(refusals.map((one) => one.status)).toEqual([400, 400, 400, 400, 422, 400]);
    expect((await full(id)).steps).toHaveLength(2);
    const deep = await here.maren.post<{ error: { message: string } }>(`/tasks/${now[0]?.id}/steps`, { steps });
    const below = (await full(id)).steps.find(({ parentId }) => parentId === now[0]?.id);
    expect(deep.status).toBe(200);
    expect((await here.maren.post(`/tasks/${below?.id}/steps`, { steps })).status).toBe(422);
  });
});

describe('clearing the decks', () => {
  it('the rest goes to the shelf in one step, with its steps, and its time is free again', async () => {
    const kept = {
      picked: await task('Grant figures'),
      promised: await task('County data', { deadline: '2026-08-20', deadlineFixed: true }),
      waiting: await task('Quote', { waitingOn: 'Jonas Brandl' }),
      repeats: await task('Timesheets', { repeat: 'FREQ=WEEKLY', plannedDay: '2026-08-05' }),
    };
    const wish = await task('Tidy the shed', { deadline: '2026-08-20', plannedDay: '2026-08-04' });
    const parent = await task('Signs');
    const step = (await here.maren.post<{ ids: string[] }>('/tasks', { lines: ['Paper'], parent })).body.ids[0] ?? '';
    await here.maren.post('/blocks', { taskId: wish, start: '2026-08-04T14:00', minutes: 90 });
    await here.maren.patch('/shortlist', { picks: [kept.picked] });
    const { body: preview } = await here.maren.get<DecksPreview>('/shortlist/rest');
    expect(preview.goes).toBe(2);
    expect(Object.fromEntries(preview.stays.map(({ title, why }) => [title, why]))).toEqual({
      ...{ 'Grant figures': 'picked', 'County data': 'promised', Quote: 'waiting', Timesheets: 'repeats' },
    });
    const { body } = await here.maren.post<Done>('/shortlist/rest', { lookAgain: '2026-08-31' });
    expect(body.sentence).toBe('2 tasks on the shelf until Mon 31 Aug; 1 h 30 of your time is free again');
    const shelved = (await tasks()).filter((one) => one.shelved);
    expect(shelved.map(({ id }) => id).sort()).toEqual([wish, parent, step].sort());
    expect(shelved.every(({ lookAgain, plannedDay }) => lookAgain === '2026-08-31' && plannedDay === null)).toBe(true);
    const again = await here.maren.post('/shortlist/rest', {});
    expect([again.status, again.body]).toMatchObject([409, { error: { code: 'nothing-to-shelve' } }]);
    expect((await here.maren.post('/shortlist/rest', { lookAgain: '2026-08-01' })).status).toBe(422);
    await undo();
    expect((await tasks()).filter((one) => one.shelved)).toEqual([]);
    expect((await full(wish)).blocks).toHaveLength(1);
  });

  it('what is on the shortlist gets a day each, at a time that is free', async () => {
    const picks = [
      await task('Grant figures', { estimate: 120, concentration: 'deep' }),
      await task('Call the landowner', { estimate: 30 }),
      await task('Order seed', { estimate: 30, deadline: '2026-08-05' }),
    ];
    await here.maren.post('/events', { title: 'Site walk', start: '2026-08-04T09:00', minutes: 240 });
    await here.maren.patch('/shortlist', { picks });
    const { body: plan } = await here.maren.get<Proposal>('/plan/proposal?from=2026-08-04&days=3&what=shortlist');
    expect(plan.blocks.map(({ title, start }) => [title, start.slice(0, 10)])).toEqual([
      ['Order seed', '2026-08-04'],
      ['Grant figures', '2026-08-05'],
      ['Call the landowner', '2026-08-06'],
    ]);
    expect(Date.parse(plan.blocks[0]?.start ?? '')).toBeGreaterThanOrEqual(Date.parse('2026-08-04T13:00:00+02:00'));
    expect(plan.without).toEqual([]);
    const two = await here.maren.get<Proposal>('/plan/proposal?from=2026-08-04&days=2&what=shortlist');
    expect(two.body.without).toMatchObject([{ title: 'Call the landowner', reason: 'Every day has one already.' }]);

    await here.maren.post('/plan/taking', {
      blocks: plan.blocks.slice(0, 1).map(({ taskId, start, minutes }) => ({ taskId, start, minutes })),
    });
    const rest = await here.maren.get<Proposal>('/plan/proposal?from=2026-08-04&days=3&what=shortlist');
    expect([rest.body.stays, rest.body.blocks.map(({ start }) => start.slice(0, 10))]).toEqual([1, ['2026-08-05', '2026-08-06']]);
  });

  it('what others were promised meanwhile is not planned over', async () => {
    const id = await task('Order seed', { estimate: 30 });
    await here.maren.post('/events', { title: 'Site walk', start: '2026-08-04T09:00', minutes: 60 });
    const block = { taskId: id, start: '2026-08-04T09:30', minutes: 60 };
    const refused = await here.maren.post<{ error: { message: string } }>('/plan/taking', { blocks: [block] });
    expect([refused.status, refused.body.error.message]).toEqual([
      422,
      '“Site walk” is there by now, Tue 4 Aug at 9:00. Work the plan out again.',
    ]);
    expect((await full(id)).blocks).toEqual([]);
    const after = await here.maren.post('/plan/taking', { blocks: [{ ...block, start: '2026-08-04T10:00' }] });
    expect(after.status).toBe(200);
  });

  it('a project that is gone on with shows three steps that can be done now', async () => {
    const { id: list } = (await here.maren.post<{ id: string }>('/lists', { name: 'Hide at the pond' })).body;
    await here.maren.patch(`/lists/${list}`, { project: true });
    const lines = ['Draw it', 'Ask for wood', 'Wait for frost', 'Dig', 'Roof'];
    const { ids } = (await here.maren.post<{ ids: string[] }>('/tasks', { lines, list })).body;
    await here.maren.patch(`/tasks/${ids[2]}`, { notBefore: '2026-11-01' });
    await here.maren.post('/tasks/change', { ids, change: { shelved: true } });
    const { body } = await here.maren.patch<Done>('/shortlist', { projects: [list] });
    expect(body.sentence).toBe('“Hide at the pond” is gone on with');
    const seen = (await tasks()).filter(({ shelved }) => !shelved).map(({ title }) => title);
    expect(seen).toEqual(['Draw it', 'Ask for wood', 'Dig']);
    expect((await state()).shortlist).toEqual({ picks: [], projects: [list], quietUntil: null });
    const lists = (await here.maren.get<ListInfo[]>('/lists')).body;
    const plain = lists.find(({ id }) => id !== list)?.id ?? 'none';
    expect((await here.maren.patch('/shortlist', { projects: [plain] })).status).toBe(404);
    expect((await here.maren.patch('/shortlist', { picks: ['nobody'] })).status).toBe(404);
    expect((await here.maren.patch('/shortlist', {})).status).toBe(422);
  });

  it('in a quiet week what is typed only goes to the inbox, unless it is said otherwise, and that is said', async () => {
    const line = 'Order seed tomorrow 9:30 for 20 min';
    const capture = async (more: object = {}) => (await here.maren.post<Captured>('/captures', { text: line, ...more })).body;
    expect((await capture()).kind).toBe('block');
    await here.maren.patch('/shortlist', { quietUntil: '2026-08-09' });
    expect((await state()).shortlist?.quietUntil).toBe('2026-08-09');
    const kept = await capture();
    expect([kept.kind, kept.sentence]).toEqual(['incoming', '“Order seed” waits in the inbox; it is quiet until Sun 9 Aug']);
    expect((await capture({ inbox: false })).kind).toBe('block');
    expect((await here.maren.patch('/shortlist', { quietUntil: '2026-08-02' })).status).toBe(422);
    await here.maren.patch('/shortlist', { quietUntil: null });
    expect((await capture()).kind).toBe('block');
    const { days } = (await here.maren.get<{ days: DayInfo[] }>('/days?from=2026-08-04&days=1')).body;
    expect(days[0]?.entries.filter(({ title }) => title === 'Order seed')).toHaveLength(3);
  });
});

describe('a pass about a week', () => {
  it('is begun again where it was left; once it is finished, or taken back, at its beginning', async () => {
    expect((await state()).reviewed).toBeNull();
    const pass = await begin('week-review');
    await here.maren.patch(`/passes/${pass.id}`, { step: 'shelf', notes: { seen: 3 } });
    await here.maren.patch(`/passes/${pass.id}`, { state: 'left' });
    const next = await begin('week-review');
    expect(next).toMatchObject({ step: 'shelf', notes: { seen: 3 }, state: 'running' });
    expect(next.id).not.toBe(pass.id);
    await here.maren.patch(`/passes/${next.id}`, { state: 'done' });
    expect((await state()).reviewed).toBe('2026-08-03');
    expect((await begin('week-review')).step).toBe('');

    const decks = await begin('clear-decks');
    await here.maren.patch(`/passes/${decks.id}`, { step: 'pick' });
    const id = await task('Old idea');
    await here.maren.post(`/passes/${decks.id}/undo`);
    expect((await tasks()).some((one) => one.id === id)).toBe(false);
    expect((await begin('clear-decks')).step).toBe('');
  });
});
