import fc from 'fast-check';
import { MINUTE } from '../time/zones';
import { mendsOf } from './mends';
import { safeStarts } from './safeStart';

const span = (from: number, to: number) => ({ start: from * MINUTE, end: to * MINUTE });
const own = (id: string, from: number, to: number, pinned = false) => ({
  ...{ id, taskId: 'x', pinned, quiet: false },
  ...span(from, to),
});

describe('what would mend work that is late', () => {
  const free = [span(0, 60), span(100, 160), span(200, 260)];
  const demands = [
    { id: 'late', minutes: 90, deadline: 100 * MINUTE },
    { id: 'other', minutes: 20, deadline: 160 * MINUTE },
  ];

  it('is less of it, a later deadline, or own time that goes elsewhere', () => {
    expect(mendsOf('late', free, demands, [own('short', 60, 70), own('long', 70, 100)])).toEqual({
      ...{ shorten: 30, later: 160 * MINUTE },
      moves: [own('long', 70, 100)],
    });
    expect(mendsOf('late', free, demands, [own('a', 60, 80), own('b', 80, 95)]).moves.map(({ id }) => id)).toEqual(['a', 'b']);
    expect(mendsOf('late', free, demands, [own('a', 60, 80), own('b', 80, 95, true)]).moves).toEqual([]);
    expect(mendsOf('late', free.slice(0, 1), demands, []).later).toBeNull();
  });

  it('lets it fit when it is done', () => {
    const stretch = fc.tuple(fc.integer({ min: 1, max: 40 }), fc.integer({ min: 1, max: 60 }));
    const demand = fc.tuple(fc.integer({ min: 1, max: 80 }), fc.integer({ min: 1, max: 200 }));
    fc.assert(
      fc.property(
        fc.array(stretch, { minLength: 1, maxLength: 6 }),
        fc.array(demand, { minLength: 1, maxLength: 4 }),
        (gaps, wanted) => {
          let at = 0;
          const all = gaps.map(([pause, length]) => {
            const start = at + pause;
            at = start + length;
            return span(start, at);
          });
          const work = wanted.map(([minutes, deadline], index) => ({ id: `${index}`, minutes, deadline: deadline * MINUTE }));
          for (const { id, lateMinutes } of safeStarts(all, work)) {
            if (lateMinutes === 0) continue;
            const { shorten, later } = mendsOf(id, all, work, []);
            const lateWith = (change: object) =>
              safeStarts(
                all,
                work.map((one) => (one.id === id ? { ...one, ...change } : one)),
              ).find((one) => one.id === id)?.lateMinutes;
            const minutes = work.find((one) => one.id === id)?.minutes ?? 0;
            expect(lateWith({ minutes: minutes - shorten })).toBe(0);
            if (later !== null) expect(lateWith({ deadline: later })).toBe(0);
          }
        },
      ),
    );
  });
});
