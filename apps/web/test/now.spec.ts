import type { AgendaEntry } from '@corvun/contract';
import { instantOf, sayNext, timedOf } from '@corvun/core';
import { at, countdown, sayAfter, untilNext } from '../src/places/now/standing';
import { entry } from './entries';

const ZONE = 'Europe/Vienna';
const wall = (clock: string) => instantOf(`2026-08-03T${clock}`, ZONE);
const iso = (clock: string) => `2026-08-03T${clock}:00+02:00`;
const one = (id: string, kind: 'event' | 'block', start: string, end: string, more: Partial<AgendaEntry> = {}): AgendaEntry =>
  entry(0, 0, { id, kind, title: id, start: iso(start), end: iso(end), ...more });

const grant = one('Grant figures', 'block', '10:15', '11:45', { taskId: 'grant', status: 'NEEDS-ACTION' });
const quiet = one('Quiet time', 'block', '10:00', '12:00', { taskId: null, blockKind: 'quiet', status: '' });
const walk = one('Site walk', 'event', '12:00', '13:30', {
  location: 'North bank',
  buffers: [{ kind: 'travel', start: iso('11:50'), end: iso('12:00'), minutes: 10, wanted: 10, from: 'Hut', to: 'North bank' }],
});

describe('what one is at', () => {
  it('is the task that has the time, in quiet time, too; what comes next says when to get up for it', () => {
    const found = at([quiet, grant, walk], null, wall('11:07'));
    expect([found.event, found.taskId, found.block?.id]).toEqual([null, 'grant', 'Grant figures']);
    expect(sayAfter(found.running, ZONE)).toBe('then a gap of 5 min before Site walk, for which you get up at 11:50');
    expect(found.running.next && sayNext(found.running.next, wall('11:07'), ZONE)).toBe(
      'Site walk at 12:00, get up at 11:50, North bank',
    );
  });

  it('is what the timer runs on, whatever the time was set aside for; a meeting is a meeting', () => {
    const other = at([quiet, grant], { taskId: 'other' }, wall('11:07'));
    expect([other.taskId, other.block]).toEqual(['other', null]);
    expect(at([grant, walk], { taskId: 'grant' }, wall('12:10')).event?.id).toBe('Site walk');
  });

  it('is nothing where all is done, whole days or free', () => {
    const done = { ...grant, status: 'COMPLETED' };
    const free = { ...walk, start: iso('10:00'), showAs: 'free' as const };
    const whole = { ...walk, allDay: true };
    const task = { ...grant, kind: 'task' as const };
    expect(at([done, free, whole, task], null, wall('11:07'))).toMatchObject({ event: null, taskId: null, block: null });
    expect(timedOf([whole, task])).toEqual([]);
    expect(sayAfter(at([done], null, wall('11:07')).running, ZONE)).toBe('nothing after it today');
  });
});

describe('how long there is', () => {
  const working = [{ end: iso('12:00') }, { end: iso('17:30') }];
  it('until one has to get up, else until the day ends; after that nothing says', () => {
    expect(untilNext(timedOf([walk])[0] ?? null, working, wall('11:07'))).toBe(43);
    expect(untilNext(null, working, wall('17:00'))).toBe(30);
    expect(untilNext(null, working, wall('18:00'))).toBeNull();
  });

  it.each([
    ['11:15', '25:00'],
    ['10:50', '0:00'],
    ['10:00', '0:00'],
    ['12:00', '1:10:00'],
  ])('counts down to %s: %s', (until, said) => expect(countdown(wall(until), wall('10:50'))).toBe(said));
});
