import { instantOf } from '../time/zones';
import { wasMissed } from './missed';

const ZONE = 'Europe/Vienna';
const walk = { at: '2026-08-04T09:50:00+02:00', start: '2026-08-04T10:00:00+02:00', end: '2026-08-04T11:00:00+02:00' };
const wholeDay = { at: '2026-08-04T08:00:00+02:00', start: '2026-08-04', end: '2026-08-05' };
const missed = (one: typeof walk, wall: string) => wasMissed(one, instantOf(wall, ZONE), ZONE);

describe('a reminder', () => {
  it('was missed a while after it began, not while it can still be joined; of a whole day, when that is over', () => {
    expect([missed(walk, '2026-08-04T10:15'), missed(walk, '2026-08-04T10:16')]).toEqual([false, true]);
    expect([missed(wholeDay, '2026-08-04T20:00'), missed(wholeDay, '2026-08-05T00:16')]).toEqual([false, true]);
  });

  it('that comes after the beginning counts from when it came', () => {
    expect(missed({ ...walk, at: '2026-08-04T10:30:00+02:00' }, '2026-08-04T10:40')).toBe(false);
  });
});
