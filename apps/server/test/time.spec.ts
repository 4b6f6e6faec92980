import { uptime } from 'node:os';
import type { Done, ListInfo, NowState, TaskFull, TimeEntryInfo } from '@corvun/contract';
import { ClockWatch } from '../src/doing/clock-watch.service';
import { TimeEntry } from '../src/doing/time-entry.entity';
import { database, ownServer, startServer, Caller, clear } from './harness';

// It is Monday, 3 August 2026, 10:50 in Vienna.
const here = ownServer('test');
const task = async (line: string, change: object = {}) => {
  const id = (await here.maren.post<{ ids: string[] }>('/tasks', { lines: [line] })).body.ids[0] ?? '';
  if (Object.keys(change).length) await here.maren.patch(`/tasks/${id}`, change);
  return id;
};
const full = async (id: string) => (await here.maren.get<TaskFull>(`/tasks/${id}`)).body;
const now = async () => (await here.maren.get<NowState>('/now')).body;
const start = (id: string) => here.maren.post<Done>(`/tasks/${id}/timer`);
const stop = (body: object = {}) => here.maren.post<Done>('/timer/stop', body);
const undo = () => here.maren.post('/decisions/undo');
const timed = ({ time }: TaskFull) => time.map((one: TimeEntryInfo) => [one.minutes, one.by, one.end !== null]);
/** Lets the timer that runs have begun so many minutes ago. */
const ago = (minutes: number) =>
  database(here.server)
    .createQueryBuilder()
    .update(TimeEntry)
    .set({ startAt: () => `"startAt" - ${minutes * 60_000}` })
    .where('"endAt" IS NULL')
    .execute();

describe('the timer', () => {
  it('runs on one task; another one ends it, the same one goes on', async () => {
    const [gauges, fence] = [await task('Read the gauges'), await task('Mend the fence')];
    expect((await start(gauges)).body.sentence).toBe('The timer runs on “Read the gauges”');
    expect((await now()).timer).toMatchObject({ taskId: gauges, title: 'Read the gauges', by: 'timer' });
    await ago(25);
    const again = await start(gauges);
    expect([again.body.decision, again.body.sentence]).toEqual(['', expect.stringMatching(/^The timer runs on .* since \d/)]);
    expect((await start(fence)).body.sentence).toBe('The timer runs on “Mend the fence”; 25 min on “Read the gauges”');
    expect([timed(await full(gauges)), (await full(gauges)).spent, (await full(fence)).status]).toEqual([
      [[25, 'timer', true]],
      25,
      'IN-PROCESS',
    ]);
    await undo();
    expect((await now()).timer?.taskId).toBe(gauges);
    expect((await full(gauges)).spent).toBe(0);
    expect((await stop()).body.sentence).toBe('25 min on “Read the gauges”');
    expect((await stop()).status).toBe(409);
    expect((await full(gauges)).spent).toBe(25);
  });

  it('is pressed in two windows at once: it runs once', async () => {
    const [gauges, fence] = [await task('Oil the sluice'), await task('Count the herons')];
    const answers = await Promise.all([start(gauges), start(fence), start(gauges), start(fence)]);
    expect(answers.map(({ status }) => status)).toEqual([200, 200, 200, 200]);
    const rows = await database(here.server).getRepository(TimeEntry).find();
    expect(rows.filter(({ endAt }) => endAt === null)).toHaveLength(1);
    await stop();
  });

  it('is left for something that came up, and gone on with', async () => {
    const id = await task('Write the weir report');
    await start(id);
    await ago(10);
    expect((await stop({ pause: true })).body.sentence).toBe('Paused: 10 min on “Write the weir report”');
    expect(await now()).toMatchObject({ timer: null, paused: { taskId: id, title: 'Write the weir report' } });
    await start(id);
    expect((await now()).paused).toBeNull();
    await stop();
    expect((await full(id)).spent).toBe(10);
  });

  it('ends when its task is done, and runs again when that is taken back', async () => {
    const id = await task('Sign the lease');
    await start(id);
    await ago(30);
    await here.maren.patch(`/tasks/${id}`, { status: 'COMPLETED' });
    expect([(await now()).timer, timed(await full(id))]).toEqual([null, [[30, 'timer', true]]]);
    await undo();
    expect((await now()).timer?.taskId).toBe(id);
    await stop();
    await here.maren.patch(`/tasks/${id}`, { status: 'COMPLETED' });
    const { status, body } = await here.maren.post<{ error: { message: string } }>(`/tasks/${id}/timer`);
    expect([status, body.error.message]).toEqual([422, 'It is done already. Open it again, then start.']);
  });

  it('counts what really passed when the clock of the machine is set, forward or back, and through its sleep', async () => {
    const id = await task('Map the ditches');
    await start(id);
    await ago(10);
    const watch = here.server.app.get(ClockWatch);
    // From here on the test says what the clock shows.
    watch.beforeApplicationShutdown();
    const [wall, up] = [Date.now(), uptime() * 1000];
    await watch.look({ wall, up });
    // A night of sleep: both went on.
    await watch.look({ wall: wall + 9 * 3_600_000, up: up + 9 * 3_600_000 });
    expect((await now()).timer?.note).toBe('');
    // Set back by two hours: it began two hours earlier by the new clock.
    await watch.look({ wall: wall + 7 * 3_600_000, up: up + 9 * 3_600_000 });
    expect((await now()).timer?.note).toBe('The clock was set back by 2 h while this ran; it counts what really passed.');
    await watch.look({ wall: wall + 9 * 3_600_000, up: up + 9 * 3_600_000 });
    expect((await now()).timer?.note).toContain('set forward by 2 h');
    expect((await stop()).body.sentence).toBe('10 min on “Map the ditches”');
  });

  it('whose beginning is still to come counts nothing, and says so', async () => {
    const id = await task('Check the pumps');
    await start(id);
    await ago(-60);
    expect((await now()).timer?.note).toContain('The clock was set back');
    expect((await stop()).body.sentence).toContain('nothing is counted, write how long it took');
    expect((await full(id)).spent).toBe(0);
  });
});

