import { looseEndsOf, type LooseEnd } from './looseEnds';

const loose = (kind: LooseEnd['kind'], taskId: string, at: number, more: Partial<LooseEnd> = {}): LooseEnd => ({
  ...{ kind, id: taskId, taskId, title: taskId, at, minutes: null, who: '' },
  ...more,
});
const said = (found: LooseEnd[], busyWith: string[] = []) =>
  looseEndsOf(found, new Set(busyWith)).map(({ kind, id }) => `${kind} ${id}`);

describe('loose ends', () => {
  it('stand in the order in which they want something, the latest first', () => {
    const all = [
      loose('took', 'e', 9),
      loose('begun', 'd', 9),
      loose('waiting', 'c', 9),
      loose('over', 'a', 1),
      loose('over', 'b', 2),
    ];
    expect(said([...all, loose('reminder', 'r', 5, { taskId: null })])).toEqual([
      ...['over b', 'over a', 'reminder r', 'waiting c', 'begun d', 'took e'],
    ]);
  });

  it('name each task once', () => {
    expect(said([loose('begun', 'a', 9), loose('over', 'a', 1), loose('over', 'a', 2)])).toEqual(['over a']);
    expect(said([loose('reminder', 'r', 5, { taskId: 'a' }), loose('begun', 'a', 9)])).toEqual(['reminder r']);
  });

  it('are none where one is at it, or has time for it to come', () => {
    expect(said([loose('begun', 'a', 9), loose('over', 'b', 9), loose('waiting', 'c', 9)], ['a', 'b', 'c'])).toEqual([
      'waiting c',
    ]);
  });
});
