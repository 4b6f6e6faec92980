import { MINUTE, endOfDay, instantOf, startOfDay, wallOf } from '../time/zones';
import { workingTime } from '../time/working';
import { planStretch } from './plan';
import { propose } from './propose';
import { FIRST_PLANNING, changesOf, problemOf, type OpenTask, type SetAside, type Stretch } from './stretch';

const ZONE = 'Europe/Vienna';
const at = (wall: string) => instantOf(wall, ZONE);
const HOURS = Object.fromEntries([1, 2, 3, 4, 5].map((day) => [day, ['09:00-12:00', '13:00-17:00']]));

const task = (id: string, more: Partial<OpenTask> = {}): OpenTask => ({
  ...{ id, parentId: null, position: 0, minutes: 60, spent: 0, priority: 'normal', concentration: 'medium' },
  ...{ deadline: null, deadlineFixed: false, notBefore: null, plannedDay: '2026-08-03', plannedWeek: null, tags: [] },
  ...more,
});
const block = (id: string, taskId: string | null, start: string, minutes: number, quiet = false): SetAside => ({
  ...{ id, taskId, pinned: false, quiet },
  ...{ start: at(start), end: at(start) + minutes * MINUTE },
});
const stretch = (more: Partial<Stretch>): Stretch => ({
  ...{ zone: ZONE, now: at('2026-08-03T09:00'), from: '2026-08-03', to: '2026-08-04', busy: [], deep: [], grid: 15 },
  ...{ rules: { ...FIRST_PLANNING, share: 100, pauses: false }, tasks: [], blocks: [], what: 'due', again: false },
  working: workingTime(startOfDay('2026-08-03', ZONE), endOfDay('2026-08-04', ZONE), HOURS, ZONE),
  ...more,
});
const planned = (more: Partial<Stretch>) => problemOf(stretch(more)).input.tasks.map(({ id, minutes }) => [id, minutes]);
const done = (more: Partial<Stretch>) => {
  const { input, movable } = problemOf(stretch(more));
  const { placings, gone, stays } = changesOf(planStretch(input, 0.02), movable);
  return {
    placings: placings.map((one) => `${one.task} ${wallOf(one.start, ZONE).slice(8)} ${one.block ?? 'new'}`),
    gone: gone.map(({ id }) => id),
    stays,
  };
};

describe('the planning problem of some days', () => {
  it('is what is for these days, or due soon after them', () => {
    const tasks = [
      task('for the day'),
      task('still open', { plannedDay: '2026-07-30' }),
      task('for the week', { plannedDay: null, plannedWeek: '2026-W32' }),
      task('for another', { plannedDay: '2026-08-05' }),
      task('due soon', { plannedDay: null, deadline: '2026-08-11' }),
      task('due later', { plannedDay: null, deadline: '2026-08-12' }),
      task('any time', { plannedDay: null }),
      task('not yet', { notBefore: '2026-08-05' }),
    ];
    expect(planned({ tasks }).map(([id]) => id)).toEqual(['for the day', 'still open', 'for the week', 'due soon']);
    expect(planned({ tasks, what: 'these' }).map(([id]) => id)).toEqual(['for the day', 'still open']);
    expect(planned({ tasks, what: 'these', to: '2026-08-07' }).map(([id]) => id)).toEqual([
      ...['for the day', 'still open', 'for the week', 'for another', 'not yet'],
    ]);
    expect(planned({ tasks, what: 'all' }).map(([id]) => id)).toEqual([
      ...['for the day', 'still open', 'for the week', 'due soon', 'due later', 'any time'],
    ]);
  });

  it('counts what is due before what is not, whatever their priorities, the nearer the more', () => {
    const [busy] = [[{ start: at('2026-08-03T10:00'), end: at('2026-08-05T00:00') }]];
    const tasks = [
      task('some time', { priority: 'high', minutes: 60, deadline: null }),
      task('tomorrow', { priority: 'low', minutes: 20, deadline: '2026-08-04' }),
      task('tomorrow, too', { priority: 'low', minutes: 20, deadline: '2026-08-04' }),
    ];
    // Twenty minutes are two of the grid: an hour has room for both of them, or for the other one.
    expect(done({ tasks, busy }).placings.map((one) => one.split(' ')[0])).toEqual(['tomorrow', 'tomorrow,']);
    const weights = problemOf(
      stretch({
        tasks: ['2026-08-03', '2026-08-04', '2026-08-05', '2026-08-11', null].map((deadline, id) =>
          task(String(id), { deadline }),
        ),
      }),
    ).input.tasks.map(({ weight = 3 }) => weight);
    expect(weights).toEqual([...weights].sort((a, b) => b - a));
    expect(new Set(weights).size).toBe(5);
  });

  it('counts most what is at risk', () => {
    const due = { minutes: 60, deadline: '2026-08-04T12:00' };
    const weight = (more: Partial<OpenTask>) =>
      problemOf(stretch({ tasks: [task('a', { ...due, ...more })] })).input.tasks[0]?.weight ?? 0;
    expect(weight({ minutes: 540 })).toBeCloseTo(2 * weight({}));
  });

  it('is what is still to be placed: not what is done, nor what has time', () => {
    const blocks = [
      block('past', 'a', '2026-08-03T08:00', 30),
      block('running', 'b', '2026-08-03T08:45', 30),
      block('after', 'c', '2026-08-06T09:00', 45),
    ];
    const tasks = [task('a'), task('b'), task('c'), task('d', { spent: 60 })];
    expect(planned({ tasks, blocks })).toEqual([
      ['a', 60],
      ['b', 45],
      ['c', 15],
    ]);
  });

  it('is the steps of a task instead of it, each after the one before, by its deadline', () => {
    const parent = { parentId: 'report', plannedDay: null };
    const tasks = [
      task('report', { minutes: 240, deadline: '2026-08-04T12:00', deadlineFixed: true }),
      task('write', { ...parent, position: 2 }),
      task('gather', { ...parent, position: 1 }),
    ];
    const { input } = problemOf(stretch({ tasks }));
    expect(input.tasks.map(({ id, after, deadline, fixed }) => [id, after, deadline, fixed])).toEqual([
      ['write', ['gather'], at('2026-08-04T12:00'), true],
      ['gather', [], at('2026-08-04T12:00'), true],
    ]);
  });

  it('lets long work be done in parts, and finds the place in its tags', () => {
    const rules = { ...FIRST_PLANNING, places: ['town'] };
    const { input } = problemOf(stretch({ rules, tasks: [task('a', { minutes: 180, tags: ['call', 'town'] }), task('b')] }));
    expect(input.tasks.map(({ minChunk, place }) => [minChunk, place])).toEqual([
      [45, 'town'],
      [null, null],
    ]);
  });
});

