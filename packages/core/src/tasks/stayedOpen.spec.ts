import { dayBefore } from './stayedOpen';

// A Monday, the first day of week 32.
const TODAY = '2026-08-03';

describe('what a task was for', () => {
  it.each([
    [{ plannedDay: '2026-08-02', plannedWeek: null }, '2026-08-02'],
    [{ plannedDay: TODAY, plannedWeek: null }, null],
    [{ plannedDay: '2026-08-04', plannedWeek: null }, null],
    [{ plannedDay: null, plannedWeek: '2026-W31' }, '2026-07-27'],
    [{ plannedDay: null, plannedWeek: '2026-W32' }, null],
    [{ plannedDay: null, plannedWeek: '2025-W52' }, '2025-12-22'],
    [{ plannedDay: null, plannedWeek: null }, null],
  ])('%j: %s', (task, day) => {
    expect(dayBefore(task, TODAY)).toBe(day);
  });
});
