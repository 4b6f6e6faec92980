import { HoursError, readHours, workingTimeOf, type WorkingHours } from '../../time/working';
import type { Interval } from '../../time/intervals';
import {
  addDays,
  dayOf,
  endOfDay,
  isDay,
  isZone,
  parseIso,
  startOfDay,
  type Day,
  type Instant,
  type Zone,
} from '../../time/zones';
import type { Demand } from '../safeStart';
import type { PlanInput, PlanTask } from './problem';

/** A planning problem that cannot be read; `message` is a sentence that says where. */
export class ProblemError extends Error {
  readonly code = 'bad-problem';
}

export const MOST_TASKS = 5000;
export const MOST_DAYS = 400;
const LONGEST = 60_000;

type Fields = Record<string, unknown>;

/**
 * A planning problem as it is written in a file: hours and busy times by the wall clock of its zone.
 * @param json the parsed file
 * @throws ProblemError with a sentence
 */
export function readProblem(json: unknown): PlanInput {
  const problem = fieldsOf(json, 'A planning problem is one JSON object.');
  const zone = text(problem, 'zone');
  if (!isZone(zone)) throw new ProblemError(`"${zone}" is not a zone name like Europe/Vienna.`);
  const from = instant(problem['from'], 'from', zone);
  const days = whole(problem['days'], 'days', 1, MOST_DAYS);
  const first = dayOf(from, zone);
  const all = Array.from({ length: days }, (_, at) => addDays(first, at));
  const hours = hoursOf(problem['hours']);
  const deep = spansOf(problem['deep'] ?? [], 'deep');
  const limit = problem['dailyLimit'] ?? null;
  return {
    zone,
    from,
    working: spread(all, hours, zone).flatMap(({ start, end }) => (end > from ? [{ start: Math.max(start, from), end }] : [])),
    busy: intervals(problem['busy'] ?? [], 'busy', zone),
    deep: spread(all, Object.fromEntries([1, 2, 3, 4, 5, 6, 7].map((day) => [day, deep])), zone),
    grid: whole(problem['grid'] ?? 15, 'grid', 1, 1440),
    dailyLimit: limit === null ? null : whole(limit, 'dailyLimit', 0, 1440),
    kept: list(problem['kept'] ?? [], 'kept').map((one, at) => keptOf(one, `kept[${at}]`, zone)),
    tasks: tasksOf(problem['tasks'], zone),
  };
}

/**
 * The work with a deadline of a planning problem, and the time that is free for it: to the last deadline, however many days
 * the problem has.
 * @throws ProblemError with a sentence
 */
export function readDemands(json: unknown): {
  zone: Zone;
  free: { working: Interval[]; busy: readonly Interval[] };
  demands: Demand[];
} {
  const { zone, from, busy, tasks } = readProblem({ days: 1, ...fieldsOf(json, 'A planning problem is one JSON object.') });
  const demands = tasks.flatMap(({ id, minutes, deadline }) => (deadline === null ? [] : [{ id, minutes, deadline }]));
  const last = dayOf(Math.max(from, ...demands.map(({ deadline }) => deadline)), zone);
  const hours = hoursOf((json as Fields)['hours']);
  const all: Day[] = [];
  for (let day = dayOf(from, zone); day <= last; day = addDays(day, 1)) all.push(day);
  const working = spread(all, hours, zone).flatMap(({ start, end }) =>
    end > from ? [{ start: Math.max(start, from), end }] : [],
  );
  return { zone, free: { working, busy }, demands };
}

function tasksOf(value: unknown, zone: Zone): PlanTask[] {
  const all = list(value, 'tasks');
  if (all.length > MOST_TASKS)
    throw new ProblemError(`There are ${all.length} tasks; at most ${MOST_TASKS} are planned at once.`);
  const seen = new Set<string>();
  return all.map((one, at) => {
    const task = taskOf(one, `tasks[${at}]`, zone);
    if (seen.has(task.id)) throw new ProblemError(`Two tasks have the id "${task.id}".`);
    seen.add(task.id);
    return task;
  });
}

function taskOf(value: unknown, where: string, zone: Zone): PlanTask {
  const task = fieldsOf(value, `${where} is not an object.`);
  const chunk = task['minChunk'] ?? null;
  return {
    id: text(task, 'id', where),
    minutes: whole(task['minutes'], `${where}.minutes`, 1, LONGEST),
    minChunk: chunk === null ? null : whole(chunk, `${where}.minChunk`, 1, LONGEST),
    priority: oneOf(task['priority'] ?? 'normal', `${where}.priority`, ['high', 'normal', 'low']),
    ...((task['weight'] ?? null) === null ? {} : { weight: weightIn(task['weight'], `${where}.weight`) }),
    notBefore: momentOf(task['notBefore'], `${where}.notBefore`, zone, startOfDay),
    deadline: momentOf(task['deadline'], `${where}.deadline`, zone, endOfDay),
    fixed: flag(task['fixed'] ?? false, `${where}.fixed`),
    concentration: oneOf(task['concentration'] ?? 'medium', `${where}.concentration`, ['deep', 'medium', 'light']),
    after: [...new Set(list(task['after'] ?? [], `${where}.after`).map((id) => string(id, `${where}.after`)))],
    place: (task['place'] ?? null) === null ? null : text(task, 'place', where),
    seen: intervals(task['seen'] ?? [], `${where}.seen`, zone),
  };
}

