import type { AgendaEntry, DeadlineRisk, DecisionAnswer, Done, Proposal } from '@corvun/contract';
import { ownServer } from './harness';

// It is Monday, 3 August 2026, 10:50 in Vienna.
const here = ownServer('test');
const task = async (line: string, change: object = {}) => {
  const id = (await here.maren.post<{ ids: string[] }>('/tasks', { lines: [line] })).body.ids[0] ?? '';
  if (Object.keys(change).length) await here.maren.patch(`/tasks/${id}`, change);
  return id;
};
const block = async (taskId: string, start: string, minutes: number) =>
  (await here.maren.post<DecisionAnswer>('/blocks', { taskId, start, minutes })).body.made[0]?.id ?? '';
const proposal = async (query: string) => (await here.maren.get<Proposal>(`/plan/proposal?${query}`)).body;
const said = ({ blocks }: Proposal) =>
  blocks.map(
    ({ title, start, end, block: moved }) => `${title} ${start.slice(8, 16)}-${end.slice(11, 16)}${moved ? ' moved' : ''}`,
  );
const blocksOn = async (days = 5) =>
  (await here.maren.get<{ entries: AgendaEntry[] }>(`/agenda?from=2026-08-03&days=${days}`)).body.entries
    .filter(({ kind }) => kind === 'block')
    .map(({ title, start }) => `${title} ${start?.slice(8, 16)}`);
const take = ({ blocks, gone }: Proposal) =>
  here.maren.post<Done>('/plan/taking', {
    blocks: blocks.map(({ taskId, start, minutes, block: moved }) => ({
      ...{ taskId, start, minutes },
      ...(moved ? { block: moved } : {}),
    })),
    gone: gone.map((one) => one.block),
  });

it('a plan goes around what is promised; nothing is done until it is taken, and that is taken back as one', async () => {
  await here.maren.post('/events', { title: 'Site walk', start: '2026-08-03T13:00', minutes: 120 });
  await task('Compare quotes today 1h', { priority: 'high' });
  await task('Order decking 90 min by 5 August');
  await task('Some day 30 min');
  const found = await proposal('from=2026-08-03&days=3');
  expect(said(found)).toEqual(['Compare quotes 03T11:00-12:00', 'Order decking 03T15:00-16:30']);
  expect(found.without).toEqual([]);
  expect(await blocksOn()).toEqual([]);
  expect(said(await proposal('from=2026-08-03&days=3&what=all'))).toContain('Some day 03T16:30-17:00');

  const { body } = await take(found);
  expect(body.sentence).toBe('Planned: 2 tasks have time, 2 h 30 in all');
  expect(await blocksOn()).toEqual(['Compare quotes 03T11:00', 'Order decking 03T15:00']);
  expect((await proposal('from=2026-08-03&days=3')).blocks).toEqual([]);
  await here.maren.post('/decisions/undo');
  expect(await blocksOn()).toEqual([]);
});

it('planned again, time moves that is in the way; what is pinned or promised does not', async () => {
  const quotes = await task('Compare quotes today 1h');
  const report = await task('Write the report today 1h');
  const own = await block(quotes, '2026-08-03T14:00', 60);
  const other = await block(report, '2026-08-03T15:00', 60);
  await here.maren.post('/events', { title: 'Site walk', start: '2026-08-03T14:00', minutes: 120 });
  expect((await proposal('from=2026-08-03&days=1')).blocks).toEqual([]);
  await here.maren.patch(`/blocks/${other}`, { pinned: true });
  const again = await proposal('from=2026-08-03&days=1&again=true');
  expect(said(again)).toEqual(['Compare quotes 03T11:00-12:00 moved']);
  expect(again.blocks[0]).toMatchObject({ block: own, was: { start: '2026-08-03T14:00:00+02:00' } });
  const pinned = await here.maren.post('/plan/taking', {
    blocks: [{ taskId: report, start: '2026-08-03T16:00', minutes: 60, block: other }],
  });
  expect(pinned.body).toMatchObject({ error: { message: 'This time is pinned: planning does not move it.' } });
  expect((await take(again)).body.sentence).toBe('Planned: 1 block moved');
  expect(await blocksOn()).toEqual(['Compare quotes 03T11:00', 'Write the report 03T15:00']);
});

it('what finds no place says why, and what would let it in', async () => {
  await task('Count orchids by 3 August 18:00 8h', { deadlineFixed: true });
  const { without } = await proposal('from=2026-08-03&days=1');
  expect(without).toMatchObject([
    { title: 'Count orchids', minutes: 480, reason: 'There are not 8 h of free working time for it.' },
  ]);
  expect(without[0]?.change).toMatch(/^With 4 h 30 it would fit\.$/);
});

it('every deadline has its last safe start, live', async () => {
  const id = await task('Count orchids by 4 August 12:00 4h');
  const risks = async () => (await here.maren.get<{ risks: DeadlineRisk[] }>('/plan/risks')).body.risks;
  expect(await risks()).toMatchObject([
    { taskId: id, deadline: '2026-08-04T12:00', minutes: 240, lastSafeStart: '2026-08-03T16:30:00+02:00', lateMinutes: 0 },
  ]);
  // Time for it is free for it, time for something else is not.
  await block(id, '2026-08-04T09:00', 60);
  await block(await task('Write the report'), '2026-08-04T10:00', 120);
  const [close] = await risks();
  expect(close).toMatchObject({ lastSafeStart: '2026-08-03T14:30:00+02:00', lateMinutes: 0 });
  // The clock runs on.
  expect(Math.abs((close?.slackMinutes ?? 0) - 215)).toBeLessThan(6);
  await here.maren.post('/events', { title: 'Site walk', start: '2026-08-03T11:00', minutes: 390 });
  const [late] = await risks();
  expect(late?.lastSafeStart).toBeNull();
  expect(Math.abs((late?.lateMinutes ?? 0) - 175)).toBeLessThan(6);
  expect(late?.mends).toMatchObject({ shorten: late?.lateMinutes, later: '2026-08-04T17:30:00+02:00', moves: [] });
});

it('days that are over, and nothing of a plan, are refused with a sentence', async () => {
  const refused = async (query: string) => (await here.maren.get<{ error: { message: string } }>(`/plan/proposal?${query}`)).body;
  expect(await refused('week=2026-W30')).toMatchObject({
    error: { message: 'These days are over; nothing can be planned for them.' },
  });
  expect(await refused('days=61')).toMatchObject({ error: { message: 'The number of days is from 1 to 60.' } });
  expect((await here.maren.post('/plan/taking', { blocks: [] })).status).toBe(422);
  expect(await proposal('week=2026-W32')).toMatchObject({ from: '2026-08-03', to: '2026-08-09', blocks: [] });
});

it('hours for deep work, the most of a day and parts are settings', async () => {
  const planning = { deep: ['14:00-17:00'], limit: 120, parts: { from: 120, least: 60 }, places: [] };
  await here.maren.patch('/settings', { planning });
  await task('Read the report today 1h', { concentration: 'deep', priority: 'low' });
  await task('Compare quotes today 2h', { priority: 'high' });
  expect(said(await proposal('from=2026-08-03&days=2'))).toEqual([
    'Compare quotes 03T13:00-15:00',
    'Read the report 04T14:00-15:00',
  ]);
  const wrong = await here.maren.patch('/settings', { planning: { ...planning, deep: ['14-9'] } });
  expect(wrong.status).toBe(400);
});
