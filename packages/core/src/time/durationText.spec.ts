import fc from 'fast-check';
import { findDurations } from './durationText';

const minutes = (text: string) => findDurations(text).map((one) => one.minutes);

describe('durations in words', () => {
  it.each<[string, number[]]>([
    ['for 45 min', [45]],
    ['1h30', [90]],
    ['1 h 30 min', [90]],
    ['an hour and a half', [90]],
    ['two and a half hours', [150]],
    ['1.5 hours', [90]],
    ['1,5 Stunden', [90]],
    ['three quarters of an hour', [45]],
    ['a quarter of an hour', [15]],
    ['an hour and a quarter', [75]],
    ['half an hour, then another 20 minutes', [30, 20]],
    ['eight hours', [480]],
    ['a 30-minute talk', [30]],
    ['eine Dreiviertelstunde', [45]],
    ['anderthalb Stunden', [90]],
    ['eine halbe Stunde', [30]],
    ['zwanzig Minuten', [20]],
    ['90m', [90]],
  ])('%s', (text, expected) => {
    expect(minutes(text)).toEqual(expected);
  });

  it.each([
    'two hours ago',
    'in 20 minutes',
    'within an hour',
    'move it by an hour',
    'half an hour earlier',
    'vor zwei Stunden',
    'every 30 minutes',
    '1h75',
    'the minutes of Thursday',
    '230 m of hedge',
    'hours of rain',
    '0 minutes',
    '9999 hours',
  ])('%s is none', (text) => {
    expect(minutes(text)).toEqual([]);
  });

  it('stand where they are said', () => {
    const text = 'It takes about 1 h 30, or ninety minutes.';
    expect(findDurations(text).map((one) => text.slice(one.start, one.end))).toEqual(['1 h 30', 'ninety minutes']);
  });

  it('are whole minutes within the bounds, in order, and never overlap', () => {
    const words = fc.constantFrom('an hour', '45 min', 'half an hour', 'and', '1h30', 'two', 'a quarter of an hour', '.', '9 h');
    fc.assert(
      fc.property(fc.array(words, { maxLength: 12 }), (parts) => {
        const found = findDurations(parts.join(' '));
        expect(found.every((one) => Number.isInteger(one.minutes) && one.minutes >= 1 && one.minutes <= 6000)).toBe(true);
        expect(found.every((one, at) => at === 0 || one.start >= (found[at - 1]?.end ?? 0))).toBe(true);
      }),
    );
  });
});
