import fc from 'fast-check';
import { betterEstimate, type Took } from './estimates';

const took = (estimate: number | null, spent: number, more: Partial<Took> = {}): Took => ({
  ...{ title: `Task ${spent}`, listId: 'field', tags: [], concentration: 'medium', estimate, spent },
  ...more,
});
const times = (count: number, one: Took) => Array.from({ length: count }, () => one);
const task = took(60, 0, { title: 'Count the orchids' });

describe('a better estimate', () => {
  it('is what the same task took, whatever was planned', () => {
    const same = [30, 50, 400].map((spent) => took(null, spent, { title: ' count THE orchids ' }));
    expect(betterEstimate({ ...task, estimate: null }, same)).toEqual({ minutes: 50, ratio: null, count: 3, like: 'title' });
    expect(betterEstimate({ ...task, estimate: null }, same.slice(1))).toBeNull();
  });

  it('goes by those of the list with its tag, then by the list, then by the kind of work', () => {
    const site = times(4, took(30, 60, { tags: ['site'] }));
    const list = times(5, took(30, 45));
    const others = times(8, took(30, 15, { listId: 'other' }));
    const tagged = { ...task, tags: ['site'] };
    expect(betterEstimate(tagged, [...site, ...list, ...others])).toEqual({ minutes: 120, ratio: 2, count: 4, like: 'tag' });
    expect(betterEstimate(task, [...list, ...others])).toEqual({ minutes: 90, ratio: 1.5, count: 5, like: 'list' });
    expect(betterEstimate({ ...task, listId: null }, others)).toEqual({
      minutes: 30,
      ratio: 0.5,
      count: 8,
      like: 'concentration',
    });
  });

  it('is not said where there are too few, or where they took what was planned', () => {
    expect(betterEstimate(task, times(4, took(30, 60)))).toBeNull();
    expect(betterEstimate(task, times(9, took(30, 33)))).toBeNull();
    expect(betterEstimate(task, times(9, took(30, 0)))).toBeNull();
  });

  it('is not moved far by one that went wrong', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 6000 }), (wrong) => {
        const better = betterEstimate(task, [...times(8, took(60, 90)), took(60, wrong)]);
        expect(better?.minutes).toBe(90);
      }),
    );
  });
});