describe('time that is written', () => {
  it('by hand, from a block, several times; corrected and taken away; the sum at the task is always theirs', async () => {
    const id = await task('Draw the map');
    await here.maren.post(`/tasks/${id}/time`, { minutes: 30, start: '2026-08-03T09:00' });
    const block = (
      await here.maren.post<{ made: { id: string }[] }>('/blocks', { taskId: id, start: '2026-08-03T10:00', minutes: 45 })
    ).body.made[0]?.id;
    expect((await here.maren.post<Done>(`/tasks/${id}/time`, { minutes: 45, block })).body.sentence).toBe(
      '45 min on “Draw the map”',
    );
    const { time, spent } = await full(id);
    expect([spent, time.map(({ start, by }) => [start, by])]).toEqual([
      75,
      [
        ['2026-08-03T09:00:00+02:00', 'hand'],
        ['2026-08-03T10:00:00+02:00', 'block'],
      ],
    ]);
    const [first, second] = time;
    await here.maren.patch(`/time/${first?.id}`, { minutes: 20, version: first?.version });
    expect((await here.maren.patch(`/time/${first?.id}`, { minutes: 10, version: first?.version })).status).toBe(409);
    // Longer than there has been time since it began: it began earlier.
    await here.maren.patch(`/time/${second?.id}`, { minutes: 120 });
    expect((await full(id)).time.find(({ id: one }) => one === second?.id)).toMatchObject({ minutes: 120 });
    await here.maren.remove(`/time/${second?.id}`);
    expect((await full(id)).spent).toBe(20);
    await undo();
    expect((await full(id)).spent).toBe(140);
  });

  it('as a sum: what is missing is added, what is too much is taken from the latest', async () => {
    const id = await task('Plan the planting');
    await here.maren.patch(`/tasks/${id}`, { spent: 60 });
    expect(timed(await full(id))).toEqual([[60, 'hand', true]]);
    await here.maren.patch(`/tasks/${id}`, { spent: 90 });
    await here.maren.patch(`/tasks/${id}`, { spent: 45 });
    expect((await full(id)).time.reduce((sum, one) => sum + one.minutes, 0)).toBe(45);
    await undo();
    expect([(await full(id)).spent, (await full(id)).time.reduce((sum, one) => sum + one.minutes, 0)]).toEqual([90, 90]);
  });

  it.each([
    [{ minutes: 30, start: '2026-08-03T12:00' }, 422, 'It would last until 12:30, which is still to come. Say when it began.'],
    [{ minutes: 0 }, 400, 'Time spent at once is a whole number of minutes, from 1 to 1440.'],
    [{ minutes: 30, start: 'at noon' }, 400, 'Write the time as YYYY-MM-DDTHH:MM, with or without an offset.'],
  ])('that cannot be is refused: %j', async (input, expected, sentence) => {
    const id = await task('Count the buoys');
    const { status, body } = await here.maren.post<{ error: { message: string } }>(`/tasks/${id}/time`, input);
    expect([status, body.error.message]).toEqual([expected, sentence]);
    expect((await full(id)).time).toEqual([]);
  });

  it('is billed by its list or its task', async () => {
    const list = (await here.maren.post<{ id: string }>('/lists', { name: 'Surveys' })).body.id;
    const one = await task('Survey the north bank', { list });
    const { body } = await here.maren.patch<Done>(`/lists/${list}`, { billable: true });
    expect(body.sentence).toBe('The list “Surveys” was changed; 1 open task is billed');
    expect((await here.maren.get<ListInfo[]>('/lists')).body.find(({ id }) => id === list)?.billable).toBe(true);
    const other = (await here.maren.post<{ ids: string[] }>('/tasks', { lines: ['Survey the mill'], list })).body.ids[0] ?? '';
    await here.maren.patch(`/tasks/${one}`, { billable: false });
    expect([(await full(one)).billable, (await full(other)).billable]).toEqual([false, true]);
  });
});

