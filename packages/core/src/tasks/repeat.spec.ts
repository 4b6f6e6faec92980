import fc from 'fast-check';
import { instantOf, dayOf } from '../time/zones';
import { comingDays, nextRound, repeatDayAfter, repeatDayOf, type Repeating } from './repeat';

const task = (said: Partial<Repeating>): Repeating => ({
  ...{ repeat: null, repeatFrom: 'schedule', repeatOn: null, plannedDay: null, plannedWeek: null },
  ...{ deadline: null, notBefore: null, reminder: null },
  ...said,
});
const MONDAY = '2026-08-03';

describe('a task that repeats', () => {
  it('comes again on the next date of its rule', () => {
    const weekly = task({ repeat: 'FREQ=WEEKLY;BYDAY=MO', plannedDay: MONDAY });
    expect(nextRound(weekly, MONDAY)).toMatchObject({ plannedDay: '2026-08-10', repeatOn: '2026-08-10', later: 7, passed: 0 });
    expect(nextRound(task({ plannedDay: MONDAY }), MONDAY)).toBeNull();
  });

  it('keeps to its schedule where it is moved or done late, and leaves out what passed', () => {
    const moved = task({ repeat: 'FREQ=WEEKLY', repeatOn: MONDAY, plannedDay: '2026-08-05' });
    expect(nextRound(moved, '2026-08-05')).toMatchObject({ plannedDay: '2026-08-10', passed: 0 });
    expect(nextRound(moved, '2026-08-19')).toMatchObject({ plannedDay: '2026-08-24', passed: 2 });
    const every = task({ repeat: 'FREQ=WEEKLY;INTERVAL=2;BYDAY=MO', repeatOn: MONDAY, plannedDay: '2026-08-12' });
    expect(nextRound(every, '2026-08-12')).toMatchObject({ plannedDay: '2026-08-17' });
  });

  it('is still to do today where an earlier date is done today; done early it does not come twice', () => {
    const daily = task({ repeat: 'FREQ=DAILY', plannedDay: MONDAY });
    expect(nextRound(daily, '2026-08-05')).toMatchObject({ plannedDay: '2026-08-05', passed: 1 });
    expect(nextRound(daily, '2026-08-01')).toMatchObject({ plannedDay: '2026-08-04' });
  });

  it('counts from the day it is done, where that is wanted', () => {
    const water = task({ repeat: 'FREQ=DAILY;INTERVAL=10', repeatFrom: 'completion', plannedDay: MONDAY });
    expect(nextRound(water, '2026-08-06')).toMatchObject({ plannedDay: '2026-08-16', passed: 0 });
    expect(nextRound(task({ repeat: 'FREQ=DAILY;INTERVAL=10', repeatFrom: 'completion' }), MONDAY)).toMatchObject({
      plannedDay: '2026-08-13',
    });
  });

  it('keeps the distances of its dates, and the time on the clock', () => {
    const report = task({
      ...{ repeat: 'FREQ=MONTHLY;BYMONTHDAY=15', plannedDay: '2026-08-12', deadline: '2026-08-15T17:00' },
      ...{ notBefore: '2026-08-10', reminder: '2026-08-12T09:00' },
    });
    expect(repeatDayOf(report)).toBe('2026-08-15');
    expect(nextRound(report, '2026-08-14')).toMatchObject({
      ...{ plannedDay: '2026-09-12', deadline: '2026-09-15T17:00', notBefore: '2026-09-10', reminder: '2026-09-12T09:00' },
    });
  });

  it('stays a task of a week without a day', () => {
    const plot = task({ repeat: 'FREQ=WEEKLY', plannedWeek: '2026-W32' });
    expect(nextRound(plot, '2026-08-07')).toMatchObject({ plannedDay: null, plannedWeek: '2026-W33' });
  });

  it('ends with its count and with its last day', () => {
    let round = nextRound(task({ repeat: 'FREQ=DAILY;COUNT=3', plannedDay: MONDAY }), MONDAY);
    expect(round).toMatchObject({ repeat: 'FREQ=DAILY;COUNT=2', plannedDay: '2026-08-04' });
    round = round && nextRound(round, '2026-08-04');
    expect(round).toMatchObject({ repeat: 'FREQ=DAILY;COUNT=1', plannedDay: '2026-08-05' });
    expect(round && nextRound(round, '2026-08-05')).toBeNull();
    expect(nextRound(task({ repeat: 'FREQ=DAILY;COUNT=3', plannedDay: MONDAY }), '2026-08-09')).toBeNull();
    expect(nextRound(task({ repeat: 'FREQ=WEEKLY;UNTIL=20260809', plannedDay: MONDAY }), MONDAY)).toBeNull();
  });

  it('skips months without its day, as the standard has it', () => {
    const rent = task({ repeat: 'FREQ=MONTHLY', plannedDay: '2026-08-31' });
    expect(nextRound(rent, '2026-08-31')).toMatchObject({ plannedDay: '2026-10-31' });
    const leap = task({ repeat: 'FREQ=YEARLY', plannedDay: '2024-02-29' });
    expect(nextRound(leap, '2024-02-29')).toMatchObject({ plannedDay: '2028-02-29' });
    expect(nextRound(task({ repeat: 'FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30', plannedDay: MONDAY }), MONDAY)).toBeNull();
  });

  it('is at the same time on the clock on either side of a change of the clocks, and in another zone', () => {
    const call = task({ repeat: 'FREQ=WEEKLY', plannedDay: '2026-10-19', deadline: '2026-10-19T09:30' });
    const next = nextRound(call, '2026-10-19');
    expect(next?.deadline).toBe('2026-10-26T09:30');
    const hours = (zone: string) => (instantOf(next?.deadline ?? '', zone) - instantOf(call.deadline ?? '', zone)) / 3_600_000;
    // The clocks go back on 25 October in Vienna, on 1 November in Halifax.
    expect([hours('Europe/Vienna'), hours('America/Halifax')]).toEqual([7 * 24 + 1, 7 * 24]);
    // Half an hour before midnight in Vienna it is a day before in Halifax: the day is the one of whoever does it.
    expect(dayOf(instantOf('2026-10-19T00:30', 'Europe/Vienna'), 'America/Halifax')).toBe('2026-10-18');
    expect(nextRound(call, '2026-10-18')?.deadline).toBe('2026-10-26T09:30');
  });

  it('comes after the one it stands for, never before today, and on a date of its schedule', () => {
    const rules = [
      'FREQ=DAILY',
      'FREQ=DAILY;INTERVAL=3',
      'FREQ=WEEKLY;BYDAY=TU,FR',
      'FREQ=WEEKLY;INTERVAL=2',
      'FREQ=MONTHLY;BYDAY=-1FR',
    ];
    const days = fc.integer({ min: 0, max: 700 }).map((ahead) => dayOf(Date.UTC(2026, 0, 1 + ahead), 'UTC'));
    fc.assert(
      fc.property(fc.constantFrom(...rules), days, days, fc.option(days, { nil: null }), (repeat, own, done, moved) => {
        const one = task({ repeat, repeatOn: own, plannedDay: moved ?? own, deadline: `${own}T12:00` });
        const next = nextRound(one, done);
        expect(next).not.toBeNull();
        if (!next) return;
        expect(next.repeatOn > own && next.repeatOn >= done).toBe(true);
        expect(next.deadline).toBe(`${next.repeatOn}T12:00`);
        // The schedule is the same whether its dates are done one by one or all at once.
        let step = nextRound(one, own);
        for (let at = 0; step && step.repeatOn < next.repeatOn && at < 800; at += 1) step = nextRound(step, step.repeatOn);
        expect(step?.repeatOn).toBe(next.repeatOn);
      }),
      { numRuns: 60 },
    );
  });

  it('stands for its date wherever it is moved, and for a later date of its schedule where it is moved there', () => {
    const weekly = task({ repeat: 'FREQ=WEEKLY', plannedDay: MONDAY });
    const on = (plannedDay: string, before = weekly) => repeatDayAfter(before, { ...before, plannedDay });
    expect(on('2026-08-05')).toBe(MONDAY);
    expect(on('2026-08-10')).toBe('2026-08-10');
    expect(on('2026-08-01')).toBe(MONDAY);
    expect(on('2026-08-11', task({ repeat: 'FREQ=WEEKLY', repeatOn: MONDAY, plannedDay: '2026-08-05' }))).toBe(MONDAY);
    expect(repeatDayAfter(weekly, { ...weekly, repeat: 'FREQ=DAILY', plannedDay: '2026-08-06' })).toBe('2026-08-06');
    expect(repeatDayAfter(weekly, { ...weekly, repeat: null })).toBeNull();
  });

  it('says the days to come', () => {
    expect(comingDays(task({ repeat: 'FREQ=WEEKLY', plannedDay: '2026-07-27' }), MONDAY, 3)).toEqual([
      ...[MONDAY, '2026-08-10', '2026-08-17'],
    ]);
    expect(comingDays(task({ plannedDay: MONDAY }), MONDAY, 3)).toEqual([]);
  });
});
