import fc from 'fast-check';
import type { PlanInput, PlanTask } from './plan';
import { mostPressing } from './propose';

const task = (id: string, more: Partial<PlanTask> = {}): PlanTask => ({
  ...{ id, minutes: 30, minChunk: null, notBefore: null, deadline: null, fixed: false, priority: 'normal' },
  ...{ concentration: 'medium', after: [], place: null, seen: [] },
  ...more,
});
const input = (tasks: PlanTask[]): PlanInput => ({
  ...{ zone: 'Europe/Vienna', from: 0, grid: 15, working: [], busy: [], kept: [], dailyLimit: null, deep: [] },
  tasks,
});

describe('more tasks than a plan can hold', () => {
  it('are those that are due first, of these those that matter most; and nothing waits for what is not there', () => {
    const tasks = [
      task('z'),
      task('c', { priority: 'high', deadline: 2 }),
      task('b', { deadline: 2, after: ['z', 'a'] }),
      task('a', { deadline: 1, priority: 'low' }),
    ];
    const kept = mostPressing(input(tasks), 3).tasks;
    expect(kept.map(({ id, after }) => [id, after])).toEqual([
      ['a', []],
      ['c', []],
      ['b', ['a']],
    ]);
  });

  it('as many as it can hold, or all of them as they are', () => {
    const dues = fc.array(fc.option(fc.nat(5)), { maxLength: 20 });
    fc.assert(
      fc.property(dues, fc.nat(20), (deadlines, most) => {
        const posed = input(deadlines.map((deadline, at) => task(String(at), { deadline })));
        const kept = mostPressing(posed, most);
        expect(kept.tasks).toHaveLength(Math.min(most, deadlines.length));
        if (deadlines.length <= most) expect(kept).toBe(posed);
      }),
    );
  });
});
