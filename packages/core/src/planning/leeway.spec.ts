import fc from 'fast-check';
import { minutesIn, overlaps, subtract } from '../time/intervals';
import { MINUTE, instantOf, wallOf } from '../time/zones';
import { leewayOf } from './leeway';

const zone = 'Europe/Vienna';
const at = (clock: string) => instantOf(`2026-08-03T${clock}`, zone);
const span = (start: string, end: string) => ({ start: at(start), end: at(end) });
const left = (more: Partial<Parameters<typeof leewayOf>[0]> = {}) => {
  const { pauses, limits } = leewayOf({
    ...{ zone, working: [span('09:00', '17:30')], busy: [], kept: [], movable: [], grid: 15, share: 0.8, withPauses: true },
    ...more,
  });
  return {
    pauses: pauses.map(({ start, end }) => `${wallOf(start, zone).slice(11)}-${wallOf(end, zone).slice(11)}`),
    limit: limits.get('2026-08-03'),
  };
};

describe('what a plan leaves free', () => {
  it('is lunch, a pause in each long stretch, and a share of what is free', () => {
    expect(left()).toEqual({ pauses: ['10:45-11:00', '12:15-13:00', '15:15-15:30'], limit: 348 });
    expect(left({ movable: [span('09:00', '16:00')] }).limit).toBe(420);
    expect(left({ withPauses: false, share: 1 })).toEqual({ pauses: [], limit: undefined });
  });

  it('is no lunch where the hours have their pause, and another time for it where something is promised', () => {
    expect(left({ working: [span('09:00', '12:00'), span('13:00', '16:00')] }).pauses).toEqual(['10:30-10:45', '14:30-14:45']);
    expect(left({ busy: [span('12:00', '13:00')] }).pauses[1]).toBe('13:00-13:45');
    expect(left({ busy: [span('11:30', '13:30')] }).pauses).toContain('13:30-14:00');
    expect(
      left({ busy: [span('11:00', '14:30')] }).pauses.some((one) => one.startsWith('1') && one < '14:30' && one > '11:00'),
    ).toBe(false);
  });

  it('lies in free working time, and leaves no longer stretch without a pause', () => {
    const hour = fc.integer({ min: 0, max: 33 }).map((quarter) => at('09:00') + quarter * 15 * MINUTE);
    const taken = fc.tuple(hour, fc.integer({ min: 1, max: 12 })).map(([start, quarters]) => ({
      ...{ start, end: start + quarters * 15 * MINUTE },
    }));
    fc.assert(
      fc.property(fc.array(taken, { maxLength: 4 }), fc.array(taken, { maxLength: 2 }), (busy, kept) => {
        const working = [span('09:00', '17:30')];
        const { pauses } = leewayOf({ zone, working, busy, kept, movable: [], grid: 15, share: 0.8, withPauses: true });
        expect(minutesIn(subtract(pauses, working))).toBe(0);
        for (const one of [...busy, ...kept]) expect(pauses.some((pause) => overlaps(pause, one))).toBe(false);
        for (const { start, end } of subtract(working, [...busy, ...kept, ...pauses]))
          expect((end - start) / MINUTE).toBeLessThanOrEqual(150);
      }),
    );
  });
});
