import type { Concentration } from '../settings/settings';
import type { Priority } from '../capture/draft';
import { bestSlots } from '../slots/bestSlots';
import type { Gap } from '../slots/gaps';
import { sayMinutes } from '../text/say';
import type { Interval } from '../time/intervals';
import { MINUTE, addDays, dayOf, endOfDay, startOfDay, type Day, type Instant, type Zone } from '../time/zones';

/** An open task as one clears the decks. */
export interface Decked {
  id: string;
  parentId: string | null;
  deadline: string | null;
  deadlineFixed: boolean;
  repeat: string | null;
  waitingOn: string | null;
  assignedTo: string | null;
  /** It has time to come that is pinned. */
  pinned: boolean;
}

/** Why something does not go to the shelf with the rest. */
export type StaysWhy = 'picked' | 'promised' | 'waiting' | 'repeats' | 'pinned';

/** What stays, by the task that is no step, and the ids of all that goes to the shelf. */
export interface Decks {
  stays: Map<string, StaysWhy>;
  goes: string[];
}

function whyStays(task: Decked, picks: ReadonlySet<string>): StaysWhy | null {
  if (picks.has(task.id)) return 'picked';
  if (task.deadline !== null && task.deadlineFixed) return 'promised';
  if (task.waitingOn !== null || task.assignedTo !== null) return 'waiting';
  if (task.repeat !== null) return 'repeats';
  return task.pinned ? 'pinned' : null;
}

/**
 * Parts open tasks into what stays in sight and the rest: what is on the shortlist, what others rely on by a date, what others
 * do, what repeats and what has pinned time stays. A task stays or goes with its steps.
 */
export function partDecks(tasks: readonly Decked[], picks: ReadonlySet<string>): Decks {
  const byId = new Map(tasks.map((task) => [task.id, task]));
  const topOf = (task: Decked): string => {
    const seen = new Set<string>();
    let top = task;
    for (let above = byId.get(top.parentId ?? ''); above && !seen.has(above.id); above = byId.get(top.parentId ?? '')) {
      seen.add(above.id);
      top = above;
    }
    return top.id;
  };
  const stays = new Map<string, StaysWhy>();
  const ORDER: readonly StaysWhy[] = ['picked', 'promised', 'waiting', 'repeats', 'pinned'];
  for (const task of tasks) {
    const why = whyStays(task, picks);
    const top = topOf(task);
    const known = stays.get(top);
    if (why && (!known || ORDER.indexOf(why) < ORDER.indexOf(known))) stays.set(top, why);
  }
  return { stays, goes: tasks.filter((task) => !stays.has(topOf(task))).map(({ id }) => id) };
}

/** What speaks for a place on the shortlist. */
export interface Candidate {
  id: string;
  deadline: string | null;
  deadlineFixed: boolean;
  priority: Priority;
  /** Whether it makes others easier or unnecessary, as the user said. */
  lever: boolean;
  /** Whether it is the next step of a project. */
  next: boolean;
  atRisk: boolean;
}

const NEAR = 14;
const PRIORITY: Record<Priority, number> = { high: 3, normal: 1, low: 0 };

/** Candidates for the shortlist, the likeliest first: what makes others easier, what others rely on soon, what matters. */
export function rankCandidates<T extends Candidate>(tasks: readonly T[], today: Day): T[] {
  const soon = addDays(today, NEAR);
  const points = (task: T) =>
    (task.lever ? 16 : 0) +
    (task.atRisk ? 8 : 0) +
    (task.deadlineFixed && task.deadline !== null && task.deadline.slice(0, 10) <= soon ? 6 : 0) +
    (task.next ? 2 : 0) +
    PRIORITY[task.priority];
  return [...tasks].sort(
    (a, b) =>
      points(b) - points(a) || (a.deadline ?? '9').localeCompare(b.deadline ?? '9') || (a.id < b.id ? -1 : a.id > b.id ? 1 : 0),
  );
}

