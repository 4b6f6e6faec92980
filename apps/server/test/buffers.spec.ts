import type {
  AgendaEntry,
  DayInfo,
  DecisionAnswer,
  EventFull,
  Me,
  ReminderInfo,
  TaskFull,
  TaskInfo,
  YesCost,
} from '@corvun/contract';
import { Caller, ownServer, startServer, until } from './harness';

const here = ownServer('test');
const RULE = { prep: 15, followUp: 15, of: 'all', calendarId: null, category: '', over: 30 };
const buffers = (more: object) =>
  here.maren.patch('/settings', { buffers: { rules: [], base: 'Office', travel: [], pause: null, ...more } });
const event = async (title: string, start: string, minutes: number, more: object = {}) =>
  (await here.maren.post<DecisionAnswer>('/events', { title, start, minutes, ...more })).body.made[0]?.id ?? '';
const day = async (from: string) => (await here.maren.get<{ days: DayInfo[] }>(`/days?from=${from}&days=1`)).body.days[0];
const beside = ({ buffers: all }: AgendaEntry) =>
  all.map(({ kind, start, end, minutes, wanted }) => `${kind} ${start.slice(11, 16)}-${end.slice(11, 16)} ${minutes}/${wanted}`);
const of = async (from: string, title: string) =>
  (await day(from))?.entries.filter((one) => one.title === title && one.kind === 'event').flatMap(beside);

it('what belongs to an event takes time, moves with it and vanishes with it', async () => {
  await buffers({ rules: [RULE] });
  const id = await event('Site walk', '2026-08-04T10:00', 60);
  expect(await of('2026-08-04', 'Site walk')).toEqual(['prep 09:45-10:00 15/15', 'follow-up 11:00-11:15 15/15']);
  const busy = await day('2026-08-04');
  expect(busy?.load).toMatchObject({ meetings: 60, buffers: 30 });
  expect(busy?.gaps.map(({ start, end }) => `${start.slice(11, 16)}-${end.slice(11, 16)}`)).toEqual([
    '09:00-09:45',
    '11:15-17:30',
  ]);
  await here.maren.patch(`/events/${id}`, { start: '2026-08-04T14:00' });
  expect(await of('2026-08-04', 'Site walk')).toEqual(['prep 13:45-14:00 15/15', 'follow-up 15:00-15:15 15/15']);
  await event('Next door', '2026-08-04T15:05', 45);
  expect(await of('2026-08-04', 'Site walk')).toEqual(['prep 13:45-14:00 15/15', 'follow-up 15:00-15:00 0/15']);
  expect(await of('2026-08-04', 'Next door')).toEqual(['prep 15:00-15:05 5/15', 'follow-up 15:50-16:05 15/15']);
  await here.maren.remove(`/events/${id}`);
  expect((await day('2026-08-04'))?.load).toMatchObject({ meetings: 45, buffers: 30 });
  await buffers({});
});

it('an event can say something else, of one date of a series, too; undo takes it back', async () => {
  const id = await event('Stand-up', '2026-08-10T09:30', 30, { repeat: 'FREQ=DAILY;COUNT=3' });
  const said = await here.maren.patch<DecisionAnswer>(`/events/${id}`, {
    ...{ occurrence: '2026-08-11T09:30', scope: 'this' },
    buffers: { prep: 10, followUp: null, travel: null },
  });
  expect(said.status).toBe(200);
  const all = async () => [await of('2026-08-10', 'Stand-up'), await of('2026-08-11', 'Stand-up')];
  expect(await all()).toEqual([[], ['prep 09:20-09:30 10/10']]);
  await here.maren.post('/decisions/undo');
  expect(await all()).toEqual([[], []]);
});

