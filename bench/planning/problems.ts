import { addDays, readProblem, weekdayOf, type PlanInput } from '@corvun/core';
import { randomFrom } from '../../packages/core/src/planning/plan/random';

const ZONE = 'Europe/Vienna';

/** The same numbers every time. */
export function numbers(seed: number) {
  const random = randomFrom(seed * 2_654_435_769);
  return { ...random, one: <T>(all: readonly T[]): T => all[random.upTo(all.length)] as T };
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
  const { next, upTo, one } = numbers(seed);
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
      minChunk: next() < 0.4 ? Math.max(grid, one([30, 45, 60])) : null,
      priority: one(['high', 'normal', 'normal', 'low']),
      notBefore: next() < 0.15 ? addDays('2026-08-03', upTo(Math.max(1, days - 1))) : null,
      deadline: next() < 0.5 ? moment() : null,
      fixed: next() < 0.5,
      concentration: one(['deep', 'medium', 'light']),
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
    dailyLimit: next() < 0.3 ? one([240, 300, 360]) : null,
    deep: ['09:00-12:00'],
    tasks: all,
  };
}

export const inputOf = (seed: number, size: Size): PlanInput => readProblem(problemOf(seed, size));
