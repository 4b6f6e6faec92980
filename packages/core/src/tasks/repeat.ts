import { occurrences } from '../calendar/recur';
import { addDays, daysBetween, endOfDay, startOfDay, weekOf, mondayOf, type Day } from '../time/zones';

/** What of a task says when it is to be done, and how it comes back. Times are wall-clock, whatever zone they are read in. */
export interface Repeating {
  /** RRULE without its prefix (RFC 5545, 3.3.10); null: it does not come back. */
  repeat: string | null;
  repeatFrom: 'schedule' | 'completion';
  /** The day of its schedule that it stands for, wherever it was moved; null: its own day. */
  repeatOn: Day | null;
  plannedDay: Day | null;
  plannedWeek: string | null;
  deadline: string | null;
  notBefore: Day | null;
  reminder: string | null;
}

/** When a task comes again. */
export interface NextRound extends Repeating {
  repeatOn: Day;
  /** Days between this one and the next. */
  later: number;
  /** Dates of its schedule that are left out, because they have passed. */
  passed: number;
}

/** How far ahead one looks, in days: most rules name a day soon, some one every four years, of which one can be no leap year. */
const AHEAD = [62, 800, 366 * 9];
/** Days are counted without zones: a task is to be done on a day, not at an instant. */
const ZONE = 'UTC';

const dayIn = (time: string | null): Day | null => time?.slice(0, 10) ?? null;
const namesDays = (rule: string) => /\bBY/.test(rule);

/** Days a rule names, counted from one that counts as its first, in order, from a day up to another. */
function daysOf(rule: string, first: Day, from: Day, to: Day): Day[] {
  const series = { start: first, end: addDays(first, 1), allDay: true, zone: ZONE, rrule: rule, rdates: [], exdates: [] };
  const found = occurrences(series, startOfDay(from, ZONE), endOfDay(to, ZONE), ZONE).map(({ key }) => key.slice(0, 10));
  return [...new Set(found)].filter((day) => day >= from && day <= to);
}

/** The next days a rule names, from a day on; fewer where it names no more. */
function nextOf(rule: string, first: Day, from: Day, most: number): Day[] {
  for (const ahead of AHEAD) {
    const days = daysOf(rule, first, from, addDays(from, ahead));
    if (days.length >= most || ahead === AHEAD.at(-1)) return days.slice(0, most);
  }
  return [];
}

/**
 * The day of its schedule that a task stands for: what is kept; else the one of its days that its rule names, its day
 * before its deadline; null where it has none.
 */
export function repeatDayOf(task: Repeating): Day | null {
  const { repeat, repeatOn, plannedDay, plannedWeek, deadline } = task;
  if (repeatOn) return repeatOn;
  const own = [plannedDay, dayIn(deadline)].filter((day) => day !== null);
  const named = repeat && namesDays(repeat) ? own.find((day) => isNamed(repeat, day)) : undefined;
  return named ?? own[0] ?? (plannedWeek ? mondayOf(plannedWeek) : null);
}

/** Whether a rule names a day by itself. DTSTART counts always, so it stands a day before. */
const isNamed = (rule: string, day: Day) => daysOf(rule.replace(/;?INTERVAL=\d+/, ''), addDays(day, -1), day, day).length > 0;

/** A rule with one date less to come: COUNT counts down; null where that was the last. */
function restOf(rule: string, by: number): string | null {
  const count = /\bCOUNT=(\d+)/.exec(rule)?.[1];
  if (count === undefined) return rule;
  const left = Number(count) - by;
  return left > 0 ? rule.replace(/\bCOUNT=\d+/, `COUNT=${left}`) : null;
}

/**
 * When a task comes again after it is done or skipped.
 *
 * From the schedule: on the first day of its rule after the one it stands for that has not passed yet; what passed in between
 * is left out, and a date on the very day it is done is still to do. From completion: on the first day of its rule, counted
 * from the day it is done. Deadline, not-before and reminder keep their distance and their time on the clock.
 * @param on the day it is done or skipped
 * @returns null where it does not come again
 */
export function nextRound(task: Repeating, on: Day): NextRound | null {
  if (!task.repeat) return null;
  const own = repeatDayOf(task) ?? on;
  const completion = task.repeatFrom === 'completion';
  const first = completion ? on : own;
  const uncounted = task.repeat.replace(/;?COUNT=\d+/, '');
  const after = addDays(first, 1);
  const from = on > after ? on : after;
  const [next] = nextOf(uncounted, first, from, 1);
  if (next === undefined) return null;
  const passed = completion || from === after ? 0 : daysOf(uncounted, first, after, addDays(from, -1)).length;
  const rest = restOf(task.repeat, passed + 1);
  if (!rest) return null;
  const later = daysBetween(own, next);
  return { ...movedBy({ ...task, repeat: rest }, later, next), later, passed };
}

function movedBy(task: Repeating, later: number, next: Day): Omit<NextRound, 'later' | 'passed'> {
  const shifted = <T extends string | null>(time: T) =>
    (time === null ? null : `${addDays(time.slice(0, 10), later)}${time.slice(10)}`) as T;
  const byDeadline = task.plannedDay !== null && repeatDayOf(task) !== null && repeatDayOf(task) === dayIn(task.deadline);
  const anywhere = task.plannedDay === null && task.plannedWeek === null && task.deadline === null;
  return {
    repeat: task.repeat,
    repeatFrom: task.repeatFrom,
    repeatOn: next,
    // What was moved to another day comes back on its own; what stands before its deadline keeps its distance to it.
    plannedDay: task.plannedDay !== null || anywhere ? (byDeadline ? shifted(task.plannedDay) : next) : null,
    plannedWeek: task.plannedWeek === null ? null : weekOf(next),
    deadline: shifted(task.deadline),
    notBefore: shifted(task.notBefore),
    reminder: shifted(task.reminder),
  };
}

/**
 * The day of its schedule that a task stands for after it changed. Where it was moved to a later date of its schedule it
 * stands for that one; moved to any other day it still stands for the one it stood for. Another rule begins anew.
 */
export function repeatDayAfter(before: Repeating, after: Repeating): Day | null {
  if (!after.repeat) return null;
  if (before.repeat !== after.repeat) return repeatDayOf({ ...after, repeatOn: null });
  const own = repeatDayOf(before);
  const moved = repeatDayOf({ ...after, repeatOn: null });
  if (!own || !moved || moved <= own) return own ?? moved;
  return nextOf(after.repeat, own, moved, 1)[0] === moved ? moved : own;
}

/**
 * The next days on which a task comes, its own one first where that has not passed.
 * @param today as of which one looks
 */
export function comingDays(task: Repeating, today: Day, most: number): Day[] {
  if (!task.repeat) return [];
  const first = repeatDayOf(task) ?? today;
  const from = first > today ? first : today;
  return nextOf(task.repeat, first, from, most);
}
