import fc from 'fast-check';
import { MINUTE } from '../time/zones';
import { loadOfDay } from './load';

/** Minutes after midnight, as instants. */
const from = (start: number, end: number) => ({ start: start * MINUTE, end: end * MINUTE });
const WORKING = [from(540, 720), from(780, 1050)];

describe('the load of a day', () => {
  it('is what is promised of its working time', () => {
    const load = loadOfDay({
      working: WORKING,
      meetings: [from(600, 660)],
      buffers: [from(650, 675)],
      blocks: [from(780, 870)],
      unplaced: 45,
    });
    expect(load).toEqual({ capacity: 450, meetings: 60, buffers: 15, blocks: 90, unplaced: 45, left: 240, over: 0 });
  });

  it('counts two meetings at once once, and a block under a meeting beside it', () => {
    const meetings = [from(600, 660), from(630, 690)];
    expect(loadOfDay({ working: WORKING, meetings, buffers: [], blocks: [], unplaced: 0 }).meetings).toBe(90);
    expect(loadOfDay({ working: WORKING, meetings, buffers: [], blocks: [from(600, 690)], unplaced: 0 })).toMatchObject({
      meetings: 90,
      blocks: 90,
      left: 270,
    });
  });

  it('leaves out what lies outside the working time: before, over noon, after', () => {
    const meetings = [from(420, 570), from(700, 800), from(1040, 1200)];
    expect(loadOfDay({ working: WORKING, meetings, buffers: [], blocks: [], unplaced: 0 }).meetings).toBe(30 + 20 + 20 + 10);
  });

  it('says by how much more is promised than there is, and has nothing left then', () => {
    expect(loadOfDay({ working: [], meetings: [from(600, 660)], buffers: [], blocks: [], unplaced: 30 })).toEqual({
      capacity: 0,
      meetings: 0,
      buffers: 0,
      blocks: 0,
      unplaced: 30,
      left: 0,
      over: 30,
    });
  });

  it('adds up, whatever lies in the day', () => {
    const span = fc
      .tuple(fc.integer({ min: 0, max: 1380 }), fc.integer({ min: 5, max: 300 }))
      .map(([start, length]) => from(start, start + length));
    fc.assert(
      fc.property(
        fc.array(span),
        fc.array(span),
        fc.array(span),
        fc.integer({ min: 0, max: 900 }),
        (meetings, buffers, blocks, unplaced) => {
          const load = loadOfDay({ working: WORKING, meetings, buffers, blocks, unplaced });
          expect(load.left - load.over).toBe(load.capacity - load.meetings - load.buffers - load.blocks - load.unplaced);
          expect(Math.min(load.left, load.over)).toBe(0);
          expect(Math.max(load.meetings, load.blocks)).toBeLessThanOrEqual(load.capacity);
        },
      ),
    );
  });
});
