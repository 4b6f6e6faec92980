import fc from 'fast-check';
import { placedAfter, type Ordered } from './order';

const inOrder = (all: readonly Ordered[]) => [...all].sort((a, b) => a.position - b.position || (a.id < b.id ? -1 : 1));
const written = (all: readonly Ordered[], placed: ReadonlyMap<string, number>) =>
  inOrder(all.map((one) => ({ id: one.id, position: placed.get(one.id) ?? one.position }))).map(({ id }) => id);

describe('placedAfter', () => {
  it('puts one between two others and leaves those where they are', () => {
    const all = [
      { id: 'a', position: 0 },
      { id: 'b', position: 10 },
      { id: 'c', position: 20 },
    ];
    expect([...placedAfter(all, ['c'], 'a')]).toEqual([['c', 5]]);
    expect([...placedAfter(all, ['c'], null)]).toEqual([['c', -2048 + 1024]]);
    expect([...placedAfter(all, ['a'], 'c')]).toEqual([['a', 20 + 1024]]);
  });

  it('makes room where there is none, and stops as soon as there is', () => {
    const all = [
      { id: 'a', position: 0 },
      { id: 'b', position: 1 },
      { id: 'c', position: 5000 },
      { id: 'x', position: 9000 },
    ];
    const placed = placedAfter(all, ['x'], 'a');
    expect(placed.has('c')).toBe(false);
    expect(written(all, placed)).toEqual(['a', 'x', 'b', 'c']);
  });

  it('gives the wanted order, wherever the others stand', () => {
    const siblings = fc
      .array(fc.integer({ min: -5, max: 40 }), { minLength: 1, maxLength: 12 })
      .map((positions) => inOrder(positions.map((position, at) => ({ id: `t${String(at).padStart(2, '0')}`, position }))));
    fc.assert(
      fc.property(
        siblings,
        fc.array(fc.nat(11), { minLength: 1, maxLength: 4 }),
        fc.option(fc.nat(11)),
        (all, picked, target) => {
          const moving = [...new Set(picked.map((at) => all[at % all.length]?.id ?? ''))];
          const rest = all.filter(({ id }) => !moving.includes(id)).map(({ id }) => id);
          const after = target === null || !rest.length ? null : (rest[target % rest.length] ?? null);
          const at = after === null ? 0 : rest.indexOf(after) + 1;
          expect(written(all, placedAfter(all, moving, after))).toEqual([...rest.slice(0, at), ...moving, ...rest.slice(at)]);
        },
      ),
    );
  });
});
