import fc from 'fast-check';
import { MINUTE } from '../time/zones';
import { pushRest, runningAt, type Timed } from './running';

const at = (hour: number, minute = 0) => Date.UTC(2026, 7, 3, hour, minute);
const timed = (id: string, kind: Timed['kind'], start: number, end: number, more: Partial<Timed> = {}): Timed => ({
  ...{ id, kind, start, end, done: false, takes: true, leave: null },
  ...more,
});

describe('what runs', () => {
  const grant = timed('grant', 'block', at(10, 15), at(11, 45));
  const walk = timed('walk', 'event', at(12), at(13, 30), { leave: at(11, 50) });

  it('says how long still, and the gap before one has to get up', () => {
    expect(runningAt([walk, grant], at(11, 7))).toMatchObject({ now: grant, left: 38, next: walk, gap: 5 });
    expect(runningAt([walk], at(11, 7))).toMatchObject({ now: null, left: 0, next: walk, gap: 43 });
    expect(runningAt([], at(11))).toMatchObject({ now: null, next: null, gap: null });
  });

  it('is what is promised to others first, then what began last; what is done or takes no time does not run', () => {
    const call = timed('call', 'event', at(11), at(11, 30));
    const later = timed('later', 'block', at(11), at(12));
    expect(runningAt([grant, later, call], at(11, 7))).toMatchObject({ now: call, also: [later, grant] });
    const none = [timed('a', 'block', at(11), at(12), { done: true }), timed('b', 'event', at(11), at(12), { takes: false })];
    expect(runningAt(none, at(11, 7)).now).toBeNull();
  });

  it('ends when it ends: at that instant the next has its turn', () => {
    expect(runningAt([grant, walk], at(11, 45)).now).toBeNull();
    expect(runningAt([grant, walk], at(12)).now).toBe(walk);
  });
});

describe('what takes longer', () => {
  const block = (id: string, start: number, end: number, pinned = false) => ({ id, start, end, pinned });
  const runs = { start: at(10), end: at(11) };
  const walk = { start: at(12), end: at(13) };

  it('goes on and pushes what comes', () => {
    expect(pushRest(runs, 30, [walk], [block('a', at(11), at(11, 30))], at(17))).toEqual({
      ...{ end: at(11, 30), more: [], short: 0, out: [] },
      moves: [{ id: 'a', start: at(11, 30), end: at(12) }],
    });
  });

  it('goes around what does not give way, and what it pushes does, too', () => {
    const pushed = pushRest(runs, 90, [walk], [block('a', at(11), at(11, 30)), block('pin', at(13), at(14), true)], at(17));
    expect(pushed).toEqual({
      ...{ end: at(12), more: [{ start: at(14), end: at(14, 30) }], short: 0, out: [] },
      moves: [{ id: 'a', start: at(14, 30), end: at(15) }],
    });
  });

  it('says what has no room any more, and of itself how much', () => {
    expect(pushRest(runs, 90, [walk], [block('a', at(11), at(12))], at(13))).toMatchObject({ short: 30, moves: [], out: ['a'] });
  });

  it('lets nothing overlap that did not before, and loses nothing', () => {
    const stretch = fc.record({ start: fc.integer({ min: 12, max: 60 }), length: fc.integer({ min: 1, max: 12 }) });
    const free = (all: { start: number; end: number }[]) =>
      all.sort((a, b) => a.start - b.start).every((one, index) => index === 0 || one.start >= (all[index - 1]?.end ?? 0));
    fc.assert(
      fc.property(fc.array(stretch, { maxLength: 8 }), fc.integer({ min: 1, max: 30 }), (made, quarters) => {
        let from = at(11);
        const day = made.map(({ start, length }, index) => {
          const begins = from + (start % 5) * 15 * MINUTE;
          from = begins + length * 15 * MINUTE;
          return { ...block(String(index), begins, from, index % 4 === 3), firm: index % 3 === 0 };
        });
        const until = Math.max(from, at(18));
        const firm = day.filter((one) => one.firm);
        const later = day.filter((one) => !one.firm);
        const { end, more, moves, out, short } = pushRest(runs, quarters * 15, firm, later, until);
        const own = later
          .filter(({ id }) => !out.includes(id))
          .map((one) => ({ ...one, ...moves.find(({ id }) => id === one.id) }));
        expect(free([{ start: runs.start, end }, ...more, ...firm, ...own])).toBe(true);
        expect(own.length + out.length).toBe(later.length);
        expect(
          own.every(
            (one) =>
              one.end - one.start ===
              (later.find(({ id }) => id === one.id)?.end ?? 0) - (later.find(({ id }) => id === one.id)?.start ?? 0),
          ),
        ).toBe(true);
        const got = [{ start: runs.end, end }, ...more].reduce((sum, one) => sum + (one.end - one.start) / MINUTE, 0);
        expect(got + short).toBe(quarters * 15);
      }),
    );
  });
});
