import type { ReminderInfo } from '@corvun/contract';
import { instantOf } from '@corvun/core';
import { heldBack, opens, startOf, untilOf, whenOf } from '../src/reminders/words';

const ZONE = 'Europe/Vienna';
const at = (wall: string) => instantOf(wall, ZONE);
const reminder = (more: Partial<ReminderInfo> = {}): ReminderInfo => ({
  ...{ id: 'r', kind: 'event', thing: 'e', taskId: null, occurrence: null, why: 'event', title: 'Weir walk' },
  ...{ at: '2026-08-04T09:50:00+02:00', start: '2026-08-04T10:00:00+02:00', end: '2026-08-04T11:00:00+02:00' },
  ...{ location: '', meetingLink: '', shown: false },
  ...more,
});
const wholeDay = reminder({ start: '2026-08-04', end: '2026-08-05', at: '2026-08-04T08:00:00+02:00' });

describe('what a reminder says', () => {
  it.each([
    [10, 'In 10 min'],
    [90, 'In 1 h 30'],
    [0, 'Begins now'],
    [-1, 'Begins now'],
    [-12, 'Began 12 min ago'],
  ])('%d minutes ahead: %s', (ahead, said) => expect(untilOf(reminder(), ahead)).toBe(said));

  it('is what it is for, where that is no beginning', () => {
    expect(untilOf(reminder({ kind: 'task', why: 'task' }), 0)).toBe('You wanted to think of this');
    expect(untilOf(reminder({ kind: 'block', why: 'leave' }), 0)).toBe('Time to leave');
    expect(untilOf(wholeDay, -480)).toBe('All day');
  });

  it('names the day only where that is another one, and no end of what a task asks for', () => {
    expect(whenOf(reminder(), at('2026-08-04T09:50'), ZONE)).toBe('10:00–11:00');
    expect(whenOf(reminder(), at('2026-08-03T18:00'), ZONE)).toBe('Tue 4 Aug, 10:00–11:00');
    expect(whenOf(reminder({ why: 'task' }), at('2026-08-04T10:00'), ZONE)).toBe('10:00');
    expect(whenOf(wholeDay, at('2026-08-04T08:00'), ZONE)).toBe('Tue 4 Aug');
  });

  it('waits in quiet time, unless others wait for it or one has to set out', () => {
    const held = [reminder(), reminder({ kind: 'block', why: 'block' }), reminder({ kind: 'task', why: 'task' })].map(heldBack);
    expect(held).toEqual([false, true, true]);
    expect(heldBack(reminder({ kind: 'block', why: 'leave' }))).toBe(false);
  });

  it('opens what has a sheet', () => {
    expect(opens(reminder())).toBe(true);
    expect(opens(reminder({ kind: 'block', why: 'block' }))).toBe(false);
    expect(opens(reminder({ kind: 'block', why: 'block', taskId: 't' }))).toBe(true);
    expect(startOf(wholeDay, ZONE)).toBe(at('2026-08-04T00:00'));
  });
});
