import type { Done, LedgerInfo, LedgerParts, TaskFull } from '@corvun/contract';
import { LEDGER_BY } from '@corvun/core';
import { Event } from '../src/events/event.entity';
import { database, ownServer } from './harness';

// It is Monday, 3 August 2026, 10:50 in Vienna.
const here = ownServer();
const WEEK = 'from=2026-07-27&to=2026-08-02';
const ids: Record<string, string> = {};
const task = async (name: string, line: string, change: object = {}) => {
  ids[name] = (await here.maren.post<{ ids: string[] }>('/tasks', { lines: [line] })).body.ids[0] ?? '';
  await here.maren.patch(`/tasks/${ids[name]}`, change);
  return ids[name];
};
const spend = (name: string, start: string, minutes: number) =>
  here.maren.post<Done>(`/tasks/${ids[name] ?? ''}/time`, { start, minutes });
const block = (name: string, start: string, minutes: number) => here.maren.post('/blocks', { taskId: ids[name], start, minutes });
const ledger = async (by: string, days = WEEK) => (await here.maren.get<LedgerInfo>(`/ledger?${days}&by=${by}`)).body;
const parts = async (query: string, days = WEEK) => (await here.maren.get<LedgerParts>(`/ledger/parts?${days}&${query}`)).body;
const rowsOf = ({ rows }: LedgerInfo) => rows.map(({ name, promised, planned, spent }) => [name, promised, planned, spent]);
const csv = async (query: string) => {
  const response = await fetch(`${here.server.url}/api/ledger/out?${WEEK}&${query}`, { headers: here.maren.signedHeaders() });
  const lines = (await response.text()).trim().split('\r\n');
  return { name: response.headers.get('content-disposition'), type: response.headers.get('content-type'), lines };
};

beforeAll(async () => {
  const list = async (name: string) => (await here.maren.post<{ id: string }>('/lists', { name })).body.id;
  const [report, permits] = [await list('Grant report'), await list('Permits')];
  await task('chapter', 'Results chapter #write', { list: report, estimate: 60, billable: true });
  await task('figures', 'Figures for the fund #write #money', { list: report, estimate: 90 });
  await task('county', 'Ask the county', { list: permits, waitingOn: 'Tomas Rieger' });
  await task('loose', 'Water the plants');
  await block('chapter', '2026-07-28T10:00', 60);
  await block('county', '2026-07-28T10:30', 60);
  await spend('chapter', '2026-07-28T10:10', 80);
  await spend('figures', '2026-07-29T14:00', 45);
  await spend('county', '2026-07-30T23:30', 60);
  await spend('loose', '2026-08-02T23:30', 60);
  for (const name of ['chapter', 'figures']) await here.maren.patch(`/tasks/${ids[name] ?? ''}`, { status: 'COMPLETED' });
  await database(here.server).query(`UPDATE "task" SET "completed" = ? WHERE "status" = 'COMPLETED'`, [
    Date.UTC(2026, 6, 29, 15),
  ]);
  await here.maren.post('/events', {
    title: 'Site walk',
    start: '2026-07-28T09:00',
    minutes: 60,
    guests: ['Anna <anna@x.example>'],
  });
  await here.maren.post('/events', { title: 'Talk with Oda', start: '2026-07-28T09:30', minutes: 60 });
  await here.maren.post('/events', { title: 'Volunteer weekend', start: '2026-08-01', allDay: true });
  await here.maren.post(`/tasks/${ids['loose'] ?? ''}/timer`);
});

it('promised, planned and spent stand side by side by day; what is there twice counts once, and the timer not yet', async () => {
  const { each, times, total } = await ledger('list');
  expect(each).toBe('day');
  expect(times.map(({ key, promised, planned, spent }) => [key.slice(8), promised, planned, spent])).toEqual([
    ['27', 0, 0, 0],
    ['28', 90, 90, 80],
    ['29', 0, 0, 45],
    ['30', 0, 0, 30],
    ['31', 0, 0, 30],
    ['01', 0, 0, 0],
    ['02', 0, 0, 30],
  ]);
  expect(total).toMatchObject({ promised: 90, planned: 90, spent: 215, met: 90, working: 2550, free: 2400, unscheduled: 135 });
  expect(total).toMatchObject({ done: 2, longer: 1, estimated: 150, took: 125, quiet: 0, quietKept: 0 });
});

it.each([
  [
    'list',
    [
      ['Grant report', 0, 60, 125],
      ['Permits', 0, 30, 60],
      ['On no list', 90, 0, 30],
    ],
  ],
  [
    'tag',
    [
      ['write', 0, 60, 125],
      ['money', 0, 0, 45],
      ['Without a tag', 90, 30, 90],
    ],
  ],
  [
    'kind',
    [
      ['Work', 0, 90, 215],
      ['Meetings', 90, 0, 0],
    ],
  ],
  [
    'billable',
    [
      ['Not billable', 0, 30, 135],
      ['Billable', 0, 60, 80],
      ['Not work', 90, 0, 0],
    ],
  ],
  [
    'person',
    [
      ['Anna', 60, 0, 0],
      ['Tomas Rieger', 0, 30, 60],
      ['With nobody else', 30, 60, 155],
    ],
  ],
])('by %s', async (by, rows) => {
  expect(rowsOf(await ledger(by))).toEqual(rows);
});

