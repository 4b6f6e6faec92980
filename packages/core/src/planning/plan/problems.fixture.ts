import fc from 'fast-check';

/** A task as it stands in a file, with what is usual left out. */
export interface WrittenTask {
  id: string;
  minutes: number;
  [field: string]: unknown;
}

/** A planning problem as it stands in a file. */
export interface Written {
  zone: string;
  from: string;
  hours: Record<number, string[]>;
  days: number;
  grid: number;
  busy: [string, string][];
  dailyLimit: number | null;
  deep: string[];
  kept: { task: string; start: string; end: string }[];
  tasks: WrittenTask[];
}

const WEEK = { 1: ['09:00-12:00', '13:00-17:30'] };

/** A week of the warden's office, Monday to Friday, with nothing in it. */
export const problem = (more: Partial<Written>): Written => ({
  zone: 'Europe/Vienna',
  from: '2026-08-03T09:00',
  hours: Object.fromEntries([1, 2, 3, 4, 5].map((day) => [day, WEEK[1]])),
  ...{ days: 5, grid: 15, busy: [], dailyLimit: null, deep: ['09:00-12:00'], kept: [], tasks: [] },
  ...more,
});

const two = (number: number) => String(number).padStart(2, '0');
const DAYS = ['03', '04', '05'];
const moment = fc
  .tuple(fc.constantFrom(...DAYS), fc.integer({ min: 8, max: 18 }))
  .map(([day, hour]) => `2026-08-${day}T${two(hour)}:00`);

/** Problems of all kinds: some tasks wait for each other, or for one that is not there. */
export function randomProblem({ most = 7, pieces = true, days = 3, grid = 15 } = {}): fc.Arbitrary<Written> {
  const id = fc.integer({ min: 0, max: most }).map((at) => `t${at}`);
  const none = <T>(one: fc.Arbitrary<T>) => fc.option(one, { nil: null, freq: 2 });
  const task = fc.record({
    minutes: fc.integer({ min: 1, max: 20 }).map((count) => count * 15),
    minChunk: pieces ? none(fc.constantFrom(15, 30, 50, 90)) : fc.constant(null),
    priority: fc.constantFrom('high', 'normal', 'low'),
    weight: none(fc.constantFrom(0, 0.5, 7, 40)),
    notBefore: none(fc.constantFrom('2026-08-04', '2026-08-03T11:00', '2026-08-30')),
    deadline: none(fc.oneof(moment, fc.constantFrom('2026-08-04', '2026-07-01'))),
    fixed: fc.boolean(),
    concentration: fc.constantFrom('deep', 'medium', 'light'),
    after: fc.oneof({ weight: 3, arbitrary: fc.constant([]) }, { weight: 1, arbitrary: fc.array(id, { maxLength: 2 }) }),
    place: pieces ? none(fc.constantFrom('town', 'hut')) : fc.constant(null),
  });
  const busy = fc.tuple(moment, fc.integer({ min: 1, max: 5 })).map(([start, hours]): [string, string] => {
    const hour = Number(start.slice(11, 13)) + hours;
    return [start, `${start.slice(0, 11)}${two(Math.min(23, hour))}:${hours % 2 ? '00' : '20'}`];
  });
  return fc
    .record({
      tasks: fc.array(task, { maxLength: most }),
      busy: fc.array(busy, { maxLength: 4 }),
      dailyLimit: none(fc.constantFrom(60, 200, 300)),
    })
    .map(({ tasks, busy: taken, dailyLimit }) =>
      problem({ days, grid, busy: taken, dailyLimit, tasks: tasks.map((one, at) => ({ id: `t${at}`, ...one })) }),
    );
}
