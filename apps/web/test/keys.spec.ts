import { KEYS, clashes, keyName } from '../src/keys';

describe('the keys', () => {
  it('are claimed once in each place', () => {
    expect(clashes(KEYS)).toEqual([]);
  });

  it('are refused when two commands of a place, or of a place and of all, claim one', () => {
    expect(clashes({ sort: { list: 'l', later: 'l' } })).toEqual(['l: sort.list and sort.later']);
    expect(clashes({ everywhere: { find: 'f' }, plan: { first: 'f' } })).toEqual(['f: everywhere.find and plan.first']);
    expect(clashes({ plan: { today: 't' }, entry: { tick: 't' } })).toEqual(['t: plan.today and entry.tick']);
    expect(clashes({ sort: { drop: 'x' }, plan: { done: 'x' }, everywhere: { find: 'F' } })).toEqual([]);
  });

  it('are shown as they are pressed', () => {
    expect(['M', 'm', 'ArrowUp', 'Backspace', '?'].map(keyName)).toEqual(['⇧M', 'M', '↑', '⌫', '?']);
  });
});
