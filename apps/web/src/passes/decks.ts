import type { PassInfo, TaskInfo } from '@corvun/contract';
import { addDays, rankCandidates, weekOf, type StaysWhy } from '@corvun/core';

/** Ids that were noted in a pass under a name. */
export const noted = ({ notes }: Pick<PassInfo, 'notes'>, name: string): string[] => {
  const found = notes[name];
  return Array.isArray(found) ? found.filter((one) => typeof one === 'string') : [];
};

/** Candidates for the shortlist, the likeliest first. @param mine what can be done, without steps */
export function candidatesOf(
  mine: readonly TaskInfo[],
  { levers, nexts, atRisk }: { levers: readonly string[]; nexts: readonly string[]; atRisk: readonly string[] },
  today: string,
): TaskInfo[] {
  const marked = mine.map((task) => ({
    ...task,
    lever: levers.includes(task.id),
    next: nexts.includes(task.id),
    atRisk: atRisk.includes(task.id),
  }));
  return rankCandidates(marked, today);
}

/** What makes a deadline a wish: it is for the week it was due in, or for this one where that is over. */
export const asWish = ({ deadline, plannedDay, plannedWeek }: TaskInfo, today: string) => {
  const due = deadline?.slice(0, 10) ?? today;
  return {
    deadline: null,
    ...(plannedDay || plannedWeek ? {} : { plannedWeek: weekOf(due < today ? today : due) }),
  };
};

/** Steps of a project that can be done now, the first ones. */
export const stepsNow = (tasks: readonly TaskInfo[], listId: string, today: string, most: number): TaskInfo[] =>
  tasks
    .filter(
      (task) =>
        task.listId === listId &&
        !task.parentId &&
        (task.status === 'NEEDS-ACTION' || task.status === 'IN-PROCESS') &&
        task.waitingOn === null &&
        !task.assignedTo &&
        (task.notBefore === null || task.notBefore <= today),
    )
    .sort((a, b) => a.position - b.position || (a.id < b.id ? -1 : 1))
    .slice(0, most);

/** The last day of a quiet week that begins today. */
export const weekOfQuiet = (today: string): string => addDays(today, 6);

/** How what stays is counted. */
export const SAID_STAYS: Record<StaysWhy, string> = {
  picked: 'on the shortlist',
  promised: 'promised to others by a date',
  waiting: 'waiting on others',
  repeats: 'repeating',
  pinned: 'with pinned time',
};
