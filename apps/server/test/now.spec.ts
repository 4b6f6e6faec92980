import type { AgendaEntry, DayInfo, Done, FittingTask, NowState, TaskFull } from '@corvun/contract';
import { HeadsDown } from '../src/doing/heads-down.entity';
import { TimeEntry } from '../src/doing/time-entry.entity';
import { Job } from '../src/due/job.entity';
import { database, ownServer, until } from './harness';

// It is Monday, 3 August 2026, 10:50 in Vienna.
const here = ownServer('test');
const task = async (line: string, change: object = {}) => {
  const id = (await here.maren.post<{ ids: string[] }>('/tasks', { lines: [line] })).body.ids[0] ?? '';
  if (Object.keys(change).length) await here.maren.patch(`/tasks/${id}`, change);
  return id;
};
const full = async (id: string) => (await here.maren.get<TaskFull>(`/tasks/${id}`)).body;
const now = async () => (await here.maren.get<NowState>('/now')).body;
const block = async (input: object) =>
  (await here.maren.post<{ made: { id: string }[] }>('/blocks', input)).body.made[0]?.id ?? '';
const blocksOf = async () => {
  const { days } = (await here.maren.get<{ days: DayInfo[] }>('/days?from=2026-08-03&days=1')).body;
  return (days[0]?.entries ?? [])
    .filter(({ kind }) => kind === 'block')
    .map(({ title, start, end }: AgendaEntry) => `${title} ${start?.slice(11, 16)}-${end?.slice(11, 16)}`);
};
const undo = () => here.maren.post('/decisions/undo');

describe('loose ends', () => {
  it('are time that is over, what is begun, what is waited for and what is done without saying how long; each once', async () => {
    const over = await task('Sign the timesheets', { estimate: 20 });
    await block({ taskId: over, start: '2026-08-03T09:30', minutes: 30 });
    const begun = await task('Sort the photos', { status: 'IN-PROCESS' });
    const waits = await task('Photos of the hut', { waitingOn: 'Anna', waitingUntil: '2026-08-03' });
    await task('Later one', { waitingOn: 'Anna', waitingUntil: '2026-08-10' });
    const done = await task('Read the quote', { estimate: 40 });
    await block({ taskId: done, start: '2026-08-03T10:00', minutes: 30 });
    await here.maren.patch(`/tasks/${done}`, { status: 'COMPLETED' });
    const found = (await now()).loose.map(({ kind, id, minutes, who }) => [kind, id, minutes, who]);
    expect(found).toEqual([
      ['over', over, 20, ''],
      ['waiting', waits, 30, 'Anna'],
      ['begun', begun, 30, ''],
      ['took', done, 40, ''],
    ]);
    // What gets time again, is worked on, waits longer, or is said, is none any more.
    await block({ taskId: over, start: '2026-08-03T14:00', minutes: 30 });
    await here.maren.post(`/tasks/${begun}/timer`);
    await here.maren.patch(`/tasks/${waits}`, { waitingUntil: '2026-08-10' });
    await here.maren.post(`/tasks/${done}/time`, { minutes: 40 });
    expect((await now()).loose).toEqual([]);
  });
});

describe('what takes longer', () => {
  it('pushes the rest of the day around what is promised, and is taken back as one', async () => {
    const grant = await task('Grant figures');
    const runs = await block({ taskId: grant, start: '2026-08-03T10:15', minutes: 60 });
    await block({ taskId: await task('Call Ines'), start: '2026-08-03T11:15', minutes: 30 });
    await block({ taskId: await task('Read the quote'), start: '2026-08-03T16:30', minutes: 60 });
    await here.maren.post('/events', { title: 'Site walk', start: '2026-08-03T12:00', minutes: 60 });
    const { body } = await here.maren.post<Done>(`/blocks/${runs}/longer`, { minutes: 60 });
    expect(body.sentence).toBe('“Grant figures” has 1 h more, until 13:15; 1 block moved');
    expect(await blocksOf()).toEqual([
      'Grant figures 10:15-12:00',
      'Grant figures 13:00-13:15',
      'Call Ines 13:15-13:45',
      'Read the quote 16:30-17:30',
    ]);
    await undo();
    expect(await blocksOf()).toEqual(['Grant figures 10:15-11:15', 'Call Ines 11:15-11:45', 'Read the quote 16:30-17:30']);
    const all = await here.maren.post<Done>(`/blocks/${runs}/longer`, { minutes: 300 });
    expect(all.body.sentence).toBe(
      '“Grant figures” has 5 h more, until 17:15; “Call Ines”, “Read the quote” has no room today any more, and gives its time back',
    );
  });

  it('has to have begun, and to have room', async () => {
    const id = await block({ taskId: await task('Call Ines'), start: '2026-08-03T14:00', minutes: 30 });
    const early = await here.maren.post<{ error: { message: string } }>(`/blocks/${id}/longer`, { minutes: 30 });
    expect([early.status, early.body.error.message]).toEqual([422, 'It has not begun yet.']);
    const full = await block({ taskId: await task('Grant figures'), start: '2026-08-03T10:30', minutes: 30 });
    await here.maren.post('/events', { title: 'Field day', start: '2026-08-03T11:00', minutes: 420 });
    const none = await here.maren.post<{ error: { message: string } }>(`/blocks/${full}/longer`, { minutes: 30 });
    expect([none.status, none.body.error.message]).toEqual([422, 'Nothing is free any more until 17:30.']);
  });
});