/** A task that is to get a day of its own. */
export interface DayTask {
  id: string;
  minutes: number;
  concentration: Concentration;
  /** Instant; null: none. */
  deadline: Instant | null;
  notBefore: Day | null;
}

export interface OneADayInput {
  /** In the order in which they matter. */
  tasks: readonly DayTask[];
  /** The days that may be used, in order. */
  days: readonly Day[];
  gaps: readonly Gap[];
  now: Instant;
  zone: Zone;
  grid: number;
  /** Hours that suit deep work, `HH:MM-HH:MM`. */
  deep: readonly string[];
  /** Work that takes so long may be begun with a part of it, of at least so many minutes. */
  parts: { from: number; least: number };
}

export interface OneADay {
  placed: { id: string; day: Day; slot: Interval }[];
  /** No day was left, or on none of those that were left there was a gap for it. */
  without: { id: string; why: 'days' | 'gaps' }[];
}

/** Why one of them has no day, and what would give it one, in sentences. */
export const sayNoDay = (why: 'days' | 'gaps', minutes: number): { reason: string; change: string } =>
  why === 'days'
    ? { reason: 'Every day has one already.', change: 'Look at more days, or do it when another is done.' }
    : { reason: `No day has a gap of ${sayMinutes(minutes)}.`, change: 'Break it into steps, or make room on a day.' };

const lastDay = ({ deadline }: DayTask, zone: Zone): Day => (deadline === null ? '9999-12-31' : dayOf(deadline - 1, zone));

/**
 * Gives each task a day of its own and its best time on it. What can be done before it is due is placed first, by its deadline;
 * then what is late in any case, and the others in their order. Where no gap holds the whole of a long one, the longest part that fits is placed.
 */
export function oneADay({ tasks, days, gaps, now, zone, grid, deep, parts }: OneADayInput): OneADay {
  const free = new Set(days);
  const due = tasks.filter(({ deadline }) => deadline !== null).sort((a, b) => (a.deadline ?? 0) - (b.deadline ?? 0));
  const placed: OneADay['placed'] = [];
  const without: OneADay['without'] = [];
  const bestOn = (task: DayTask, day: Day): Interval | null => {
    if (task.notBefore !== null && task.notBefore > day) return null;
    const [from, to] = [startOfDay(day, zone), endOfDay(day, zone)];
    const own = gaps.flatMap((gap) => {
      const start = Math.max(gap.start, from, Math.ceil(now / (grid * MINUTE)) * grid * MINUTE);
      const end = Math.min(gap.end, to);
      return end > start ? [{ ...gap, start, end }] : [];
    });
    const longest = Math.max(0, ...own.map(({ start, end }) => Math.floor((end - start) / (grid * MINUTE)) * grid));
    const part = task.minutes >= parts.from && longest >= parts.least ? Math.min(task.minutes, longest) : task.minutes;
    const wish = { minutes: Math.ceil(part / grid) * grid, concentration: task.concentration, now, zone, grid, deep };
    return bestSlots(own, { ...wish, deadline: task.deadline }, 1)[0]?.slot ?? null;
  };
  const place = (task: DayTask, within: readonly Day[]): boolean => {
    const found = within.map((day) => ({ day, slot: bestOn(task, day) })).find(({ slot }) => slot !== null);
    if (!found?.slot) return false;
    free.delete(found.day);
    placed.push({ id: task.id, day: found.day, slot: found.slot });
    return true;
  };
  const left = () => days.filter((day) => free.has(day));
  const inTime = due.filter((task) =>
    place(
      task,
      left().filter((day) => day <= lastDay(task, zone)),
    ),
  );
  for (const task of [...due.filter((one) => !inTime.includes(one)), ...tasks.filter(({ deadline }) => deadline === null)])
    if (!place(task, left())) without.push({ id: task.id, why: left().length ? 'gaps' : 'days' });
  return { placed: placed.sort((a, b) => a.slot.start - b.slot.start), without };
}
