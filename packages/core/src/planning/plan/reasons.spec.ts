import { instantOf } from '../../time/zones';
import { planStretch } from './plan';
import { problem, type Written } from './problems.fixture';
import { ProblemError, readDemands, readProblem } from './readProblem';
import { sayMend, sayWhyNot } from './sayUnplaced';

const ZONE = 'Europe/Vienna';

/** What is said of each task without a place. */
function said(more: Partial<Written>): Record<string, string> {
  const input = readProblem(problem({ days: 1, ...more }));
  const saying = { nameOf: (id: string) => id.toUpperCase(), zone: ZONE, now: input.from };
  return Object.fromEntries(
    planStretch(input, 0.05).unplaced.map((one) => [one.task, `${sayWhyNot(one, saying)} ${sayMend(one, saying)}`.trim()]),
  );
}
const noon: [string, string] = ['2026-08-03T12:00', '2026-08-03T17:30'];

describe('why a task has no place, and what would let it in', () => {
  it('waits for what has no place, for something unknown, or in a circle', () => {
    expect(
      said({
        tasks: [
          { id: 'a', minutes: 30, after: ['b'] },
          { id: 'b', minutes: 30, after: ['a'] },
          { id: 'c', minutes: 30, after: ['a'] },
          { id: 'd', minutes: 30, after: ['x'] },
          { id: 'e', minutes: 30, after: ['d'] },
        ],
      }),
    ).toEqual({
      a: 'It waits for “B”, and in the end that waits for it. If it did not have to wait for “B”, it could be placed.',
      b: 'It waits for “A”, and in the end that waits for it. If it did not have to wait for “A”, it could be placed.',
      c: 'It comes after “A”, which has no place. If it did not have to wait for “A”, it could be placed.',
      d: 'It comes after “X”, which is not among the tasks. If it did not have to wait for “X”, it could be placed.',
      e: 'It comes after “D”, which has no place. If it did not have to wait for “D”, it could be placed.',
    });
  });

  it('has a deadline that passed, or that comes before the time it needs', () => {
    const tasks = [{ id: 'a', minutes: 60, deadline: '2026-08-01', fixed: true }];
    expect(said({ tasks })).toEqual({
      a: 'Its fixed deadline has passed. With time until Mon 3 Aug 10:00 it would fit.',
    });
    expect(said({ tasks: [{ id: 'a', minutes: 120, deadline: '2026-08-03T10:45', fixed: true }] })).toEqual({
      a: 'There are not 2 h free before its fixed deadline. With 1 h 45 it would fit.',
    });
  });

  it('is longer than any gap, than the time there is, or than the limit', () => {
    expect(said({ tasks: [{ id: 'a', minutes: 300 }] })).toEqual({
      a: 'No gap is 5 h long, and it is to be done in one piece. In parts of 2 h 30 it would fit.',
    });
    expect(said({ busy: [noon], tasks: [{ id: 'a', minutes: 240 }] })).toEqual({
      a: 'There are not 4 h of free working time for it. With 3 h it would fit.',
    });
    expect(said({ hours: {}, tasks: [{ id: 'a', minutes: 60 }] })).toEqual({
      a: 'There are not 1 h of free working time for it. It takes 1 h of more working time, or a longer stretch.',
    });
    expect(said({ dailyLimit: 60, tasks: [{ id: 'a', minutes: 75 }] })).toEqual({
      a: 'It takes 1 h 15, more than the limit for a day leaves. With 1 h it would fit.',
    });
  });

  it('gives way to what matters more, or can as well stay open', () => {
    expect(
      said({
        busy: [noon],
        tasks: [
          { id: 'a', minutes: 150, priority: 'high' },
          { id: 'b', minutes: 90, priority: 'low' },
        ],
      }),
    ).toEqual({ b: 'What matters more, or is due sooner, takes the time it would need. With 30 min it would fit.' });
    const [first] = [{ id: 'a', minutes: 15, notBefore: '2026-08-25' }];
    expect(said({ days: 30, tasks: [first as { id: string; minutes: number }] })).toEqual({
      a: 'The first time that is free for it is so late that it can as well stay open. It would be done by Tue 25 Aug 9:15.',
    });
  });
});

describe('a planning problem in a file', () => {
  it.each([
    [[], 'A planning problem is one JSON object.'],
    [{ ...problem({}), zone: 'Fen' }, '"Fen" is not a zone name like Europe/Vienna.'],
    [{ ...problem({}), from: 'soon' }, 'from is "soon", which is not a time like 2026-08-03T09:00.'],
    [{ ...problem({}), days: 0 }, 'days is 0; it is a whole number from 1 to 400.'],
    [{ ...problem({}), hours: { 8: [] } }, 'hours names the weekday "8"; 1 is Monday and 7 is Sunday.'],
    [problem({ deep: ['12:00-09:00'] }), /^deep: "12:00-09:00" is not a stretch of working hours/],
    [problem({ busy: [['2026-08-03T10:00', '2026-08-03T09:00']] }), 'busy[0] is not a pair of a start and a later end.'],
    [problem({ tasks: [{ id: 'a', minutes: 0 }] }), 'tasks[0].minutes is 0; it is a whole number from 1 to 60000.'],
    [problem({ tasks: [{ id: 'a', minutes: 5, fixed: 'yes' }] }), 'tasks[0].fixed is "yes"; it is true or false.'],
    [
      problem({ tasks: [{ id: 'a', minutes: 5, priority: 'top' }] }),
      'tasks[0].priority is "top"; it is one of high, normal, low.',
    ],
    [
      problem({
        tasks: [
          { id: 'a', minutes: 5 },
          { id: 'a', minutes: 6 },
        ],
      }),
      'Two tasks have the id "a".',
    ],
  ])('says what is wrong with it: %#', (written, sentence) => {
    expect(() => readProblem(written)).toThrow(ProblemError);
    expect(() => readProblem(written)).toThrow(sentence);
  });

  it('gives the free time to the last deadline, however many days it has', () => {
    const { demands, free } = readDemands(
      problem({
        days: 1,
        tasks: [
          { id: 'a', minutes: 30, deadline: '2026-08-06T16:00' },
          { id: 'b', minutes: 30 },
        ],
      }),
    );
    expect(demands).toEqual([{ id: 'a', minutes: 30, deadline: instantOf('2026-08-06T16:00', ZONE) }]);
    expect(free.working.at(-1)?.end).toBe(instantOf('2026-08-06T17:30', ZONE));
  });
});
