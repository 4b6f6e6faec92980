import type { StreamChange } from '@corvun/contract';
import fc from 'fast-check';
import { Ledger } from '../src/data/ledger';

const task = (id: number): StreamChange[] => [{ kind: 'task', ids: [String(id)] }];

function setUp() {
  const applied: string[] = [];
  const timers: (() => void)[] = [];
  const ledger = new Ledger((work) => void timers.push(work));
  ledger.begin((changes) => applied.push(...changes.flatMap((change) => change.ids)), 0);
  return { ledger, applied, timers };
}

describe('the ledger of a window', () => {
  it('applies its own change once: with the answer, and not again with its echo', () => {
    const { ledger, applied } = setUp();
    const answered = ledger.asking();
    ledger.heard({ revision: 1, changes: task(1) });
    expect(applied).toEqual([]);
    answered({ revisions: [1], changes: task(1) });
    expect(applied).toEqual(['1']);
    ledger.heard({ revision: 1, changes: task(1) });
    expect([applied, ledger.revision]).toEqual([['1'], 1]);
  });

  it('applies what others did meanwhile after the answer', () => {
    const { ledger, applied } = setUp();
    const answered = ledger.asking();
    ledger.heard({ revision: 1, changes: task(1) });
    ledger.heard({ revision: 2, changes: task(2) });
    answered({ revisions: [2], changes: task(2) });
    expect([applied, ledger.revision]).toEqual([['2', '1'], 2]);
  });

  it('does not wait for ever for an answer', () => {
    const { ledger, applied, timers } = setUp();
    const answered = ledger.asking();
    ledger.heard({ revision: 1, changes: task(1) });
    timers.forEach((work) => work());
    expect(applied).toEqual(['1']);
    answered({ revisions: [1], changes: task(1) });
    expect(applied).toEqual(['1']);
    ledger.heard({ revision: 2, changes: task(2) });
    expect(applied).toEqual(['1', '2']);
  });

  it('applies states that are not in the log each time they are told', () => {
    const { ledger, applied } = setUp();
    ledger.heard({ revision: null, changes: [{ kind: 'source', ids: ['s'] }] });
    ledger.heard({ revision: null, changes: [{ kind: 'source', ids: ['s'] }] });
    expect(applied).toEqual(['s', 's']);
  });

  it('knows everything after it was loaded anew, and nothing before', () => {
    const { ledger, applied } = setUp();
    ledger.skipTo(9);
    ledger.heard({ revision: 8, changes: task(8) });
    ledger.heard({ revision: 10, changes: task(10) });
    expect([applied, ledger.revision]).toEqual([['10'], 10]);
  });

  it('applies every change exactly once, however answers and the stream fall', () => {
    // Each entry: whether it is of this window, and how much later than its telling the answer comes.
    const entry = fc.record({ own: fc.boolean(), later: fc.integer({ min: 0, max: 4 }), again: fc.boolean() });
    fc.assert(
      fc.property(fc.array(entry, { minLength: 1, maxLength: 20 }), (entries) => {
        const { ledger, applied } = setUp();
        const answers: { at: number; give: () => void }[] = [];
        const giveUntil = (at: number) => {
          for (const one of answers.splice(0)) {
            if (one.at <= at) one.give();
            else answers.push(one);
          }
        };
        entries.forEach(({ own, later, again }, index) => {
          const revision = index + 1;
          if (own) {
            const answered = ledger.asking();
            answers.push({ at: index + later, give: () => answered({ revisions: [revision], changes: task(revision) }) });
          }
          ledger.heard({ revision, changes: task(revision) });
          // After a break the stream tells again what was told before.
          if (again) ledger.heard({ revision, changes: task(revision) });
          giveUntil(index);
        });
        giveUntil(Infinity);
        expect([...applied].sort((a, b) => Number(a) - Number(b))).toEqual(entries.map((_, index) => String(index + 1)));
        expect(ledger.revision).toBe(entries.length);
      }),
      { numRuns: 2000 },
    );
  });
});