it('by calendar, with what is in none', async () => {
  const rows = rowsOf(await ledger('calendar'));
  expect(rows.map(([, ...minutes]) => minutes)).toEqual([
    [90, 0, 0],
    [0, 90, 215],
  ]);
});

it('comes to the sum of the entries, whatever it is told apart by', async () => {
  const entries = await Promise.all(
    Object.values(ids).map(async (id) => (await here.maren.get<TaskFull>(`/tasks/${id}`)).body.time),
  );
  const days = 'from=2026-07-01&to=2026-08-31';
  const whole = entries
    .flat()
    .filter(({ end }) => end !== null)
    .reduce((sum, { minutes }) => sum + minutes, 0);
  for (const by of LEDGER_BY) {
    const { total, times, rows } = await ledger(by, days);
    expect([by, total.spent, times.reduce((sum, { spent }) => sum + spent, 0)]).toEqual([by, whole, whole]);
    const { minutes, more } = await parts(`by=${by}&what=spent`, days);
    expect([minutes, more]).toEqual([whole, 0]);
    for (const row of rows)
      expect((await parts(`by=${by}&what=planned&key=${encodeURIComponent(row.key)}`, days)).minutes).toBe(row.planned);
  }
});

it('says what a figure is made of, with what of each counts', async () => {
  const { parts: promised } = await parts('by=list&what=promised&key=');
  expect(promised.map(({ kind, title, minutes, start }) => [kind, title, minutes, start.slice(0, 16)])).toEqual([
    ['event', 'Site walk', 60, '2026-07-28T09:00'],
    ['event', 'Talk with Oda', 30, '2026-07-28T09:30'],
  ]);
  const { parts: night } = await parts('by=list&what=spent', 'from=2026-07-31&to=2026-07-31');
  expect(night.map(({ title, minutes, taskId }) => [title, minutes, taskId])).toEqual([['Ask the county', 30, ids['county']]]);
  expect((await parts('by=tag&key=money')).minutes).toBe(45);
});

it('goes out as tables, each with its name', async () => {
  const rows = await csv('by=list&table=rows');
  expect([rows.name, rows.type]).toEqual([
    'attachment; filename="time by list 2026-07-27 2026-08-02.csv"',
    'text/csv; charset=utf-8',
  ]);
  expect(rows.lines).toEqual([
    'list,promised,planned,spent,done,took longer,estimated,took,off by %',
    'Grant report,0,60,125,2,1,150,125,-17',
    'Permits,0,30,60,0,0,0,0,',
    'On no list,90,0,30,0,0,0,0,',
    'All,90,90,215,2,1,150,125,-17',
  ]);
  const times = await csv('by=tag&table=times');
  expect(times.lines[2]).toBe('2026-07-28,2026-07-28,90,90,80,360');
  const entries = await csv('by=tag&table=entries');
  expect(entries.lines).toHaveLength(5);
  expect(entries.lines[1]).toContain(
    '2026-07-28,2026-07-28T10:10:00+02:00,2026-07-28T11:30:00+02:00,80,Results chapter,Grant report,write,,yes',
  );
});

it('a day of 25 hours, a year by months, and what is no stretch of days', async () => {
  await task('night', 'Count the bats');
  await spend('night', '2025-10-26T00:00', 25 * 60 - 60);
  const { times } = await ledger('list', 'from=2025-10-26&to=2025-10-27');
  expect(times.map(({ spent }) => spent)).toEqual([1440, 0]);
  const year = await ledger('list', 'from=2025-08-01&to=2026-07-31');
  expect([year.each, year.times.length]).toEqual(['month', 12]);
  const refused = async (query: string) => {
    const { status, body } = await here.maren.get<{ error: { message: string } }>(`/ledger?${query}`);
    return [status, body.error.message];
  };
  expect(await refused('from=2026-08-03&to=2026-08-01&by=list')).toEqual([422, 'The last day comes before the first one.']);
  expect(await refused('from=2000-01-01&to=2026-08-01&by=list')).toEqual([422, 'The ledger goes over ten years at most.']);
  expect(await refused('from=2026-02-30&to=2026-08-01&by=list')).toEqual([400, '2026-02-30 is not a day in the calendar.']);
  expect((await refused('from=2026-08-01&to=2026-08-02&by=mood'))[0]).toBe(400);
});

it('quiet time that a meeting took was not kept; copies and what is not attended do not count', async () => {
  const days = 'from=2026-07-20&to=2026-07-24';
  await here.maren.post('/blocks', { kind: 'quiet', start: '2026-07-21T09:00', minutes: 120, title: 'Quiet' });
  await here.maren.post('/events', { title: 'Fund call', start: '2026-07-21T10:00', minutes: 30 });
  expect((await ledger('kind', days)).total).toMatchObject({ quiet: 120, quietKept: 90, met: 30 });
  await database(here.server).getRepository(Event).update({ title: 'Fund call' }, { status: 'CANCELLED' });
  expect((await ledger('kind', days)).total).toMatchObject({ quiet: 120, quietKept: 120, met: 0, promised: 0 });
});