describe('time that is set aside', () => {
  const day = { to: '2026-08-03', tasks: [task('a', { concentration: 'deep' })] };

  it('for a break is taken; in quiet time there is room for deep work', () => {
    expect(done({ ...day, blocks: [block('rest', null, '2026-08-03T09:00', 60)] }).placings).toEqual(['a 03T10:00 new']);
    expect(done({ ...day, blocks: [block('hush', null, '2026-08-03T10:00', 120, true)] }).placings).toEqual(['a 03T10:00 new']);
  });

  it('is not needed for a wish that has passed: what is late is done soon', () => {
    const late = task('late', { minutes: 15, deadline: '2026-07-20' });
    expect(done({ ...day, tasks: [task('a'), late] }).placings).toEqual(['late 03T09:00 new', 'a 03T09:15 new']);
    expect(problemOf(stretch({ tasks: [{ ...late, deadlineFixed: true }] })).input.tasks[0]?.deadline).toBeLessThan(
      at('2026-08-03T09:00'),
    );
  });
});

describe('what a plan changes', () => {
  const blocks = [block('one', 'a', '2026-08-03T13:00', 60), block('two', 'b', '2026-08-03T14:00', 60)];
  const tasks = [task('a'), task('b'), task('c')];

  it('fills what is free and leaves what has its time', () => {
    expect(done({ tasks, blocks })).toEqual({ placings: ['c 03T09:00 new'], gone: [], stays: 0 });
  });

  it('moves what is in the way of something promised, and leaves the rest where it was seen', () => {
    const busy = [{ start: at('2026-08-03T13:00'), end: at('2026-08-03T14:00') }];
    expect(done({ tasks: tasks.slice(0, 2), blocks, busy, again: true })).toEqual({
      placings: ['a 03T09:00 one'],
      gone: [],
      stays: 1,
    });
    const pinned = blocks.map((one) => ({ ...one, pinned: true }));
    expect(done({ tasks: tasks.slice(0, 2), blocks: pinned, busy, again: true })).toEqual({ placings: [], gone: [], stays: 0 });
  });

  it('gives back time that its task does not need any more', () => {
    const open = [task('a', { spent: 30 })];
    expect(done({ tasks: open, blocks: blocks.slice(0, 1), again: true })).toEqual({
      ...{ placings: ['a 03T13:00 one'], gone: [], stays: 0 },
    });
    const twice = [...blocks.slice(0, 1), block('more', 'a', '2026-08-03T15:00', 60)];
    expect(done({ tasks: [task('a')], blocks: twice, again: true })).toEqual({ placings: [], gone: ['more'], stays: 1 });
  });
});

describe('what a plan leaves free', () => {
  const span = (start: string, end: string) => ({ start: at(`2026-08-03T${start}`), end: at(`2026-08-03T${end}`) });
  // An hour and a half at noon: with lunch in it, three quarters are left.
  const noon = (more: Partial<Stretch>) =>
    propose(
      stretch({
        working: [span('09:00', '17:00')],
        busy: [span('09:00', '12:30'), span('14:00', '17:00')],
        ...{ rules: FIRST_PLANNING, tasks: [task('count')], to: '2026-08-03', again: true },
        ...more,
      }),
    );

  it('costs nothing the time that it has', () => {
    expect(noon({}).placings).toEqual([]);
    const had = noon({ blocks: [block('own', 'count', '2026-08-03T14:30', 60)] });
    expect(had.placings.map(({ task: of, block: own }) => [of, own])).toEqual([['count', 'own']]);
    expect([had.gone, had.unplaced]).toEqual([[], []]);
  });
});
