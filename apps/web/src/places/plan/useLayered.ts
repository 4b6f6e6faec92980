import type { DayInfo, TaskInfo } from '@corvun/contract';
import { useCallback, useMemo } from 'react';
import { useTasks } from '../../data/queries';
import { useSettings } from '../../state/settings';

interface Layered {
  /** The days that are shown, without what layers hide; undefined until they are there. */
  days: DayInfo[] | undefined;
  /** How many entries are hidden on them. */
  hidden: number;
  /** Deadlines of a day whose work stands elsewhere. */
  dues: (day: DayInfo) => readonly TaskInfo[];
}

const NONE: readonly TaskInfo[] = [];

/** What the layers leave of the days. */
export function useLayered(all: readonly DayInfo[] | undefined, shown: readonly string[]): Layered {
  const { hiddenLists, deadlines } = useSettings((state) => state.plan);
  const tasks = useTasks().data;
  const key = shown.join();
  const { days, hidden } = useMemo(() => {
    const there = all?.filter((day) => key.includes(day.day));
    const kept = (listId: string | null) => listId === null || !hiddenLists.includes(listId);
    const left = there?.map((day) => ({ ...day, entries: day.entries.filter((entry) => kept(entry.listId)) }));
    const gone =
      there?.reduce(
        (sum, day) =>
          sum +
          day.hidden.reduce((count, one) => count + one.entries, 0) +
          day.entries.filter((entry) => !kept(entry.listId)).length,
        0,
      ) ?? 0;
    return { days: left, hidden: gone };
  }, [all, key, hiddenLists]);
  const byDay = useMemo(() => {
    const due = new Map<string, TaskInfo[]>();
    if (!deadlines) return due;
    for (const task of tasks ?? []) {
      const open = task.status !== 'COMPLETED' && task.status !== 'CANCELLED' && !task.shelved;
      const hides = task.listId !== null && hiddenLists.includes(task.listId);
      const day = task.deadline?.slice(0, 10);
      if (day && open && !hides) due.set(day, [...(due.get(day) ?? []), task]);
    }
    return due;
  }, [tasks, deadlines, hiddenLists]);
  const dues = useCallback(
    (day: DayInfo) => {
      const due = byDay.get(day.day);
      if (!due) return NONE;
      const here = new Set(day.entries.map((entry) => entry.taskId));
      return due.filter((task) => !here.has(task.id));
    },
    [byDay],
  );
  return { days, hidden, dues };
}
