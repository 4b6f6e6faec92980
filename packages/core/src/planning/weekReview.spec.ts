import fc from 'fast-check';
import { addDays, weekOf, weekdayOf } from '../time/zones';
import { likelyWhy, meantFor, standingOf, weekInReview, type LeftTask } from './weekReview';

const TODAY = '2026-08-07';
const left = (more: Partial<LeftTask> = {}): LeftTask => ({
  ...{ minutes: 30, spent: 0, waitingOn: null, assignedTo: null, notBefore: null, steps: 0, placed: 0, day: '2026-08-04' },
  ...more,
});

describe('the week in review', () => {
  it.each([
    ['2026-08-07', '2026-W32', '2026-08-03', '2026-W33'],
    ['2026-08-06', '2026-W32', '2026-08-03', '2026-W33'],
    ['2026-08-05', '2026-W31', '2026-07-27', '2026-W32'],
    ['2026-08-03', '2026-W31', '2026-07-27', '2026-W32'],
    // The first days of a year may belong to a week of the one before (ISO 8601).
    ['2027-01-02', '2026-W53', '2026-12-28', '2027-W01'],
  ])('on %s is %s', (today, week, from, coming) => {
    expect(weekInReview(today)).toEqual({ week, from, to: addDays(from, 6), coming });
  });

  it('never looks at more than ten days, and what comes is never over', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 4000 }), (days) => {
        const today = addDays('2024-01-01', days);
        const { from, to, coming, week } = weekInReview(today);
        expect(weekdayOf(from)).toBe(1);
        expect(weekOf(to)).toBe(week);
        expect(from <= today && today <= addDays(from, 9)).toBe(true);
        expect(coming >= weekOf(today)).toBe(true);
      }),
    );
  });

  it('takes up what was meant for it or for before, by its day, its week or its deadline', () => {
    const review = weekInReview(TODAY);
    const of = (plannedDay: string | null, plannedWeek: string | null, deadline: string | null) =>
      meantFor({ plannedDay, plannedWeek, deadline }, review);
    expect(of('2026-08-09', null, null)).toBe('2026-08-09');
    expect(of('2026-08-10', null, null)).toBeNull();
    expect(of(null, '2026-W30', null)).toBe('2026-07-20');
    expect(of(null, '2026-W33', '2026-08-05')).toBeNull();
    expect(of(null, null, '2026-08-05T12:00')).toBe('2026-08-05');
    expect(of(null, null, null)).toBeNull();
  });
});

describe('why something stayed open', () => {
  it.each<[string, Partial<LeftTask>, string]>([
    ['somebody is waited on', { waitingOn: 'Jonas', minutes: 600 }, 'waiting'],
    ['somebody else does it', { assignedTo: 'Ines' }, 'waiting'],
    ['it cannot be begun yet', { notBefore: '2026-08-10' }, 'blocked'],
    ['two hours and no steps', { minutes: 120 }, 'too-big'],
    ['two hours in steps', { minutes: 120, steps: 3 }, 'no-time'],
    ['most of it is behind', { minutes: 180, spent: 90 }, 'no-time'],
    ['nobody touched it for weeks', { day: '2026-07-01' }, 'not-wanted'],
    ['it had its time, weeks ago', { day: '2026-07-01', placed: 30 }, 'no-time'],
  ])('%s', (_, more, why) => {
    expect(likelyWhy(left(more), TODAY)).toBe(why);
  });
});

it('standing commitments are one line each, with their days and minutes', () => {
  const at = (day: string, hour: number, minutes: number) => {
    const start = Date.parse(`${day}T00:00Z`) + hour * 3_600_000;
    return { day, start, end: start + minutes * 60_000 };
  };
  const found = standingOf([
    { id: 'team', title: 'Team', ...at('2026-08-10', 9, 30) },
    { id: 'crew', title: 'Crew', ...at('2026-08-10', 10, 45) },
    { id: 'team', title: 'Team', ...at('2026-08-12', 9, 30) },
    { id: 'team', title: 'Team', ...at('2026-08-12', 16, 30) },
    { id: 'off', title: 'Half term', start: null, end: null, day: '2026-08-11' },
  ]);
  expect(found.map(({ title, days, minutes }) => [title, days.length, minutes])).toEqual([
    ['Team', 2, 90],
    ['Crew', 1, 45],
    ['Half term', 1, 0],
  ]);
});
