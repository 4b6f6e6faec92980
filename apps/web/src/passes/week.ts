import type { AgendaEntry, DayInfo, TaskInfo } from '@corvun/contract';
import {
  dayOf,
  likelyWhy,
  meantFor,
  minutesBetween,
  weekOf,
  type Concentration,
  type LeftWhy,
  type ReviewedWeek,
  type Standing,
} from '@corvun/core';

/** Something that was meant for a week and is still open. */
export interface Left {
  task: TaskInfo;
  /** The day it was meant for. */
  day: string;
  likely: LeftWhy;
}

type Lengths = Readonly<Record<Concentration, number>>;

const lengthOf = ({ start, end }: { start: string | null; end: string | null }): number =>
  start && end ? minutesBetween(Date.parse(start), Date.parse(end)) : 0;
const takes = ({ estimate, concentration }: TaskInfo, lengths: Lengths): number => estimate ?? lengths[concentration];

/** The day on which a task was done; empty where it was not. */
export const dayDone = ({ completed }: TaskInfo, zone: string): string =>
  completed === null ? '' : dayOf(Date.parse(completed), zone);

/** What was done in a week, in that order, without steps. */
export const doneIn = (tasks: readonly TaskInfo[], { from, to }: ReviewedWeek, zone: string): TaskInfo[] =>
  tasks
    .filter((task) => task.status === 'COMPLETED' && !task.parentId)
    .filter((task) => dayDone(task, zone) >= from && dayDone(task, zone) <= to)
    .sort((a, b) => (a.completed ?? '').localeCompare(b.completed ?? ''));

/** How many meetings there were until now on some days, and how long they took. */
export function metOn(days: readonly DayInfo[], now: number): { meetings: number; minutes: number } {
  const met = days
    .flatMap(({ entries }) => entries)
    .filter(({ kind, allDay, showAs, status }) => kind === 'event' && !allDay && showAs === 'busy' && status !== 'CANCELLED')
    .filter(({ end }) => end !== null && Date.parse(end) <= now);
  return { meetings: met.length, minutes: met.reduce((sum, one) => sum + lengthOf(one), 0) };
}

/** What was meant for a week or for before and is still open, the oldest first, each with the likeliest reason. */
export function leftOf(
  mine: readonly TaskInfo[],
  all: readonly TaskInfo[],
  review: ReviewedWeek,
  lengths: Lengths,
  today: string,
): Left[] {
  const steps = new Map<string, number>();
  for (const { parentId } of all) if (parentId) steps.set(parentId, (steps.get(parentId) ?? 0) + 1);
  return mine
    .filter(({ parentId }) => !parentId)
    .flatMap((task): Left[] => {
      const day = meantFor(task, review);
      if (day === null) return [];
      const about = { ...task, day, minutes: takes(task, lengths), steps: steps.get(task.id) ?? 0 };
      return [{ task, day, likely: likelyWhy(about, today) }];
    })
    .sort((a, b) => a.day.localeCompare(b.day));
}

/** What is for a week, how much of it has no time yet, and how much of the week is free; in minutes. */
export function forWeek(mine: readonly TaskInfo[], days: readonly DayInfo[], week: string, lengths: Lengths) {
  const tasks = mine
    .filter(({ parentId }) => !parentId)
    .filter(({ plannedWeek, plannedDay }) => plannedWeek === week || (plannedDay !== null && weekOf(plannedDay) === week));
  const open = tasks.reduce((sum, task) => sum + Math.max(0, takes(task, lengths) - task.placed), 0);
  const free = days.flatMap(({ gaps }) => gaps).reduce((sum, gap) => sum + lengthOf(gap), 0);
  return { tasks, open, free };
}

const isStanding = ({ occurrence, status, showAs }: AgendaEntry): boolean =>
  occurrence !== null && status !== 'CANCELLED' && showAs !== 'free';

/** Entries of some days that come again and again; those for whole days take no time. */
export const standingOn = (days: readonly DayInfo[]): Standing[] =>
  days.flatMap(({ day, entries }) =>
    entries.filter(isStanding).map(({ id, title, start, end, allDay }) => ({
      ...{ id, title, day },
      start: allDay || !start ? null : Date.parse(start),
      end: allDay || !end ? null : Date.parse(end),
    })),
  );
