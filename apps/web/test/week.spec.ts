import type { AgendaEntry, DayInfo } from '@corvun/contract';
import { standingOf, weekInReview } from '@corvun/core';
import { doneIn, forWeek, leftOf, metOn, standingOn } from '../src/passes/week';
import { entry, task } from './entries';

const ZONE = 'Europe/Vienna';
const TODAY = '2026-08-07';
const LENGTHS = { deep: 90, medium: 30, light: 15 };
const review = weekInReview(TODAY);
const at = (day: string, time: string) => `${day}T${time}:00+02:00`;
const meeting = (day: string, from: string, to: string, more: Partial<AgendaEntry> = {}): AgendaEntry => ({
  ...entry(0, 60),
  ...{ kind: 'event', day, start: at(day, from), end: at(day, to), showAs: 'busy', status: 'CONFIRMED' },
  ...more,
});
const day = (name: string, entries: AgendaEntry[], gaps: DayInfo['gaps'] = []) =>
  ({ day: name, entries, gaps }) as unknown as DayInfo;

describe('a week that is looked back on', () => {
  it('has what was done in it by the clock of the user, in order, without steps', () => {
    const done = (id: string, completed: string, more = {}) => task({ id, status: 'COMPLETED', completed, ...more });
    const tasks = [
      done('late', '2026-08-09T21:59:00Z'),
      done('early', '2026-08-02T22:00:00Z'),
      done('before', '2026-08-02T21:59:00Z'),
      done('after', '2026-08-09T22:00:00Z'),
      done('step', '2026-08-05T10:00:00Z', { parentId: 'late' }),
      task({ id: 'open' }),
    ];
    expect(doneIn(tasks, review, ZONE).map(({ id }) => id)).toEqual(['early', 'late']);
  });

  it('counts the meetings that were, not what was cancelled, is free, for the whole day, or still to come', () => {
    const days = [
      day('2026-08-06', [
        meeting('2026-08-06', '09:00', '10:30'),
        meeting('2026-08-06', '11:00', '12:00', { status: 'CANCELLED' }),
        meeting('2026-08-06', '13:00', '14:00', { showAs: 'free' }),
        meeting('2026-08-06', '00:00', '00:00', { allDay: true }),
        meeting('2026-08-06', '15:00', '16:00', { kind: 'block' }),
      ]),
      day('2026-08-07', [meeting('2026-08-07', '09:00', '09:30'), meeting('2026-08-07', '16:00', '17:00')]),
    ];
    expect(metOn(days, Date.parse(at(TODAY, '12:00')))).toEqual({ meetings: 2, minutes: 120 });
    expect(metOn([], 0)).toEqual({ meetings: 0, minutes: 0 });
  });

  it('has what was meant for it and is still open, the oldest first, with the likeliest reason', () => {
    const mine = [
      task({ id: 'small', plannedDay: '2026-08-06' }),
      task({ id: 'big', plannedDay: '2026-08-04', estimate: 240 }),
      task({ id: 'parted', plannedDay: '2026-08-05', estimate: 240 }),
      task({ id: 'week', plannedWeek: '2026-W32', concentration: 'deep' }),
      task({ id: 'next', plannedWeek: '2026-W33' }),
      task({ id: 'free' }),
      task({ id: 'step', plannedDay: '2026-08-04', parentId: 'parted' }),
    ];
    expect(leftOf(mine, mine, review, LENGTHS, TODAY).map(({ task: { id }, day: on, likely }) => [id, on, likely])).toEqual([
      ['week', '2026-08-03', 'no-time'],
      ['big', '2026-08-04', 'too-big'],
      ['parted', '2026-08-05', 'no-time'],
      ['small', '2026-08-06', 'no-time'],
    ]);
  });
});

describe('the coming week', () => {
  it('holds what is for it against the time that is free; what has its time is not counted again', () => {
    const mine = [
      task({ id: 'week', plannedWeek: '2026-W33', estimate: 60 }),
      task({ id: 'day', plannedDay: '2026-08-12', estimate: 90, placed: 60 }),
      task({ id: 'unsaid', plannedDay: '2026-08-13', estimate: null, concentration: 'light' }),
      task({ id: 'placed', plannedDay: '2026-08-13', estimate: 30, placed: 45 }),
      task({ id: 'other', plannedDay: '2026-08-17' }),
      task({ id: 'step', plannedDay: '2026-08-12', parentId: 'day' }),
    ];
    const gaps = [{ start: at('2026-08-10', '09:00'), end: at('2026-08-10', '10:15') }];
    const { tasks, open, free } = forWeek(mine, [day('2026-08-10', [], gaps), day('2026-08-11', [], gaps)], '2026-W33', LENGTHS);
    expect(tasks.map(({ id }) => id)).toEqual(['week', 'day', 'unsaid', 'placed']);
    expect([open, free]).toEqual([60 + 30 + 15, 150]);
  });

  it('has standing commitments: what comes again and again and takes place', () => {
    const series = { id: 'crew', title: 'Crew', occurrence: at('2026-08-12', '09:00') };
    const days = [
      day('2026-08-12', [
        meeting('2026-08-12', '09:00', '09:45', series),
        meeting('2026-08-12', '10:00', '11:00'),
        meeting('2026-08-12', '12:00', '13:00', { ...series, id: 'off', status: 'CANCELLED' }),
        meeting('2026-08-12', '00:00', '00:00', { ...series, id: 'whole', title: 'Half term', allDay: true }),
      ]),
      day('2026-08-13', [meeting('2026-08-13', '09:00', '09:45', series)]),
    ];
    expect(standingOf(standingOn(days)).map(({ title, days: on, minutes }) => [title, on.length, minutes])).toEqual([
      ['Crew', 2, 90],
      ['Half term', 1, 0],
    ]);
  });
});
