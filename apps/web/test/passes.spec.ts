import type { DayPlanInfo, PassInfo, PassState } from '@corvun/contract';
import { isClosed, passDue } from '../src/passes/due';
import { dayAhead } from '../src/places/plan/ahead';
import { task } from './entries';

const at = (hour: number) => `2026-08-03T${String(hour).padStart(2, '0')}:00:00+02:00`;
const day = (opened: number | null, closed: number | null): DayPlanInfo => ({
  ...{ day: '2026-08-03', picks: [] },
  opened: opened === null ? null : at(opened),
  closed: closed === null ? null : at(closed),
});
const state = (today: DayPlanInfo, running: PassInfo | null = null): PassState => ({ today, running });

describe('which pass it is time for', () => {
  it('the day is opened once, and closed once it is time', () => {
    expect(passDue(state(day(null, null)), '17:00', '08:55')).toBe('open-day');
    expect(passDue(state(day(9, null)), '17:00', '16:59')).toBeNull();
    expect(passDue(state(day(9, null)), '17:00', '17:00')).toBe('close-day');
    expect(passDue(state(day(null, null)), '17:00', '18:00')).toBe('close-day');
    expect(passDue(state(day(9, 17)), '17:00', '18:00')).toBeNull();
  });

  it('none while one is gone through, and no closing where one never wants to be asked', () => {
    expect(passDue(state(day(null, null), {} as PassInfo), '17:00', '08:55')).toBeNull();
    expect(passDue(state(day(9, null)), null, '23:00')).toBeNull();
  });

  it('a day that was opened again after it was closed is open', () => {
    expect([day(9, 17), day(null, 17), day(18, 17), day(9, null)].map(isClosed)).toEqual([true, true, false, false]);
  });
});

describe('the next one of a repeating task', () => {
  const TODAY = '2026-08-03';
  it('is shown on the day on which it would come, once the one before is done on its day', () => {
    const weekly = { repeat: 'FREQ=WEEKLY', plannedDay: '2026-08-05' };
    expect(dayAhead(task(weekly), TODAY)).toBe('2026-08-12');
    expect(dayAhead(task({ ...weekly, plannedDay: '2026-07-29' }), TODAY)).toBe('2026-08-05');
    expect(dayAhead(task({ ...weekly, repeatFrom: 'completion', plannedDay: '2026-07-31' }), TODAY)).toBe('2026-08-10');
  });

  it('is not shown where none comes, or where it has no day', () => {
    for (const more of [
      { repeat: null },
      { repeat: 'FREQ=DAILY;COUNT=1', plannedDay: TODAY },
      { repeat: 'FREQ=WEEKLY', plannedWeek: '2026-W32' },
      { repeat: 'FREQ=WEEKLY', plannedDay: TODAY, shelved: true },
      { repeat: 'FREQ=WEEKLY', plannedDay: TODAY, status: 'COMPLETED' as const },
    ])
      expect(dayAhead(task(more), TODAY)).toBeNull();
  });
});
