import fc from 'fast-check';
import { dayOf, instantOf, weekdayOf } from '../time/zones';
import { askedAt, lastAsked, nextAsked } from './asked';
import { sayAnswer, wrongAnswer, wrongQuestion, type Question } from './questions';
import { sayTrend, trendOf } from './trends';

const ZONE = 'Europe/Vienna';
const at = (wall: string) => instantOf(wall, ZONE);
const question = (own: Partial<Question>): Question => ({
  ...{ id: 'q', text: 'How was the day?', kind: 'words', low: '', high: '', choices: [] },
  ...own,
});
const SCALED = question({ kind: 'scale', low: 'tired', high: 'awake' });
const CHOICE = question({ kind: 'choice', choices: ['on site', 'at the desk'] });

describe('when a check-in asks', () => {
  const workdays = { weekdays: [1, 2, 3, 4, 5], time: '17:00' };
  const fridays = { weekdays: [5], time: '16:00' };

  it.each([
    [workdays, '2026-08-03T16:59', '2026-07-31'],
    [workdays, '2026-08-03T17:00', '2026-08-03'],
    [workdays, '2026-08-02T09:00', '2026-07-31'],
    [fridays, '2026-08-07T15:59', '2026-07-31'],
    [fridays, '2026-08-07T16:00', '2026-08-07'],
    [{ weekdays: [], time: '17:00' }, '2026-08-03T17:00', null],
  ])('%o at %s asked last on %s', (asks, now, day) => {
    expect(lastAsked(asks, at(now), 0, ZONE)).toBe(day);
  });

  it('asks from when it was made on', () => {
    expect(lastAsked(workdays, at('2026-08-03T17:30'), at('2026-08-03T17:10'), ZONE)).toBeNull();
    expect(lastAsked(workdays, at('2026-08-04T17:00'), at('2026-08-03T17:10'), ZONE)).toBe('2026-08-04');
  });

  it('asks next on one of its days, after now and after what it asked last', () => {
    expect(nextAsked({ weekdays: [], time: '17:00' }, 0, ZONE)).toBeNull();
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.integer({ min: 1, max: 7 }), { minLength: 1 }),
        fc.constantFrom('00:00', '02:30', '17:00', '23:59'),
        fc.integer({ min: at('2026-03-01T00:00'), max: at('2026-11-30T00:00') }),
        (weekdays, time, now) => {
          const next = nextAsked({ weekdays, time }, now, ZONE) ?? 0;
          const last = lastAsked({ weekdays, time }, now, 0, ZONE) ?? '';
          expect(next).toBeGreaterThan(now);
          expect(weekdays).toContain(weekdayOf(dayOf(next, ZONE)));
          expect(weekdays).toContain(weekdayOf(last));
          expect(askedAt(last, { time }, ZONE)).toBeLessThanOrEqual(now);
          // Nothing lies between them.
          expect(lastAsked({ weekdays, time }, next - 1, 0, ZONE)).toBe(last);
        },
      ),
    );
  });
});

describe('questions and answers', () => {
  it.each<[Partial<Question>, string | null]>([
    [{}, null],
    [{ text: '  ' }, 'A question needs words.'],
    [{ kind: 'scale', low: 'tired', high: ' ' }, 'Name both ends of the scale.'],
    [{ kind: 'choice', choices: ['alone'] }, 'A choice is among two or more words.'],
    [{ kind: 'choice', choices: ['alone', ' '] }, 'A choice is among two or more words.'],
    [{ kind: 'choice', choices: ['alone', 'alone '] }, 'Two of the words are the same.'],
    [{ kind: 'choice', choices: ['alone', 'with others'] }, null],
  ])('%o: %s', (own, wrong) => {
    expect(wrongQuestion(question(own))).toBe(wrong);
  });

  it.each<[Question, unknown, boolean]>([
    [question({}), 'Fog all morning', true],
    [question({}), ' ', false],
    [question({}), 'x'.repeat(5001), false],
    [SCALED, 5, true],
    [SCALED, 6, false],
    [SCALED, 2.5, false],
    [SCALED, '3', false],
    [question({ kind: 'yes-no' }), false, true],
    [question({ kind: 'yes-no' }), 'no', false],
    [CHOICE, 'on site', true],
    [CHOICE, 'elsewhere', false],
  ])('to %o, %o is an answer: %s', (asked, value, right) => {
    expect(wrongAnswer(asked, value) === null).toBe(right);
  });

  it('reads answers as one says them', () => {
    expect(sayAnswer({ question: SCALED, value: 1 })).toBe('1 of 5, tired');
    expect(sayAnswer({ question: SCALED, value: 3 })).toBe('3 of 5');
    expect(sayAnswer({ question: question({ kind: 'yes-no' }), value: false })).toBe('no');
    expect(sayAnswer({ question: CHOICE, value: 'on site' })).toBe('on site');
  });
});

describe('trends', () => {
  const TODAY = '2026-08-03';

  it('holds four weeks against the four before', () => {
    const trend = trendOf(
      SCALED,
      [
        { day: '2026-08-03', value: 4 },
        { day: '2026-07-07', value: 3 },
        { day: '2026-07-06', value: 2 },
        { day: '2026-06-09', value: 1 },
        { day: '2026-06-08', value: 5 },
      ],
      TODAY,
    );
    expect(trend).toMatchObject({ kind: 'scale', lately: 3.5, before: 1.5 });
    expect(trend?.kind === 'scale' && trend.points.map(({ day }) => day)).toEqual([
      '2026-06-08',
      '2026-06-09',
      '2026-07-06',
      '2026-07-07',
      '2026-08-03',
    ]);
    expect(trend && sayTrend(trend)).toBe('3.5 of 5 in four weeks, 1.5 in the four before');
  });

  it('counts yes, and words that are no choice any more, too', () => {
    const yes = trendOf(
      question({ kind: 'yes-no' }),
      [
        { day: TODAY, value: true },
        { day: '2026-08-02', value: false },
      ],
      TODAY,
    );
    expect(yes && sayTrend(yes)).toBe('yes 1 of 2 times');
    const chosen = trendOf(
      CHOICE,
      [
        { day: TODAY, value: 'on site' },
        { day: '2026-08-02', value: 'in the boat' },
      ],
      TODAY,
    );
    expect(chosen && sayTrend(chosen)).toBe('on site 1, in the boat 1');
  });

  it('says nothing of words, and nothing where nothing was answered', () => {
    expect(trendOf(question({}), [{ day: TODAY, value: 'Fog' }], TODAY)).toBeNull();
    expect(trendOf(SCALED, [], TODAY)).toBeNull();
  });
});
