import type { TaskInfo } from '@corvun/contract';
import { dayOf } from '@corvun/core';
import { isOpen } from '../places/lists/view';
import { useDays, useTasks } from '../data/queries';
import { changeTasks } from '../data/thingActions';

const NONE: readonly TaskInfo[] = [];
/** Days in which the next working day is looked for. */
const AHEAD = 14;

/** What can be done: open, not on the shelf, not waiting for somebody, not done by somebody else. */
const isMine = (task: TaskInfo) => isOpen(task) && !task.shelved && !task.waitingOn && !task.assignedTo;

export const useMine = (): readonly TaskInfo[] => (useTasks().data ?? NONE).filter(isMine);

const blocksOn = (task: TaskInfo, day: string, zone: string) =>
  task.blocks.filter(({ start }) => dayOf(Date.parse(start), zone) === day);

/** Whether a task is for a day: planned for it, or for none and with time on it. */
export const isFor = (task: TaskInfo, day: string, zone: string): boolean =>
  task.plannedDay === null ? blocksOn(task, day, zone).length > 0 : task.plannedDay === day;

/** Puts tasks on another day, as one; their time of today that has not begun is given back. */
export const putOff = (tasks: readonly TaskInfo[], today: string, to: string) =>
  changeTasks({ ids: tasks.map(({ id }) => id), change: { plannedDay: to }, freeOn: today });

/** The next day on which one works; tomorrow where none is in sight. */
export function useNextWorkday(today: string): string | null {
  const days = useDays(today, AHEAD).data;
  return days ? (days.find(({ day, working }) => day > today && working.length > 0)?.day ?? days[1]?.day ?? null) : null;
}