describe('what fits', () => {
  it('is what is late otherwise or planned for now, the best first; what waits and what has steps is not offered', async () => {
    const due = await task('Order the posts', { estimate: 30, deadline: '2026-08-04', deadlineFixed: true });
    const today = await task('Call the school', { estimate: 10, plannedDay: '2026-08-03' });
    await task('Dig the pond', { estimate: 90 });
    await task('Hear from Jonas', { estimate: 5, waitingOn: 'Jonas' });
    const parent = await task('Print the signs', { estimate: 20 });
    await here.maren.post('/tasks', { lines: ['Choose the paper 10 min'], parent });
    const fits = (await here.maren.get<FittingTask[]>('/now/fits?minutes=40')).body;
    expect(fits.map(({ title }) => title)).toEqual(['Order the posts', 'Call the school', 'Choose the paper']);
    expect([fits[0]?.taskId, fits[1]?.taskId]).toEqual([due, today]);
    expect((await here.maren.get('/now/fits?minutes=0')).status).toBe(400);
  });
});

describe('heads-down', () => {
  const begin = (id: string) => here.maren.post<Done>('/heads-down', { task: id });
  /** Lets everything that goes on have begun so many minutes ago. */
  const ago = async (minutes: number) => {
    const data = database(here.server);
    const by = minutes * 60_000;
    await data.query(`UPDATE "time_entry" SET "startAt" = "startAt" - ? WHERE "endAt" IS NULL`, [by]);
    await data.query(`UPDATE "heads_down" SET "begun" = "begun" - ?, "fromAt" = "fromAt" - ?, "untilAt" = "untilAt" - ?`, [
      by,
      by,
      by,
    ]);
    await data.getRepository(Job).update({ kind: 'heads-down' }, { dueAt: 0 });
  };
  const phase = async (wanted: string) =>
    until(async () => ((await now()).headsDown?.phase === wanted ? (await now()).headsDown : null), wanted);

  it('works, pauses and waits; work counts to the minute it ended, however late that is noticed', async () => {
    const id = await task('Grant figures');
    expect((await begin(id)).body.sentence).toMatch(/^Heads-down on “Grant figures” until \d/);
    expect(await now()).toMatchObject({
      timer: { taskId: id, by: 'heads-down' },
      headsDown: { taskId: id, phase: 'work', round: 0, came: 0 },
    });
    await here.maren.post('/captures', { text: 'The gate is open', inbox: true });
    await ago(27);
    expect(await phase('short')).toMatchObject({ round: 1, came: 1 });
    expect([(await now()).timer, (await full(id)).spent]).toEqual([null, 25]);
    await ago(60);
    await phase('over');
    expect((await here.maren.post<Done>('/heads-down/turn')).body.sentence).toBe('“Grant figures”: 25 min of work');
    await ago(10);
    expect((await here.maren.post<Done>('/heads-down/turn')).body.sentence).toBe('A pause of 5 min');
    expect((await full(id)).spent).toBe(35);
    await here.maren.post('/heads-down/turn');
    await ago(7);
    expect((await here.maren.remove<Done>('/heads-down')).body.sentence).toBe('7 min on “Grant figures”');
    expect([(await full(id)).spent, (await now()).headsDown]).toEqual([42, null]);
    expect((await here.maren.remove('/heads-down')).status).toBe(409);
  });

  it('is left for something that came up, and gone on with', async () => {
    const id = await task('Grant figures');
    await begin(id);
    await ago(12);
    await here.maren.post('/timer/stop', { pause: true });
    expect(await now()).toMatchObject({ timer: null, headsDown: { phase: 'over', round: 0 } });
    await here.maren.post('/heads-down/turn');
    expect(await now()).toMatchObject({ timer: { taskId: id }, headsDown: { phase: 'work' } });
  });

  it('ends with its task, and with a timer on another', async () => {
    const [id, other] = [await task('Grant figures'), await task('Call Ines')];
    await begin(id);
    await here.maren.post(`/tasks/${other}/timer`);
    expect(await now()).toMatchObject({ timer: { taskId: other, by: 'timer' }, headsDown: null });
    await begin(id);
    await here.maren.patch(`/tasks/${id}`, { status: 'COMPLETED' });
    expect(await now()).toMatchObject({ timer: null, headsDown: null });
    expect((await begin(id)).status).toBe(422);
  });

  it('takes the lengths that were chosen, and keeps them while it goes on', async () => {
    await here.maren.patch('/settings', { headsDown: { work: 50, every: 2 } });
    const id = await task('Grant figures');
    await begin(id);
    await here.maren.patch('/settings', { headsDown: { work: 10 } });
    await here.maren.patch('/settings', { headsDown: { every: 6 } });
    expect((await now()).headsDown?.every).toBe(2);
    const row = await database(here.server).getRepository(HeadsDown).findOneByOrFail({ taskId: id });
    expect([row.rules, (row.untilAt ?? 0) - row.fromAt]).toEqual([
      { work: 50, short: 5, long: 15, every: 2, sound: false },
      50 * 60_000,
    ]);
    expect((await here.maren.patch('/settings', { headsDown: { work: 0 } })).status).toBe(400);
  });

  it('stands in the way of no undo: what cannot be taken back any more is passed over', async () => {
    const [id, other] = [await task('Grant figures'), await task('Call Ines')];
    await here.maren.post(`/tasks/${other}/timer`);
    await here.maren.post('/timer/stop');
    await begin(id);
    // The timer on the other one would run again, beside this one.
    expect((await undo()).status).toBe(409);
    expect((await undo()).status).toBe(200);
    const rows = await database(here.server).getRepository(TimeEntry).find();
    expect(rows.filter(({ endAt }) => endAt === null)).toHaveLength(1);
  });
});