describe('a timer over a restart', () => {
  it('goes on; where the clock stands before its beginning then, that is said', async () => {
    const first = await startServer('demo');
    const maren = async (url: string) => {
      const caller = new Caller(url);
      await caller.post('/session/demo');
      return caller;
    };
    const one = await maren(first.url);
    // Of what the demo has, too, the sums at the tasks are those of their time entries.
    const [off] = await database(first).query<{ tasks: number; entries: number; odd: number }[]>(
      `SELECT COUNT(*) AS "tasks", SUM("n") AS "entries", SUM("spent" <> "sum") AS "odd" FROM (
         SELECT t."spent", COUNT(e."id") AS "n", ROUND(COALESCE(SUM(e."endAt" - e."startAt"), 0) / 60000.0) AS "sum"
         FROM "task" t LEFT JOIN "time_entry" e ON e."taskId" = t."id" GROUP BY t."id")`,
    );
    expect([off?.odd, (off?.entries ?? 0) > 20]).toEqual([0, true]);
    const id = (await one.post<{ ids: string[] }>('/tasks', { lines: ['Read the gauges'] })).body.ids[0] ?? '';
    await one.post(`/tasks/${id}/timer`);
    await first.stop();
    const later = await startServer('demo', first.data, { CORVUN_NOW: '2026-08-03T18:50:00+02:00' });
    const two = await maren(later.url);
    const eight = (await two.get<TaskFull>(`/tasks/${id}`)).body.time[0]?.minutes ?? 0;
    expect(Math.abs(eight - 480)).toBeLessThanOrEqual(1);
    await later.stop();
    const before = await startServer('demo', first.data, { CORVUN_NOW: '2026-08-03T09:00:00+02:00' });
    const three = await maren(before.url);
    expect((await three.get<NowState>('/now')).body.timer?.note).toContain('The clock stood before its beginning');
    await before.stop();
    clear(first.data);
  });
});
