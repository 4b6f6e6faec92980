import { instantOf, isoInZone, startOfDay, wallOf, weekOf, addDays, daysBetween } from './zones';
import { HoursError, readHours, readWeekdays, workingTime, workingTimeOf } from './working';
import { freeGaps, numberedGaps, soonestSlot } from '../slots/gaps';
import { loadOfDay } from '../planning/load';
import { minutesIn } from './intervals';

const ZONE = 'Europe/Vienna';
const at = (wall: string) => instantOf(wall, ZONE);
const WEEK = { 1: ['09:00-12:00', '13:00-17:30'], 7: ['00:00-24:00'] };

describe('zones', () => {
  it('moves a time that is skipped in spring forward by the gap, and takes the first of two in autumn', () => {
    expect(isoInZone(at('2026-03-29T02:30'), ZONE)).toBe('2026-03-29T03:30:00+02:00');
    expect(isoInZone(at('2026-10-25T02:30'), ZONE)).toBe('2026-10-25T02:30:00+02:00');
  });

  it('knows days that begin after midnight', () => {
    expect(wallOf(startOfDay('2018-11-04', 'America/Sao_Paulo'), 'America/Sao_Paulo')).toBe('2018-11-04T01:00');
  });

  it('names ISO weeks across the turn of the year, and counts days', () => {
    expect([weekOf('2026-12-31'), weekOf('2027-01-03'), weekOf('2027-01-04')]).toEqual(['2026-W53', '2026-W53', '2027-W01']);
    expect([addDays('2024-02-28', 2), daysBetween('2026-03-28', '2026-03-30')]).toEqual(['2024-03-01', 2]);
  });

  it('refuses what is no time', () => {
    expect(() => instantOf('2026-02-30T10:00', ZONE)).toThrow(RangeError);
  });
});

describe('working time', () => {
  it('is as long as the clock really ran on the days it changes', () => {
    expect(minutesIn(workingTimeOf('2026-03-29', WEEK, ZONE))).toBe(23 * 60);
    expect(minutesIn(workingTimeOf('2026-10-25', WEEK, ZONE))).toBe(25 * 60);
  });

  it('is clipped to the window and leaves out days without hours', () => {
    const spans = workingTime(at('2026-08-03T10:00'), at('2026-08-05T10:00'), WEEK, ZONE);
    expect(spans.map((span) => [wallOf(span.start, ZONE), wallOf(span.end, ZONE)])).toEqual([
      ['2026-08-03T10:00', '2026-08-03T12:00'],
      ['2026-08-03T13:00', '2026-08-03T17:30'],
    ]);
  });

  it('reads hours and weekdays, and refuses nonsense with a sentence', () => {
    expect([readHours('9:00-17:30'), readWeekdays('1-3,5')]).toEqual(['09:00-17:30', [1, 2, 3, 5]]);
    for (const wrong of ['17:00-9:00', '9-17', '09:00-25:00']) expect(() => readHours(wrong)).toThrow(HoursError);
    expect(() => readWeekdays('0-8')).toThrow(/weekdays/);
  });
});

describe('gaps and load', () => {
  const working = workingTimeOf('2026-08-03', WEEK, ZONE);
  const busy = [
    { start: at('2026-08-03T10:00'), end: at('2026-08-03T11:45') },
    { start: at('2026-08-03T11:00'), end: at('2026-08-03T13:30') },
  ];

  it('gives every maximal gap of at least that length', () => {
    const gaps = freeGaps(working, busy, 60).map((gap) => [wallOf(gap.start, ZONE).slice(11), wallOf(gap.end, ZONE).slice(11)]);
    expect(gaps).toEqual([
      ['09:00', '10:00'],
      ['13:30', '17:30'],
    ]);
  });

  it('numbers the gaps that fit and enters a gap that has begun at the next five minutes', () => {
    const numbered = numberedGaps(freeGaps(working, busy, 5), 45, at('2026-08-03T09:12'));
    expect(numbered.map((gap) => [gap.number, wallOf(gap.slot.start, ZONE).slice(11)])).toEqual([
      [1, '09:15'],
      [2, '13:30'],
    ]);
    expect(soonestSlot(freeGaps(working, busy, 5), 300, 0)).toBeNull();
  });

  it('counts two meetings at once once, a block under a meeting beside it, and what is too much', () => {
    const meeting = { start: at('2026-08-03T09:00'), end: at('2026-08-03T12:00') };
    const load = loadOfDay({
      working,
      meetings: [meeting, meeting],
      buffers: [],
      blocks: [{ start: at('2026-08-03T11:00'), end: at('2026-08-03T12:00') }],
      unplaced: 240,
    });
    expect(load).toEqual({ capacity: 450, meetings: 180, buffers: 0, blocks: 60, unplaced: 240, left: 0, over: 30 });
  });
});
