import { sayStalled, shareDone, type ProjectProgress } from './projects';

const progress = (more: Partial<ProjectProgress>): ProjectProgress => ({
  ...{
    done: 2,
    open: 6,
    minutesDone: 0,
    minutesLeft: 0,
    lastDone: '2026-07-30T10:00:00+02:00',
    next: { id: 'a', title: 'Measure' },
  },
  ...more,
});
const stalled = (more: Partial<ProjectProgress>, begun = '2026-06-01T10:00:00+02:00') =>
  sayStalled(progress(more), begun, '2026-08-03', 'Europe/Vienna');

describe('a project', () => {
  it('moves while something can be done and is done', () => {
    expect(stalled({})).toBe('');
    expect(stalled({ lastDone: '2026-07-20T23:30:00+02:00' })).toBe('Nothing was done for 14 days.');
    expect(stalled({ lastDone: '2026-07-21T00:30:00+02:00' })).toBe('');
    expect(stalled({ lastDone: null })).toBe('Nothing was done for 2 months.');
    expect(stalled({ lastDone: null }, '2026-08-01T09:00:00+02:00')).toBe('');
  });

  it('is stalled without a step that can be done now, and never once all is done', () => {
    expect(stalled({ next: null })).toBe('It has no step that can be done now.');
    expect(stalled({ open: 0, next: null, lastDone: null })).toBe('');
  });

  it('is as far as its minutes, or its steps', () => {
    expect(shareDone(progress({}))).toBe(0.25);
    expect(shareDone(progress({ minutesDone: 90, minutesLeft: 90 }))).toBe(0.5);
    expect(shareDone(progress({ done: 0, open: 0 }))).toBe(0);
  });
});
