import fc from 'fast-check';
import { whatFits, type Fitting, type Moment } from './fitting';

const task = (id: string, more: Partial<Fitting> = {}): Fitting => ({
  ...{ id, minutes: 20, priority: 'normal', concentration: 'medium', deadline: null },
  ...{ plannedDay: null, plannedWeek: null, notBefore: null, begun: false },
  ...more,
});
const moment: Moment = {
  ...{ minutes: 25, today: '2026-08-03', deep: false, parts: { from: 120, least: 45 }, atRisk: new Set<string>() },
};
const ids = (tasks: Fitting[], more: Partial<Moment> = {}) => whatFits(tasks, { ...moment, ...more }).map(({ id }) => id);

describe('what fits', () => {
  it('is not longer than the time there is, unless a part of it fits', () => {
    const tasks = [task('short'), task('long', { minutes: 90 }), task('big', { minutes: 180 })];
    expect(ids(tasks)).toEqual(['short']);
    expect(whatFits(tasks, { ...moment, minutes: 60 }).map(({ id, minutes, part }) => [id, minutes, part])).toEqual([
      ['short', 20, false],
      ['big', 60, true],
    ]);
  });

  it('comes with what would be late first, then what is planned for now, then what matters', () => {
    const tasks = [
      task('any'),
      task('high', { priority: 'high' }),
      task('today', { plannedDay: '2026-08-03' }),
      task('danger', { priority: 'low' }),
      task('due', { deadline: '2026-08-04' }),
    ];
    expect(ids(tasks, { atRisk: new Set(['danger']) })).toEqual(['danger', 'due', 'today', 'high', 'any']);
  });

  it('says why, the weightiest first', () => {
    const [first] = whatFits(
      [task('a', { deadline: '2026-08-05', plannedDay: '2026-07-31', priority: 'high', concentration: 'light', begun: true })],
      { ...moment, atRisk: new Set(['a']) },
    );
    expect(first?.reasons).toEqual([...['late otherwise', 'due Wed 5 Aug', 'begun already', 'still open', 'high', 'light work']]);
  });

  it('suits the hour: deep work where there is time and an hour for it, and fills the time', () => {
    const tasks = [task('deep', { concentration: 'deep', minutes: 60 }), task('light', { concentration: 'light', minutes: 60 })];
    expect(ids(tasks, { minutes: 60, deep: true })[0]).toBe('deep');
    expect(ids(tasks, { minutes: 60 })[0]).toBe('light');
    expect(ids([task('brief', { minutes: 5 }), task('full', { minutes: 25 })])[0]).toBe('full');
    expect(ids([task('later', { notBefore: '2026-08-04' })])).toEqual([]);
  });

  it('never gives more than there is, and everything that fits once', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 5, max: 400 }), { maxLength: 20 }),
        fc.integer({ min: 5, max: 240 }),
        (lengths, minutes) => {
          const tasks = lengths.map((length, at) => task(`t${at}`, { minutes: length }));
          const found = whatFits(tasks, { ...moment, minutes });
          expect(found.every((one) => one.minutes <= minutes)).toBe(true);
          const wanted = tasks.filter((one) => one.minutes <= minutes || (one.minutes >= 120 && minutes >= 45));
          expect(found.map(({ id }) => id).sort()).toEqual(wanted.map(({ id }) => id).sort());
          // The first few are those of all of them.
          for (const most of [0, 1, 3]) expect(whatFits(tasks, { ...moment, minutes }, most)).toEqual(found.slice(0, most));
        },
      ),
    );
  });
});
