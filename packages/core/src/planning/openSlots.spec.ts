import fc from 'fast-check';
import { overlaps } from '../time/intervals';
import { MINUTE, instantOf, wallOf } from '../time/zones';
import { openSlots, type OpenSlotsInput } from './openSlots';

const ZONE = 'Europe/Vienna';
const at = (wall: string) => instantOf(wall, ZONE);
const span = (start: string, end: string) => ({ start: at(start), end: at(end) });
const base: OpenSlotsInput = {
  ...{ now: at('2026-08-03T08:00'), zone: ZONE, busy: [], minutes: 60, notice: 0, buffer: 0, perDay: null, booked: [] },
  hours: [span('2026-08-03T09:00', '2026-08-03T12:00'), span('2026-08-04T09:00', '2026-08-04T10:45')],
};
const starts = (more: Partial<OpenSlotsInput>) =>
  openSlots({ ...base, ...more }).map(({ start }) => wallOf(start, ZONE).slice(8));

describe('times others can choose from', () => {
  it('begin at full and half hours, within the hours, where nothing is', () => {
    expect(starts({})).toEqual(['03T09:00', '03T09:30', '03T10:00', '03T10:30', '03T11:00', '04T09:00', '04T09:30']);
    expect(starts({ busy: [span('2026-08-03T10:10', '2026-08-03T10:20')] })).toEqual([
      '03T09:00',
      '03T10:30',
      '03T11:00',
      '04T09:00',
      '04T09:30',
    ]);
    expect(starts({ minutes: 105 })).toEqual([
      '03T09:00',
      '03T09:15',
      '03T09:30',
      '03T09:45',
      '03T10:00',
      '03T10:15',
      '04T09:00',
    ]);
  });

  it('keep the notice, the time beside them and the most of a day', () => {
    expect(starts({ notice: 100 })).toEqual(['03T10:00', '03T10:30', '03T11:00', '04T09:00', '04T09:30']);
    expect(starts({ buffer: 15, busy: [span('2026-08-03T11:00', '2026-08-03T11:30')] })).toEqual([
      '03T09:00',
      '03T09:30',
      '04T09:00',
      '04T09:30',
    ]);
    const moment = span('2026-08-03T08:55', '2026-08-03T08:55');
    expect(starts({ buffer: 10, busy: [moment] })[0]).toBe('03T09:00');
    expect(starts({ perDay: 1, booked: [at('2026-08-03T15:00')] })).toEqual(['04T09:00', '04T09:30']);
  });

  it('stay at the clock of the zone when it is changed', () => {
    const hours = [span('2026-10-25T01:00', '2026-10-25T05:00')];
    expect(starts({ hours, now: at('2026-10-24T08:00') })).toEqual(
      ['01:00', '01:30', '02:00', '02:30', '02:00', '02:30', '03:00', '03:30', '04:00'].map((time) => `25T${time}`),
    );
  });

  it('never touch what is taken or what stays free beside it, and none that fits is left out', () => {
    const minute = fc.integer({ min: 0, max: 24 * 12 });
    fc.assert(
      fc.property(
        fc.array(fc.tuple(minute, minute)),
        fc.constantFrom(15, 30, 45, 60),
        fc.constantFrom(0, 10, 30),
        (taken, minutes, buffer) => {
          const day = at('2026-08-03T00:00');
          const busy = taken.map(([from, length]) => ({
            start: day + from * 5 * MINUTE,
            end: day + (from + length) * 5 * MINUTE,
          }));
          const found = openSlots({ ...base, busy, minutes, buffer });
          const step = minutes % 30 === 0 ? 30 : 15;
          const all = base.hours.flatMap(({ start, end }) =>
            Array.from({ length: (end - start) / step / MINUTE }, (_, index) => start + index * step * MINUTE).filter(
              (from) => from + minutes * MINUTE <= end,
            ),
          );
          const fits = all.filter((start) => {
            const whole = { start: start - buffer * MINUTE, end: start + (minutes + buffer) * MINUTE };
            return !busy.some((one) => one.end > one.start && overlaps(one, whole));
          });
          expect(found.map(({ start }) => start)).toEqual(fits);
        },
      ),
      { numRuns: 300 },
    );
  });
});
