import fc from 'fast-check';
import { MINUTE, instantOf, wallOf } from '../../time/zones';
import { leastCost } from './bound';
import { costOfPlan, faultOf } from './cost';
import { planStretch } from './plan';
import { problem, randomProblem, type Written } from './problems.fixture';
import { readProblem } from './readProblem';

const ZONE = 'Europe/Vienna';
/** Enough to try some plans, and little enough to try many problems. */
const QUICK = 0.01;

const planned = (more: Partial<Written>, share = 1) => {
  const input = readProblem(problem(more));
  const plan = planStretch(input, share);
  expect(faultOf(input, plan.blocks)).toBeNull();
  const said = plan.blocks.map(
    ({ task, start, end }) => `${task} ${wallOf(start, ZONE).slice(8)}-${wallOf(end, ZONE).slice(11)}`,
  );
  return { ...plan, input, said };
};

describe('a plan for a stretch of days', () => {
  it('puts what matters first, deep work into deep hours, and light work out of them', () => {
    const { said, unplaced } = planned({
      tasks: [
        { id: 'figures', minutes: 120, priority: 'high', concentration: 'deep' },
        { id: 'mail', minutes: 30, priority: 'low', concentration: 'light' },
        { id: 'quote', minutes: 60, priority: 'normal' },
      ],
    });
    expect(said).toEqual(['figures 03T09:00-11:00', 'quote 03T11:00-12:00', 'mail 03T13:00-13:30']);
    expect(unplaced).toEqual([]);
  });

  it('goes around what is taken, in parts where a task may be in parts', () => {
    const busy: [string, string][] = [
      ['2026-08-03T10:00', '2026-08-03T11:00'],
      ['2026-08-03T14:30', '2026-08-03T17:30'],
    ];
    const task = { id: 'report', minutes: 120 };
    expect(planned({ busy, tasks: [{ ...task, minChunk: 60 }] }).said).toEqual([
      'report 03T09:00-10:00',
      'report 03T11:00-12:00',
    ]);
    expect(planned({ busy, tasks: [task] }).said).toEqual(['report 04T09:00-11:00']);
  });

  it('keeps order, first days, fixed deadlines and the limit of a day', () => {
    const { said } = planned({
      dailyLimit: 120,
      tasks: [
        { id: 'a', minutes: 60, priority: 'high', after: ['b'] },
        { id: 'b', minutes: 60, priority: 'low' },
        { id: 'c', minutes: 60, notBefore: '2026-08-05', priority: 'high' },
        { id: 'd', minutes: 120, deadline: '2026-08-04T12:00', fixed: true, priority: 'low' },
      ],
    });
    expect(said).toEqual(['b 03T09:00-10:00', 'a 03T10:00-11:00', 'd 04T09:00-11:00', 'c 05T09:00-10:00']);
  });

  it('comes after what stays where it is, which counts for the limit of its day', () => {
    const kept = [{ task: 'b', start: '2026-08-03T13:00', end: '2026-08-03T14:00' }];
    const tasks = [{ id: 'a', minutes: 60, after: ['b'] }];
    expect(planned({ kept, tasks }).said).toEqual(['a 03T14:00-15:00']);
    expect(planned({ kept, dailyLimit: 90, tasks }).said).toEqual(['a 04T09:00-10:00']);
  });

  it('does together what is done in one place', () => {
    const busy: [string, string][] = [['2026-08-03T09:45', '2026-08-03T11:30']];
    const tasks = ['a', 'b'].map((id) => ({ id, minutes: 30, place: 'town' }));
    const other = { id: 'c', minutes: 30 };
    expect(planned({ busy, tasks: [...tasks, other] }).said).toEqual([
      'c 03T09:00-09:30',
      'a 03T13:00-13:30',
      'b 03T13:30-14:00',
    ]);
  });

  it('leaves what was seen where it was, unless moving it is worth its price', () => {
    const seen: [string, string][] = [['2026-08-03T14:00', '2026-08-03T15:00']];
    expect(planned({ tasks: [{ id: 'a', minutes: 60, seen }] }).said).toEqual(['a 03T14:00-15:00']);
    const nextDay: [string, string][] = [['2026-08-05T14:00', '2026-08-05T15:00']];
    expect(planned({ tasks: [{ id: 'a', minutes: 60, seen: nextDay }] }).said).toEqual(['a 03T09:00-10:00']);
  });

  it('is on the grid by the wall clock on days on which the clock changes', () => {
    for (const day of ['2026-03-29', '2026-10-25']) {
      const { blocks, said } = planned({
        from: `${day}T00:00`,
        days: 1,
        grid: 30,
        hours: { 7: ['00:00-06:00'] },
        tasks: [{ id: 'a', minutes: day < '2026-06' ? 300 : 420 }],
      });
      expect(said).toEqual(['a '.concat(day.slice(8), 'T00:00-06:00')]);
      expect(blocks[0]?.end).toBe(instantOf(`${day}T06:00`, ZONE));
    }
  });

  it('is valid whatever the problem, the same again, and never cheaper than its bound', () => {
    fc.assert(
      fc.property(randomProblem(), (written) => {
        const input = readProblem(written);
        const plan = planStretch(input, QUICK);
        expect(faultOf(input, plan.blocks)).toBeNull();
        expect(planStretch(input, QUICK)).toEqual(plan);
        expect(leastCost(input, 20, plan.cost)).toBeLessThanOrEqual(plan.cost + 1e-6);
        const placed = new Set(plan.blocks.map(({ task }) => task));
        expect([...placed, ...plan.unplaced.map(({ task }) => task)].sort()).toEqual(input.tasks.map(({ id }) => id).sort());
      }),
      { numRuns: 150 },
    );
  });

  it('is the best there is, by trying everything, where tasks are in one piece', () => {
    fc.assert(
      fc.property(randomProblem({ most: 3, pieces: false, days: 1, grid: 60 }), (written) => {
        const input = readProblem(written);
        expect(planStretch(input, QUICK * 10).cost).toBeCloseTo(cheapestByTrying(input), 6);
      }),
      { numRuns: 60 },
    );
  });

  it('plans thousands of tasks, and a year of nothing but meetings', () => {
    const tasks = Array.from({ length: 5000 }, (_, at) => ({ id: `t${at}`, minutes: 30, after: at % 7 ? [] : [`t${at + 1}`] }));
    const { blocks, unplaced } = planned(
      { days: 30, tasks: tasks.slice(0, 4999).concat({ id: 't4999', minutes: 30, after: [] }) },
      0.001,
    );
    expect(blocks.length + unplaced.length).toBe(5000);
    const full = planned({ days: 366, busy: [['2026-08-03T00:00', '2027-08-04T00:00']], tasks: [{ id: 'a', minutes: 30 }] });
    expect(full.unplaced).toMatchObject([{ task: 'a', why: 'no-time' }]);
  });
});

/** Every start of every task on full hours, or none. */
function cheapestByTrying(input: ReturnType<typeof readProblem>): number {
  let best = Infinity;
  const starts = input.working.flatMap(({ start, end }) =>
    Array.from({ length: Math.floor((end - start) / (60 * MINUTE)) }, (_, at) => start + at * 60 * MINUTE),
  );
  const tryFrom = (at: number, blocks: { task: string; start: number; end: number }[]) => {
    const task = input.tasks[at];
    if (!task) {
      if (faultOf(input, blocks) === null) best = Math.min(best, costOfPlan(input, blocks));
      return;
    }
    tryFrom(at + 1, blocks);
    const length = Math.ceil(task.minutes / 60) * 60 * MINUTE;
    for (const start of starts) tryFrom(at + 1, [...blocks, { task: task.id, start, end: start + length }]);
  };
  tryFrom(0, []);
  return best;
}
