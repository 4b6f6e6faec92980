import { addDays, mondayOf, weekOf, weekdayOf, type Day } from '../time/zones';

/** Why something stayed open. */
export const WHYS = ['too-big', 'blocked', 'not-wanted', 'no-time', 'waiting'] as const;
export type LeftWhy = (typeof WHYS)[number];

/** As it is said of a task. */
export const SAID_WHY: Record<LeftWhy, string> = {
  'too-big': 'too big',
  blocked: 'blocked',
  'not-wanted': 'not wanted',
  'no-time': 'no time',
  waiting: 'waiting',
};

/** The week that is looked back on, and the one that comes after it. */
export interface ReviewedWeek {
  week: string;
  from: Day;
  to: Day;
  coming: string;
}

/** ISO weekday from which on a week is far enough gone to be looked back on. */
const LATE = 4;

/** The week a review is about: from Thursday on the present one, before that the one that is over. */
export function weekInReview(today: Day): ReviewedWeek {
  const monday = mondayOf(weekOf(today));
  const from = weekdayOf(today) >= LATE ? monday : addDays(monday, -7);
  return { week: weekOf(from), from, to: addDays(from, 6), coming: weekOf(addDays(from, 7)) };
}

interface ForSomeDay {
  plannedDay: Day | null;
  plannedWeek: string | null;
  deadline: string | null;
}

/**
 * The day for which an open task was meant, where that lies in a week that is looked back on or before it: its own, the Monday
 * of its week, or the day it was due.
 * @returns null where it was not meant for then
 */
export function meantFor({ plannedDay, plannedWeek, deadline }: ForSomeDay, { to }: Pick<ReviewedWeek, 'to'>): Day | null {
  const planned = plannedDay ?? (plannedWeek === null ? null : mondayOf(plannedWeek));
  const day = planned ?? deadline?.slice(0, 10) ?? null;
  return day !== null && day <= to ? day : null;
}

/** What speaks for why an open task was not finished. */
export interface LeftTask {
  /** Minutes it takes in all. */
  minutes: number;
  spent: number;
  waitingOn: string | null;
  assignedTo: string | null;
  notBefore: Day | null;
  steps: number;
  /** Minutes that were set aside for it and are over. */
  placed: number;
  /** The day it was meant for. */
  day: Day;
}

/** From this length on a task without steps is hard to begin. */
export const BIG = 120;
/** Weeks after which what nobody missed is perhaps not wanted. */
const LONG_AGO = 21;

/** The likeliest reason, from what is known of a task; the user says which it was. */
export function likelyWhy(task: LeftTask, today: Day): LeftWhy {
  if (task.waitingOn !== null || task.assignedTo !== null) return 'waiting';
  if (task.notBefore !== null && task.notBefore > today) return 'blocked';
  if (task.minutes - task.spent >= BIG && task.steps === 0) return 'too-big';
  if (task.placed === 0 && task.spent === 0 && task.day < addDays(today, -LONG_AGO)) return 'not-wanted';
  return 'no-time';
}

/** An entry of a day that comes again and again. */
export interface Standing {
  id: string;
  title: string;
  /** Instants; an entry for whole days takes no time. */
  start: number | null;
  end: number | null;
  day: Day;
}

/** Standing commitments by their series, with the days and the minutes they take of a week; the longest first. */
export function standingOf(entries: readonly Standing[]): { id: string; title: string; days: Day[]; minutes: number }[] {
  const found = new Map<string, { id: string; title: string; days: Day[]; minutes: number }>();
  for (const { id, title, start, end, day } of entries) {
    const one = found.get(id) ?? { id, title, days: [], minutes: 0 };
    if (!one.days.includes(day)) one.days.push(day);
    one.minutes += start === null || end === null ? 0 : Math.round((end - start) / 60_000);
    found.set(id, one);
  }
  return [...found.values()].sort((a, b) => b.minutes - a.minutes || (a.title < b.title ? -1 : 1));
}
