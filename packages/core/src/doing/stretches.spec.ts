import fc from 'fast-check';
import { MINUTE, instantOf } from '../time/zones';
import { byDay, correctedTo, minutesSpent, ranFor, setBy, type SpentStretch } from './stretches';

const ZONE = 'Europe/Vienna';
const at = (wall: string) => instantOf(wall, ZONE);
const NOW = at('2026-08-03T10:50');
const HOUR = 60 * MINUTE;

describe('time that was spent', () => {
  it('is counted from instants: through eight hours and a night of sleep it is what lies between them', () => {
    expect(ranFor({ start: NOW, end: null }, NOW + 8 * HOUR)).toBe(8 * HOUR);
    expect(ranFor({ start: NOW, end: NOW + 20_000 }, NOW + 9 * HOUR)).toBe(20_000);
  });

  it('is never less than nothing where the clock stands before its beginning', () => {
    expect(ranFor({ start: NOW, end: null }, NOW - HOUR)).toBe(0);
  });

  it('is rounded as a sum, and what still runs does not count yet', () => {
    const half = (id: string) => ({ id, start: NOW, end: NOW + 30_000 });
    expect(minutesSpent([half('a'), half('b'), half('c'), half('d'), { id: 'e', start: NOW, end: null }])).toBe(2);
  });

  it.each([
    ['2026-03-28T22:00', '2026-03-30T01:00', [2, 23, 1]],
    ['2026-10-24T22:00', '2026-10-26T01:00', [2, 25, 1]],
    ['2026-08-03T10:00', '2026-08-03T11:00', [1]],
    ['2026-08-03T10:00', '2026-08-03T10:00', []],
  ])('from %s to %s lies on its days', (start, end, hours) => {
    expect(byDay(at(start), at(end), ZONE).map((one) => (one.end - one.start) / HOUR)).toEqual(hours);
  });
});

describe('a sum that is said', () => {
  const a: SpentStretch = { id: 'a', start: NOW - 3 * HOUR, end: NOW - 2 * HOUR };
  const b: SpentStretch = { id: 'b', start: NOW - HOUR, end: NOW - 40 * MINUTE };

  it('adds what is missing, up to now', () => {
    expect(correctedTo([a, b], 95, NOW)).toEqual({ ends: [], gone: [], added: { start: NOW - 15 * MINUTE, end: NOW } });
  });

  it('takes what is too much from the latest', () => {
    expect(correctedTo([a, b], 50, NOW)).toEqual({ ends: [{ id: 'a', end: NOW - 130 * MINUTE }], gone: ['b'], added: null });
    expect(correctedTo([a, b], 70, NOW)).toEqual({ ends: [{ id: 'b', end: NOW - 50 * MINUTE }], gone: [], added: null });
    expect(correctedTo([a, b], 0, NOW).gone.sort()).toEqual(['a', 'b']);
  });

  it('leaves alone what runs, and what comes to it already', () => {
    const runs = { id: 'r', start: NOW - 10 * MINUTE, end: null };
    expect(correctedTo([a, runs], 60, NOW)).toEqual({ ends: [], gone: [], added: null });
    expect(correctedTo([runs], 0, NOW).gone).toEqual([]);
  });

  it('comes to it, whatever the stretches were', () => {
    const stretch = fc.record({ start: fc.integer({ min: 0, max: 10_000_000 }), length: fc.integer({ min: 0, max: 9_000_000 }) });
    fc.assert(
      fc.property(fc.array(stretch, { maxLength: 12 }), fc.integer({ min: 0, max: 900 }), (made, minutes) => {
        const before = made.map(({ start, length }, id) => ({ id: String(id), start: NOW + start, end: NOW + start + length }));
        const { ends, gone, added } = correctedTo(before, minutes, NOW);
        const after = before
          .filter(({ id }) => !gone.includes(id))
          .map((one) => ({ ...one, end: ends.find(({ id }) => id === one.id)?.end ?? one.end }));
        const all = added ? [...after, { id: 'added', ...added }] : after;
        expect(minutesSpent(all)).toBe(minutes);
        expect(all.every(({ start, end }) => end >= start)).toBe(true);
      }),
    );
  });
});

describe('a clock', () => {
  const before = { wall: NOW, up: 5 * HOUR };
  it('that goes on, or sleeps with the machine, was not set', () => {
    expect(setBy(before, { wall: NOW + 1000, up: 5 * HOUR + 1004 })).toBe(0);
    expect(setBy(before, { wall: NOW + 9 * HOUR, up: 14 * HOUR })).toBe(0);
  });
  it('that was set back or forward, was set by so much', () => {
    expect(setBy(before, { wall: NOW - 2 * HOUR + 1000, up: 5 * HOUR + 1000 })).toBe(-2 * HOUR);
    expect(setBy(before, { wall: NOW + HOUR + 1000, up: 5 * HOUR + 1000 })).toBe(HOUR);
  });
});
