import fc from 'fast-check';
import { lineLanguage } from '../capture/lineLanguage';
import { readStretches, sayStretches } from '../settings/settings';
import { readMoment, readDay } from '../tasks/readField';
import { addDays } from '../time/zones';
import { FIRST_MANNER, mannerFrom, type Manner } from './manner';
import { sayDay, sayHour, sayMoment, saySpan, sayTime } from './say';

const as = (more: Partial<Manner>) => mannerFrom(() => ({ ...FIRST_MANNER, ...more }));
const TODAY = '2026-08-03';
const NOW = Date.parse('2026-08-03T06:00Z');
const ZONE = 'Europe/Vienna';

describe('the manner in which days and times are written', () => {
  afterEach(() => mannerFrom(() => undefined));

  it.each([
    [{}, 'Tue 4 Aug', 'Fri 1 Jan 2027', '14:05'],
    [{ dates: 'month-day' }, 'Tue Aug 4', 'Fri Jan 1, 2027', '14:05'],
    [{ dates: 'numbers', clock: 12 }, 'Tue 2026-08-04', 'Fri 2027-01-01', '2:05 pm'],
  ] as const)('%j', (more, near, far, time) => {
    as(more);
    expect(sayDay('2026-08-04', TODAY)).toBe(near);
    expect(sayDay('2027-01-01', TODAY)).toBe(far);
    expect(sayTime(Date.parse('2026-08-04T12:05Z'), ZONE)).toBe(time);
  });

  it('says the half of the day once where a stretch lies in it', () => {
    const at = (time: string) => Date.parse(`2026-08-04T${time}Z`);
    expect(saySpan(at('07:00'), at('08:00'), ZONE)).toBe('9:00 – 10:00');
    as({ clock: 12 });
    expect(saySpan(at('07:00'), at('08:00'), ZONE)).toBe('9:00 – 10:00 am');
    expect(saySpan(at('09:30'), at('10:30'), ZONE)).toBe('11:30 am – 12:30 pm');
  });

  it('knows noon and midnight of twelve hours', () => {
    as({ clock: 12 });
    expect([0, 1, 12, 13, 24].map(sayHour)).toEqual(['12 am', '1 am', '12 pm', '1 pm', '12 am']);
    expect(sayStretches(['00:00-12:30', '13:00-24:00'])).toBe('12:00 am–12:30 pm, 1:00 pm–12:00 am');
  });

  const manners = fc.record<Manner>({
    clock: fc.constantFrom(24, 12),
    dates: fc.constantFrom('day-month', 'month-day', 'numbers'),
    typed: fc.constantFrom('any', 'en'),
  });

  it('what is written in any manner is read as the same', () => {
    fc.assert(
      fc.property(manners, fc.nat(900), fc.nat(24 * 12 - 1), (chosen, ahead, at) => {
        as(chosen);
        const day = addDays(TODAY, ahead);
        const time = `${String(Math.floor(at / 12)).padStart(2, '0')}:${String((at % 12) * 5).padStart(2, '0')}`;
        const context = { now: NOW, zone: ZONE };
        expect(readDay(sayDay(day, TODAY), context)).toBe(day);
        expect(readMoment(sayMoment(`${day}T${time}`, TODAY), context)).toBe(`${day}T${time}`);
      }),
      { numRuns: 150 },
    );
  });

  it('hours of work are read by either clock', () => {
    expect(readStretches('9am-12, 12:45 pm – 5:30 pm')).toEqual(['09:00-12:00', '12:45-17:30']);
    fc.assert(
      fc.property(manners, fc.nat(11), fc.integer({ min: 12, max: 23 }), (chosen, from, to) => {
        as(chosen);
        const stretches = readStretches(`${from}-${to}:30`);
        expect(readStretches(sayStretches(stretches))).toEqual(stretches);
      }),
      { numRuns: 50 },
    );
  });

  it('typed lines are read in the language that was chosen', () => {
    expect([lineLanguage('call Anna morgen'), lineLanguage('call Anna tomorrow')]).toEqual(['de', 'en']);
    as({ typed: 'en' });
    expect(lineLanguage('call Anna morgen')).toBe('en');
  });
});
