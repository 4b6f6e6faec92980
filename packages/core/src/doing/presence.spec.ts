import fc from 'fast-check';
import { MINUTE, instantOf } from '../time/zones';
import { presenceAt, presenceTurns, type PresenceInput } from './presence';

const ZONE = 'Europe/Vienna';
const at = (clock: string, day = '2026-08-03') => instantOf(`${day}T${clock}`, ZONE);
const span = (from: string, to: string, day?: string) => ({ start: at(from, day), end: at(to, day) });
const DAY: PresenceInput = {
  zone: ZONE,
  working: [span('09:00', '12:00'), span('12:45', '17:30'), span('09:00', '17:30', '2026-08-04')],
  meetings: [span('10:00', '11:00')],
  quiet: [span('14:00', '15:30')],
  breaks: [span('16:00', '16:15')],
  headsDown: null,
  own: null,
};
const said = (clock: string, more: Partial<PresenceInput> = {}) => {
  const { text, dnd } = presenceAt({ ...DAY, ...more }, at(clock));
  return dnd ? `${text}, messages wait` : text;
};

describe('how one is, for others', () => {
  it.each([
    ['08:00', 'Away until 9:00'],
    ['09:30', 'At work'],
    ['10:00', 'In a meeting until 11:00'],
    ['11:00', 'At work'],
    ['12:10', 'Pause until 12:45'],
    ['14:20', 'Quiet until 15:30, messages wait'],
    ['15:30', 'At work'],
    ['16:05', 'Pause until 16:15'],
    ['18:00', 'Away until Tue 4 Aug, 9:00'],
  ])('at %s: %s', (clock, words) => expect(said(clock)).toBe(words));

  it('goes by what runs, too: heads-down is quiet, its pauses are pauses, a meeting is a meeting', () => {
    const works = { headsDown: { phase: 'work' as const, until: at('11:40') } };
    expect(said('11:20', works)).toBe('Quiet until 11:40, messages wait');
    expect(said('14:20', { headsDown: { phase: 'work', until: at('14:40') } })).toBe('Quiet until 15:30, messages wait');
    expect(said('11:20', { headsDown: { phase: 'short', until: at('11:25') } })).toBe('Pause until 11:25');
    expect(said('11:20', { headsDown: { phase: 'over', until: null } })).toBe('Pause');
    expect(said('10:20', works)).toBe('In a meeting until 11:00');
  });

  it('is what one says oneself as long as that holds, and messages wait all the same', () => {
    const own = { own: { text: 'On the boat', until: at('15:00') } };
    expect(said('11:00', own)).toBe('On the boat');
    expect(said('14:20', own)).toBe('On the boat, messages wait');
    expect(said('15:00', own)).toBe('Quiet until 15:30, messages wait');
  });

  it('changes only when it was said to', () => {
    const minute = fc.integer({ min: 0, max: 24 * 60 - 1 }).map((minutes) => at('00:00') + minutes * MINUTE);
    fc.assert(
      fc.property(minute, fc.double({ min: 0, max: 1, noNaN: true }), (now, part) => {
        const turns = presenceTurns(DAY, now) ?? now;
        const between = now + Math.floor((turns - now - 1) * part);
        expect(presenceAt(DAY, between)).toMatchObject({ kind: presenceAt(DAY, now).kind, until: presenceAt(DAY, now).until });
      }),
    );
    expect(presenceTurns({ ...DAY, working: [], meetings: [], quiet: [], breaks: [] }, at('10:00'))).toBeNull();
  });
});
