import { addDays, readProblem, weekdayOf, type PlanInput } from '@corvun/core';

const ZONE = 'Europe/Vienna';

/** The same numbers every time. */
export function numbers(seed: number) {
  let state = seed * 2_654_435_769;
  const next = () => {
    state = (state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
  };
  const upTo = (count: number) => Math.floor(next() * count);
  return { next, upTo, oneOf: <T>(all: readonly T[]): T => all[upTo(all.length)] as T };
}

export interface Size {
  tasks: number;
  days: number;
  grid: number;
  /** Share of the working time that the tasks would take. */
  filled: number;
}

/** A random planning problem as it stands in a file: meetings, deadlines, order, parts, deep and light work. */
export function problemOf(seed: number, { tasks, days, grid, filled }: Size): unknown {
  const { next, upTo, oneOf } = numbers(seed);
  const pad = (number: number) => String(number).padStart(2, '0');
  const from = '2026-08-03T09:00';
  const last = addDays('2026-08-03', days - 1);
  const busy: [string, string][] = [];
  for (let day = '2026-08-03'; day <= last; day = addDays(day, 1)) {
    if (weekdayOf(day) > 5) continue;
    for (let count = upTo(3); count > 0; count -= 1) {
      const at = 9 * 60 + upTo(16) * 30;
      const end = at + 30 + upTo(3) * 30;
      const clock = (minutes: number) => `${day}T${pad(Math.floor(minutes / 60))}:${pad(minutes % 60)}`;
      busy.push([clock(at), clock(end)]);
    }
  }
  const working =
    Array.from({ length: days }, (_, at) => addDays('2026-08-03', at)).filter((day) => weekdayOf(day) < 6).length * 450;
  const mean = (working * filled) / tasks;
  const moment = () => `${addDays('2026-08-03', upTo(days))}T${pad(10 + upTo(8))}:00`;
  const all = Array.from({ length: tasks }, (_, at) => {
    const minutes = Math.max(grid, Math.round((mean * (0.3 + 1.4 * next())) / 15) * 15);
    return {
      id: `t${String(at).padStart(4, '0')}`,
      minutes,
      minChunk: next() < 0.4 ? Math.max(grid, oneOf([30, 45, 60])) : null,
      priority: oneOf(['high', 'normal', 'normal', 'low']),
      notBefore: next() < 0.15 ? addDays('2026-08-03', upTo(Math.max(1, days - 1))) : null,
      deadline: next() < 0.5 ? moment() : null,
      fixed: next() < 0.5,
      concentration: oneOf(['deep', 'medium', 'light']),
      after: at > 0 && next() < 0.2 ? [`t${String(upTo(at)).padStart(4, '0')}`] : [],
    };
  });
  return {
    zone: ZONE,
    from,
    hours: Object.fromEntries([1, 2, 3, 4, 5].map((day) => [day, ['09:00-12:00', '13:00-17:30']])),
    days,
    grid,
    busy,
    dailyLimit: next() < 0.3 ? oneOf([240, 300, 360]) : null,
    deep: ['09:00-12:00'],
    tasks: all,
  };
}

export const inputOf = (seed: number, size: Size): PlanInput => readProblem(problemOf(seed, size));
