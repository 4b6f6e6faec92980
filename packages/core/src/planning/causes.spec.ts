import fc from 'fast-check';
import { MINUTE } from '../time/zones';
import { causesOf } from './causes';
import { isAtRisk, safeStarts, type Demand } from './safeStart';

const HOUR = 60 * MINUTE;
/** Eight free hours on each of ten days. */
const FREE = Array.from({ length: 10 }, (_, day) => ({ start: day * 24 * HOUR, end: (day * 24 + 8) * HOUR }));
const by = (id: string, hours: number, day: number): Demand => ({ id, minutes: hours * 60, deadline: (day * 24 + 8) * HOUR });
const risky = (demands: Demand[]) => safeStarts(FREE, demands).flatMap((one) => (isAtRisk(one) ? one.id : []));

describe('what puts deadlines at risk', () => {
  it('is the one that takes what the others need: with what it would have to give', () => {
    const others = [by('a', 2, 1), by('b', 2, 1), by('c', 3, 2), by('d', 1, 2)];
    const all = [...others, by('survey', 20, 2)];
    expect(risky(all).length).toBeGreaterThan(3);
    const [cause, ...more] = causesOf(FREE, all);
    expect(more).toEqual([]);
    expect(cause).toEqual({ id: 'survey', gives: expect.any(Number) as number, spares: ['a', 'b', 'c', 'd'] });
    // 24 hours until then, 8 of them for the others, two free before each: 14 are left for it.
    expect(cause?.gives).toBe(6 * 60);
  });

  it('is nobody where two want the same time, or all together are too much', () => {
    expect(causesOf(FREE, [by('a', 5, 0), by('b', 5, 0)])).toEqual([]);
    expect(causesOf(FREE, [])).toEqual([]);
    const many = Array.from({ length: 30 }, (_, at) => by(`t${at}`, 3, 2));
    expect(causesOf(FREE, many)).toEqual([]);
  });

  it('whoever is spared is safe without the causes, and with them as much smaller as they are said to have to be', () => {
    const demand = fc.record({
      id: fc.nat(30).map(String),
      minutes: fc.integer({ min: 15, max: 1500 }),
      deadline: fc.integer({ min: 1, max: 240 }).map((hours) => hours * HOUR),
    });
    fc.assert(
      fc.property(fc.uniqueArray(demand, { selector: ({ id }) => id, maxLength: 12 }), (demands) => {
        const causes = causesOf(FREE, demands);
        const named = new Set(causes.map(({ id }) => id));
        const without = new Set(risky(demands.filter(({ id }) => !named.has(id))));
        for (const { spares } of causes) for (const id of spares) expect(named.has(id) || !without.has(id)).toBe(true);
        const [first] = causes;
        if (!first) return;
        const smaller = demands.map((one) => (one.id === first.id ? { ...one, minutes: one.minutes - first.gives } : one));
        const still = new Set(risky(smaller));
        for (const id of first.spares) expect(still.has(id)).toBe(false);
      }),
    );
  });
});
