import type { DayPlanInfo, PassInfo, PassState } from '@corvun/contract';
import { asWish, candidatesOf, noted, stepsNow } from '../src/passes/decks';
import { isClosed, passDue } from '../src/passes/due';
import { dayAhead } from '../src/places/plan/ahead';
import { task } from './entries';

const at = (hour: number) => `2026-08-03T${String(hour).padStart(2, '0')}:00:00+02:00`;
const day = (opened: number | null, closed: number | null): DayPlanInfo => ({
  ...{ day: '2026-08-03', picks: [] },
  opened: opened === null ? null : at(opened),
  closed: closed === null ? null : at(closed),
});
const state = (today: DayPlanInfo, running: PassInfo | null = null, reviewed: string | null = null): PassState => ({
  ...{ today, running, reviewed },
  shortlist: null,
});
const RULES = { closeAt: '17:00', reviewDay: 5 };

describe('which pass it is time for', () => {
  it('the day is opened once, and closed once it is time', () => {
    expect(passDue(state(day(null, null)), RULES, '08:55')).toBe('open-day');
    expect(passDue(state(day(9, null)), RULES, '16:59')).toBeNull();
    expect(passDue(state(day(9, null)), RULES, '17:00')).toBe('close-day');
    expect(passDue(state(day(null, null)), RULES, '18:00')).toBe('close-day');
    expect(passDue(state(day(9, 17)), RULES, '18:00')).toBeNull();
  });

  it('none while one is gone through, and no closing where one never wants to be asked', () => {
    expect(passDue(state(day(null, null), {} as PassInfo), RULES, '08:55')).toBeNull();
    expect(passDue(state(day(9, null)), { ...RULES, closeAt: null }, '23:00')).toBeNull();
  });

  it('the week is reviewed on its day, once it is open, and once', () => {
    const friday = { ...day(9, null), day: '2026-08-07' };
    expect(passDue(state(friday), RULES, '11:00')).toBe('week-review');
    expect(passDue(state({ ...friday, opened: null }), RULES, '11:00')).toBe('open-day');
    expect(passDue(state(friday), RULES, '17:00')).toBe('close-day');
    expect(passDue(state(friday), { ...RULES, reviewDay: null }, '11:00')).toBeNull();
    expect(passDue(state(friday, null, '2026-08-06'), RULES, '11:00')).toBeNull();
    // On Monday one looked back on the week before.
    expect(passDue(state(friday, null, '2026-08-03'), RULES, '11:00')).toBe('week-review');
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

describe('clearing the decks', () => {
  const TODAY = '2026-08-03';

  it('a deadline that is a wish is for its week, for this one where it is over, and leaves what is planned as it is', () => {
    expect(asWish(task({ deadline: '2026-08-14T12:00' }), TODAY)).toEqual({ deadline: null, plannedWeek: '2026-W33' });
    expect(asWish(task({ deadline: '2026-07-01' }), TODAY)).toEqual({ deadline: null, plannedWeek: '2026-W32' });
    expect(asWish(task({ deadline: '2026-08-14', plannedDay: '2026-08-04' }), TODAY)).toEqual({ deadline: null });
  });

  it('candidates: what makes others easier, what is at risk, the next steps of projects', () => {
    const mine = ['plain', 'next', 'risk', 'lever'].map((id) => task({ id }));
    const ranked = candidatesOf(mine, { levers: ['lever'], nexts: ['next'], atRisk: ['risk'] }, TODAY);
    expect(ranked.map(({ id }) => id)).toEqual(['lever', 'risk', 'next', 'plain']);
  });

  it('steps of a project that can be done now, also on the shelf, in their order', () => {
    const tasks = [
      task({ id: 'third', listId: 'p', position: 3, shelved: true }),
      task({ id: 'first', listId: 'p', position: 1 }),
      task({ id: 'second', listId: 'p', position: 2, notBefore: TODAY }),
      task({ id: 'later', listId: 'p', position: 0, notBefore: '2026-08-04' }),
      task({ id: 'waits', listId: 'p', position: 0, waitingOn: 'Jonas' }),
      task({ id: 'step', listId: 'p', position: 0, parentId: 'first' }),
      task({ id: 'done', listId: 'p', position: 0, status: 'COMPLETED' }),
      task({ id: 'other', listId: 'q', position: 0 }),
    ];
    expect(stepsNow(tasks, 'p', TODAY, 3).map(({ id }) => id)).toEqual(['first', 'second', 'third']);
    expect(stepsNow(tasks, 'p', TODAY, 1)).toHaveLength(1);
  });

  it('notes of a pass are read as ids, whatever stands in them', () => {
    expect(noted({ notes: { levers: ['a', 3, 'b'] } }, 'levers')).toEqual(['a', 'b']);
    expect(noted({ notes: { levers: 'a' } }, 'levers')).toEqual([]);
  });
});
