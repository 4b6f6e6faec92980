import fc from 'fast-check';
import { COUNTERS, stepsBack, condensed, stepFits, stepBetween, afterStep, type Content, type Step } from './steps';

type Table = Map<string, Content>;

const value = fc.oneof(fc.integer({ min: 0, max: 3 }), fc.constantFrom('a', 'b', null), fc.array(fc.integer(), { maxLength: 2 }));
/** Like the doings of a user: some row is made, changed or taken away. */
const doing = fc.record({
  id: fc.constantFrom('one', 'two', 'three'),
  what: fc.constantFrom('make', 'change', 'change', 'remove'),
  column: fc.constantFrom('title', 'day', 'tags'),
  value,
});
type Doing = { id: string; what: string; column: string; value: unknown };

/** Carries a doing out and gives its step; null where it changes nothing. */
function carryOut(table: Table, { id, what, column, value: wanted }: Doing): Step | null {
  const before = table.get(id) ?? null;
  if ((what === 'make') === (before !== null)) return null;
  const after =
    what === 'remove'
      ? null
      : {
          ...(before ?? { title: '', day: null, tags: [], version: 0 }),
          [column]: wanted,
          version: Number(before?.['version'] ?? 0) + 1,
        };
  put(table, id, after);
  return stepBetween('task', id, before, after);
}

function put(table: Table, id: string, row: Content | null): void {
  if (row) table.set(id, row);
  else table.delete(id);
}

function take(table: Table, steps: readonly Step[]): void {
  for (const step of steps) {
    const present = table.get(step.id) ?? null;
    expect(stepFits(present, step)).toBe(true);
    put(table, step.id, afterStep(present, step));
  }
}

const state = (table: Table): string =>
  JSON.stringify(
    [...table].sort().map(([id, row]) => [
      id,
      Object.entries(row)
        .filter(([column]) => !COUNTERS.includes(column))
        .sort(),
    ]),
  );

describe('steps', () => {
  it('lead back exactly and forth again exactly, whatever was done, in units of any size', () => {
    fc.assert(
      fc.property(fc.array(fc.array(doing, { minLength: 1, maxLength: 6 }), { minLength: 1, maxLength: 8 }), (units) => {
        const table: Table = new Map();
        const states = [state(table)];
        const log: Step[][] = [];
        for (const unit of units) {
          log.push(condensed(unit.flatMap((one) => carryOut(table, one) ?? [])));
          states.push(state(table));
        }
        for (let at = log.length - 1; at >= 0; at -= 1) {
          take(table, stepsBack(log[at] ?? []));
          expect(state(table)).toBe(states[at]);
        }
        for (const [at, steps] of log.entries()) {
          take(table, steps);
          expect(state(table)).toBe(states[at + 1]);
        }
      }),
      { numRuns: 3000 },
    );
  });

  it('of one unit on one row are one step, and none where it is as it was', () => {
    fc.assert(
      fc.property(fc.array(doing, { maxLength: 8 }), (unit) => {
        const table: Table = new Map([['one', { title: 'x', day: null, tags: [], version: 4 }]]);
        const before = state(table);
        const steps = condensed(unit.flatMap((one) => carryOut(table, one) ?? []));
        expect(new Set(steps.map(({ id }) => id)).size).toBe(steps.length);
        expect(steps.length === 0).toBe(state(table) === before);
      }),
      { numRuns: 2000 },
    );
  });

  it('keep only what differs, and whole rows where one comes or goes', () => {
    const row = { title: 'Mow', day: null, tags: ['fen'], version: 1, changed: 5 };
    expect(stepBetween('task', 'a', row, { ...row, day: '2026-08-04', version: 2, changed: 9 })).toEqual({
      kind: 'task',
      id: 'a',
      before: { day: null },
      after: { day: '2026-08-04' },
    });
    expect(stepBetween('task', 'a', row, { ...row, version: 2 })).toBeNull();
    expect(stepBetween('task', 'a', null, row)).toEqual({ kind: 'task', id: 'a', before: null, after: row });
  });

  it('fit as long as the columns they change are as they were', () => {
    const step = { kind: 'task', id: 'a', before: { day: '2026-08-04' }, after: { day: null } };
    expect(stepFits({ title: 'changed since', day: '2026-08-04' }, step)).toBe(true);
    expect(stepFits({ title: 'Mow', day: '2026-08-05' }, step)).toBe(false);
    expect(stepFits(null, step)).toBe(false);
    expect(stepFits({ title: 'Mow' }, { ...step, before: null, after: { title: 'Mow' } })).toBe(false);
    expect(stepFits({ title: 'changed since' }, { ...step, before: { title: 'Mow' }, after: null })).toBe(true);
  });
});
