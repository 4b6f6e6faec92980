import fc from 'fast-check';
import { addDays } from '../time/zones';
import {
  dayOffNamed,
  firstShown,
  workMinutes,
  readStretches,
  sayStretches,
  weekBegin,
  withChoices,
  withDaysOff,
} from './settings';

const HOURS = { 1: ['09:00-17:30'], 2: ['09:00-17:30'], 3: ['09:00-17:30'], 4: ['09:00-17:30'], 5: ['09:00-17:30'] };

describe('settings', () => {
  it('name days off, once each and in order', () => {
    const off = withDaysOff(
      [{ day: '2026-12-25', name: 'Christmas' }],
      [
        { day: '2026-08-15', name: 'Assumption' },
        { day: '2026-12-25', name: 'Christmas Day' },
      ],
    );
    expect(off).toEqual([
      { day: '2026-08-15', name: 'Assumption' },
      { day: '2026-12-25', name: 'Christmas Day' },
    ]);
    expect(dayOffNamed('2026-08-15', off)).toBe('Assumption');
    expect(dayOffNamed('2026-08-16', off)).toBeNull();
    expect(dayOffNamed('2026-08-16', [{ day: '2026-08-16', name: '' }])).toBe('Day off');
  });

  it.each([
    ['2026-08-05', 1, '2026-08-03'],
    ['2026-08-05', 7, '2026-08-02'],
    ['2026-08-02', 7, '2026-08-02'],
    ['2026-08-02', 1, '2026-07-27'],
    ['2026-08-07', 6, '2026-08-01'],
  ])('the week of %s begins, on weekday %i, on %s', (day, start, begin) => {
    expect(weekBegin(day, start)).toBe(begin);
  });

  it.each<[string, number, 1 | 6 | 7, string]>([
    ['2026-08-05', 3, 7, '2026-08-05'],
    ['2026-08-05', 7, 7, '2026-08-02'],
    ['2026-08-05', 5, 7, '2026-08-03'],
    ['2026-08-05', 5, 6, '2026-08-03'],
    ['2026-08-05', 5, 1, '2026-08-03'],
    ['2026-08-02', 5, 7, '2026-08-02'],
  ])('around %s, %i days of a week that begins on %i are shown from %s', (day, count, weekStart, first) => {
    expect(firstShown(day, count, { weekStart, hours: HOURS })).toBe(first);
  });

  it('always show the day that is asked for', () => {
    const day = fc.integer({ min: 0, max: 4000 }).map((days) => addDays('2024-01-01', days));
    fc.assert(
      fc.property(day, fc.constantFrom(1, 2, 3, 5, 7), fc.constantFrom<1 | 6 | 7>(1, 6, 7), (one, count, weekStart) => {
        const first = firstShown(one, count, { weekStart, hours: HOURS });
        // Five days of a week leave two out: those are reached by their week's beginning.
        if (count !== 5) expect(first <= one && one <= addDays(first, count - 1)).toBe(true);
        expect(first <= one || count === 5).toBe(true);
      }),
    );
  });

  it.each([
    ['9-17:30', ['09:00-17:30'], 510],
    ['9:00–12:00, 12:45–17:30', ['09:00-12:00', '12:45-17:30'], 465],
    ['8 to 12 and 13 to 16', ['08:00-12:00', '13:00-16:00'], 420],
    ['', [], 0],
    ['none', [], 0],
    ['22-24', ['22:00-24:00'], 120],
  ])('hours as typed: “%s”', (text, stretches, minutes) => {
    expect(readStretches(text)).toEqual(stretches);
    expect(workMinutes(stretches)).toBe(minutes);
    expect(readStretches(sayStretches(stretches))).toEqual(stretches);
  });

  it.each([
    ['9-12, 11-15', '11:00 is before 12:00'],
    ['17-9', 'the end must come after the start'],
    ['mornings', 'write it like 09:00-17:30'],
    ['9-25', 'the end must come after the start'],
  ])('what are no hours is said: “%s”', (text, words) => {
    expect(() => readStretches(text)).toThrow(words);
  });
});

describe('a choice of settings', () => {
  it('leaves what it does not say as it was, in those that consist of several, too', () => {
    const before = withChoices({ weekStart: 1 as const }, { planning: { limit: 60 }, lengths: { deep: 90 } });
    const after = withChoices(before, { planning: { deep: [], limit: undefined }, weekStart: 7 });
    expect(after).toMatchObject({
      ...{ weekStart: 7, planning: { limit: 60, deep: [], places: [] } },
      lengths: { deep: 90, medium: 30 },
    });
    expect(withChoices(after, { planning: { limit: null } })).toMatchObject({ planning: { limit: null, deep: [] } });
  });
});