/** Weights are compared with each other: any unit does. */
const MOST_WEIGHT = 1e6;

function weightIn(value: unknown, where: string): number {
  if (typeof value === 'number' && value >= 0 && value <= MOST_WEIGHT) return value;
  throw new ProblemError(`${where} is a number from 0 to ${MOST_WEIGHT}.`);
}

function keptOf(value: unknown, where: string, zone: Zone) {
  const block = fieldsOf(value, `${where} is not an object.`);
  const [start, end] = [instant(block['start'], `${where}.start`, zone), instant(block['end'], `${where}.end`, zone)];
  if (end <= start) throw new ProblemError(`${where} ends before it begins.`);
  return { task: text(block, 'task', where), start, end };
}

const spread = (days: readonly Day[], hours: WorkingHours, zone: Zone): Interval[] =>
  days.flatMap((day) => workingTimeOf(day, hours, zone)).filter(({ start, end }) => start < end);

function hoursOf(value: unknown): WorkingHours {
  const hours: WorkingHours = {};
  for (const [day, spans] of Object.entries(fieldsOf(value ?? {}, 'hours is an object of weekdays, 1 is Monday.'))) {
    if (!/^[1-7]$/.test(day)) throw new ProblemError(`hours names the weekday "${day}"; 1 is Monday and 7 is Sunday.`);
    hours[Number(day)] = spansOf(spans, `hours.${day}`);
  }
  return hours;
}

const spansOf = (value: unknown, where: string): string[] =>
  list(value, where).map((span) => {
    try {
      return readHours(string(span, where));
    } catch (problem) {
      throw problem instanceof HoursError ? new ProblemError(`${where}: ${problem.message}`) : problem;
    }
  });

function intervals(value: unknown, where: string, zone: Zone): Interval[] {
  return list(value, where).map((one, at) => {
    const pair = list(one, `${where}[${at}]`);
    const [start, end] = [instant(pair[0], `${where}[${at}]`, zone), instant(pair[1], `${where}[${at}]`, zone)];
    if (pair.length !== 2 || end < start) throw new ProblemError(`${where}[${at}] is not a pair of a start and a later end.`);
    return { start, end };
  });
}

function momentOf(value: unknown, where: string, zone: Zone, ofDay: (day: Day, zone: Zone) => Instant): Instant | null {
  if (value === undefined || value === null) return null;
  return typeof value === 'string' && isDay(value) ? ofDay(value, zone) : instant(value, where, zone);
}

function instant(value: unknown, where: string, zone: Zone): Instant {
  const found = typeof value === 'string' ? parseIso(value, zone) : Number.NaN;
  if (Number.isNaN(found)) throw new ProblemError(`${where} is ${say(value)}, which is not a time like 2026-08-03T09:00.`);
  return found;
}

function whole(value: unknown, where: string, least: number, most: number): number {
  if (typeof value === 'number' && Number.isInteger(value) && value >= least && value <= most) return value;
  throw new ProblemError(`${where} is ${say(value)}; it is a whole number from ${least} to ${most}.`);
}

function oneOf<T extends string>(value: unknown, where: string, known: readonly T[]): T {
  const found = known.find((one) => one === value);
  if (!found) throw new ProblemError(`${where} is ${say(value)}; it is one of ${known.join(', ')}.`);
  return found;
}

function flag(value: unknown, where: string): boolean {
  if (typeof value === 'boolean') return value;
  throw new ProblemError(`${where} is ${say(value)}; it is true or false.`);
}

function string(value: unknown, where: string): string {
  if (typeof value === 'string' && value) return value;
  throw new ProblemError(`${where} is ${say(value)}; it is a text.`);
}

const text = (fields: Fields, name: string, where?: string): string =>
  string(fields[name], where === undefined ? name : `${where}.${name}`);

function list(value: unknown, where: string): unknown[] {
  if (Array.isArray(value)) return value;
  throw new ProblemError(`${where} is ${say(value)}; it is a list.`);
}

function fieldsOf(value: unknown, message: string): Fields {
  if (typeof value === 'object' && value !== null && !Array.isArray(value)) return value as Fields;
  throw new ProblemError(message);
}

const say = (value: unknown): string => (value === undefined ? 'missing' : JSON.stringify(value).slice(0, 60));
