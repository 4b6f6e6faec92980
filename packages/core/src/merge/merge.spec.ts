import fc from 'fast-check';
import { merge, seenThere, type Fields } from './merge';

const state = fc.record({
  title: fc.constantFrom('a', 'b', 'c'),
  due: fc.constantFrom(null, '2026-08-04', '2026-08-05'),
  estimate: fc.constantFrom(null, 30, 60),
  done: fc.boolean(),
});

describe('merging two states of one thing', () => {
  it('follows whoever changed a field, and leaves a field alone that both changed differently', () => {
    const base = { title: 'Order decking', due: '2026-08-10', estimate: 45, done: false };
    const merged = merge(
      base,
      { ...base, estimate: 60, title: 'Order larch decking' },
      { ...base, due: '2026-08-12', title: 'Order decking, 48 m' },
    );
    expect(merged.toHere).toEqual({ due: '2026-08-12' });
    expect(merged.toThere).toEqual({ estimate: 60 });
    expect(merged.conflicts).toEqual([
      { field: 'title', base: 'Order decking', here: 'Order larch decking', there: 'Order decking, 48 m' },
    ]);
    expect(merged.base).toEqual({ title: 'Order decking', due: '2026-08-12', estimate: 45, done: false });
  });

  it('agrees where both made the same change, and leaves fields out that the other place does not have', () => {
    const merged = merge({ title: 'a', estimate: 30 }, { title: 'b', estimate: 60 }, { title: 'b' });
    expect(merged).toEqual({ toHere: {}, toThere: {}, base: { title: 'b', estimate: 30 }, conflicts: [] });
  });

  it('applied on both sides, everything but the conflicts is the same in both places, whoever asks', () => {
    fc.assert(
      fc.property(state, state, state, (base: Fields, here: Fields, there: Fields) => {
        const merged = merge(base, here, there);
        const [after, far] = [
          { ...here, ...merged.toHere },
          { ...there, ...merged.toThere },
        ];
        const open = new Set(merged.conflicts.map((one) => one.field));
        for (const field of Object.keys(there)) {
          if (open.has(field)) expect([after[field], far[field]]).toEqual([here[field], there[field]]);
          else expect(after[field]).toEqual(far[field]);
        }
        const turned = merge(base, there, here);
        expect(turned.toThere).toEqual(merged.toHere);
        expect(turned.conflicts.map((one) => one.field).sort()).toEqual([...open].sort());
      }),
    );
  });

  it('taken back here while it was being written there: the other place follows, and nothing is undone here', () => {
    const sent = { done: true };
    const seen = seenThere({ title: 'a', done: false }, sent, { title: 'a', done: true });
    expect(seen).toEqual({ base: { title: 'a', done: true }, sending: {} });
    expect(merge(seen.base, { title: 'a', done: false }, { title: 'a', done: true })).toMatchObject({
      toHere: {},
      toThere: { done: false },
    });
    expect(seenThere({ done: false }, sent, { done: false })).toEqual({ base: { done: false }, sending: sent });
  });

  it('a second merge after the first one finds nothing more to do', () => {
    fc.assert(
      fc.property(state, state, state, (base: Fields, here: Fields, there: Fields) => {
        const first = merge(base, here, there);
        const settled = { ...first.base, ...first.toThere };
        const again = merge(settled, { ...here, ...first.toHere }, { ...there, ...first.toThere });
        expect([again.toHere, again.toThere]).toEqual([{}, {}]);
      }),
    );
  });
});
