import fc from 'fast-check';
import { MINUTE, instantOf, wallOf } from '../time/zones';
import { bestSlots, type SlotWish } from './bestSlots';

const ZONE = 'Europe/Vienna';
const at = (wall: string) => instantOf(wall, ZONE);
const gap = (from: string, to: string) => ({ start: at(from), end: at(to) });
const WISH: SlotWish = { minutes: 30, concentration: 'medium', deadline: null, now: at('2026-08-03T10:52'), zone: ZONE };
const said = (slots: ReturnType<typeof bestSlots>) => slots.map(({ slot, reasons }) => [wallOf(slot.start, ZONE), ...reasons]);

describe('the best slots', () => {
  it('put deep work into its hours, even a day later', () => {
    const gaps = [gap('2026-08-03T13:00', '2026-08-03T17:00'), gap('2026-08-04T09:00', '2026-08-04T11:00')];
    expect(said(bestSlots(gaps, { ...WISH, minutes: 90, concentration: 'deep' }))).toEqual([
      ['2026-08-04T09:00', 'in deep hours'],
      ['2026-08-03T13:00', 'soonest'],
    ]);
  });

  it('go by the hours that one chose for deep work, also in the middle of a gap', () => {
    const gaps = [gap('2026-08-04T09:00', '2026-08-04T17:00'), gap('2026-08-05T09:00', '2026-08-05T12:00')];
    const wish = { ...WISH, minutes: 60, concentration: 'deep' as const, deep: ['13:00-15:00'] };
    expect(said(bestSlots(gaps, wish))[0]).toEqual(['2026-08-04T13:00', 'soonest', 'in deep hours']);
    expect(said(bestSlots(gaps, { ...wish, concentration: 'medium' }))[0]?.[0]).toBe('2026-08-04T09:00');
  });

  it('keep those hours free of light work', () => {
    const gaps = [gap('2026-08-04T09:00', '2026-08-04T12:00'), gap('2026-08-04T14:00', '2026-08-04T15:00')];
    expect(said(bestSlots(gaps, { ...WISH, concentration: 'light' }))[0]).toEqual(['2026-08-04T14:00', 'spares deep hours']);
  });

  it('fill small gaps rather than break the long one', () => {
    const gaps = [gap('2026-08-04T09:00', '2026-08-04T10:30'), gap('2026-08-04T13:00', '2026-08-04T13:30')];
    expect(said(bestSlots(gaps, WISH))).toEqual([
      ['2026-08-04T13:00', 'fills the gap'],
      ['2026-08-04T09:00', 'soonest', 'breaks a long gap'],
    ]);
  });

  it('come before the deadline where there is one that does', () => {
    const gaps = [gap('2026-08-05T09:00', '2026-08-05T17:00'), gap('2026-08-07T09:00', '2026-08-07T17:00')];
    const late = bestSlots(gaps, { ...WISH, deadline: at('2026-08-05T10:00') });
    expect(said(late)[0]?.[0]).toBe('2026-08-05T09:00');
    expect(said(late)[1]).toContain('after the deadline');
  });

  it('begin on the grid in a gap that has begun', () => {
    expect(said(bestSlots([gap('2026-08-03T10:00', '2026-08-03T12:00')], { ...WISH, minutes: 65 }))[0]?.[0]).toBe(
      '2026-08-03T10:55',
    );
  });

  it('always lie inside a gap, ahead, and one to a gap', () => {
    const times = fc.tuple(fc.integer({ min: 0, max: 4000 }), fc.integer({ min: 1, max: 400 }));
    fc.assert(
      fc.property(fc.array(times, { maxLength: 12 }), fc.integer({ min: 5, max: 240 }), (spans, minutes) => {
        let from = at('2026-08-03T08:00');
        const gaps = spans.map(([pause, length]) => {
          const start = from + pause * MINUTE;
          from = start + length * MINUTE + MINUTE;
          return { start, end: start + length * MINUTE };
        });
        const slots = bestSlots(gaps, { ...WISH, minutes });
        const homes = slots.map(({ slot }) => gaps.findIndex((one) => slot.start >= one.start && slot.end <= one.end));
        expect(homes.every((home) => home >= 0)).toBe(true);
        expect(new Set(homes).size).toBe(slots.length);
        expect(slots.every(({ slot }) => slot.start >= WISH.now && slot.end - slot.start === minutes * MINUTE)).toBe(true);
      }),
    );
  });
});