it('a way that is set once is known for the next event there, is part of what a yes costs, and says when to leave', async () => {
  const id = await event('Visit', '2026-08-05T10:00', 60, { location: 'Gate 3' });
  const cost = async (query: string) => (await here.maren.get<YesCost>(`/cost?${query}`)).body;
  const { comesFrom } = await cost(`event=${id}`);
  expect(comesFrom).toBe('Office');
  await here.maren.patch(`/events/${id}`, { buffers: { prep: null, followUp: null, travel: 25, from: comesFrom } });
  const { settings } = (await here.maren.get<Me>('/me')).body;
  expect(settings.buffers.travel).toEqual([{ from: 'Office', to: 'Gate 3', minutes: 25 }]);
  const other = await event('Other visit', '2026-08-06T14:00', 60, { location: 'gate 3' });
  expect(await of('2026-08-06', 'Other visit')).toEqual(['travel 13:35-14:00 25/25', 'travel 15:00-15:25 25/25']);

  const [task] = (await here.maren.post<{ ids: string[] }>('/tasks', { lines: ['Report'] })).body.ids;
  await here.maren.post('/blocks', { taskId: task, start: '2026-08-06T13:00', minutes: 45 });
  const found = await cost(`event=${other}`);
  expect(found.buffers.map(({ kind, from, to }) => [kind, from, to])).toEqual([
    ['travel', 'Office', 'gate 3'],
    ['travel', 'gate 3', 'Office'],
  ]);
  expect(found.overlaps.map(({ title, movable }) => [title, movable])).toEqual([['Report', true]]);
  expect(found.after.filter(({ kind }) => kind === 'buffer')).toHaveLength(2);

  const { data } = here.server;
  await here.server.stop();
  here.server = await startServer('empty', data, { CORVUN_NOW: '2026-08-05T09:36:00+02:00' });
  here.maren = new Caller(here.server.url, here.maren.signedHeaders());
  const [first] = await until(async () => {
    const { body } = await here.maren.get<ReminderInfo[]>('/reminders');
    return body.some(({ why }) => why === 'leave') ? body : undefined;
  }, 'it is time to leave');
  expect(first).toMatchObject({ title: 'Visit', why: 'leave', at: '2026-08-05T09:35:00+02:00' });
});

it('tasks are done in that time: it is as long as they are, and they count as placed', async () => {
  const id = await event('Gauge meeting', '2026-08-12T14:00', 60);
  const change = (tasks: object[]) =>
    here.maren.patch(`/events/${id}`, { buffers: { prep: 15, followUp: null, travel: null, tasks } });
  const [known = ''] = (await here.maren.post<{ ids: string[] }>('/tasks', { lines: ['Read the quote 20m'] })).body.ids;
  expect(
    (
      await change([
        { id: known, at: 'prep' },
        { line: 'Print the plan 10m', at: 'prep' },
      ])
    ).status,
  ).toBe(200);
  const full = (await here.maren.get<EventFull>(`/events/${id}`)).body;
  expect(full.carried.map(({ title, at, minutes, done }) => [title, at, minutes, done])).toEqual([
    ['Read the quote', 'prep', 20, false],
    ['Print the plan', 'prep', 10, false],
  ]);
  expect(await of('2026-08-12', 'Gauge meeting')).toEqual(['prep 13:30-14:00 30/30']);
  const placed = async () =>
    (await here.maren.get<TaskInfo[]>('/tasks')).body.filter(({ placed: minutes }) => minutes > 0).map(({ title }) => title);
  expect(await placed()).toEqual(expect.arrayContaining(['Read the quote', 'Print the plan']));
  const task = (await here.maren.get<TaskFull>(`/tasks/${known}`)).body;
  expect(task.beside).toEqual([{ id, occurrence: null, title: 'Gauge meeting', at: 'prep' }]);
  await here.maren.patch(`/tasks/${known}`, { status: 'COMPLETED', version: task.version });
  expect(await of('2026-08-12', 'Gauge meeting')).toEqual(['prep 13:45-14:00 15/15']);
  expect(await change([{ id: 'nothing', at: 'prep' }])).toMatchObject({ status: 422, body: { error: { code: 'bad-field' } } });
  await here.maren.remove(`/events/${id}`);
  expect(await placed()).not.toContain('Print the plan');
});

it.each([
  [{ prep: 1000, followUp: null, travel: null }, 'Time beside an event is at most 8 hours, in whole minutes.'],
  [{ prep: -5, followUp: null, travel: null }, 'Time beside an event is at most 8 hours, in whole minutes.'],
  [
    { prep: 5, followUp: null, travel: null, tasks: [{ id: 'x', at: 'never' }] },
    'A task is done before an event (prep) or after it (follow-up).',
  ],
])('refuses %j', async (said, sentence) => {
  const id = await event('Refused', '2026-08-20T14:00', 60);
  const { status, body } = await here.maren.patch(`/events/${id}`, { buffers: said });
  expect([status, JSON.stringify(body)]).toEqual([400, expect.stringContaining(sentence)]);
});
