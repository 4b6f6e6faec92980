import type { ListInfo, TaskInfo } from '@corvun/contract';
import { nextRound, repeatDayOf, sayMinutes } from '@corvun/core';
import { Repeat2 } from 'lucide-react';
import type { ReactNode } from 'react';
import { useTasks } from '../../data/queries';
import { Code } from '../../parts/signs';
import { useOpenTask } from '../../sheets/open';

/** The day on which a task comes after the one that is open, once that is done on its day; null where it does not. */
export function dayAhead(task: TaskInfo, today: string): string | null {
  if (!task.repeat || task.status === 'COMPLETED' || task.status === 'CANCELLED' || task.shelved) return null;
  const own = repeatDayOf(task) ?? today;
  const next = nextRound(task, own > today ? own : today);
  return next && (next.plannedDay ?? (next.plannedWeek ? null : next.repeatOn));
}

let known: { tasks: readonly TaskInfo[]; today: string; days: Map<string, TaskInfo[]> } | null = null;

/** Looked up once for all columns. */
function daysAhead(tasks: readonly TaskInfo[], today: string): Map<string, TaskInfo[]> {
  if (known?.tasks === tasks && known.today === today) return known.days;
  const days = new Map<string, TaskInfo[]>();
  for (const task of tasks) {
    const day = dayAhead(task, today);
    if (day) days.set(day, [...(days.get(day) ?? []), task]);
  }
  known = { tasks, today, days };
  return days;
}

const NONE: readonly TaskInfo[] = [];

/** Repeating tasks that come again on a day, before there is anything to do for them. */
export function Ahead({ day, today, lists }: { day: string; today: string; lists: readonly ListInfo[] }): ReactNode {
  const tasks = useTasks().data ?? NONE;
  const open = useOpenTask();
  return (daysAhead(tasks, today).get(day) ?? NONE).map((task) => {
    const list = lists.find((one) => one.id === task.listId);
    return (
      <li key={task.id} className="text-xs leading-6 text-soft">
        <button
          type="button"
          className="flex w-full min-w-0 items-center gap-1 text-left hover:text-ink"
          title="Comes again here once the one before is done"
          onClick={() => open(task.id)}
        >
          <Repeat2 size={13} aria-hidden="true" className="shrink-0" />
          <span className="sr-only">comes again: </span>
          {list && <Code code={list.code} hue={list.hue} />}
          <span className="min-w-0 truncate">{task.title}</span>
          {task.estimate !== null && <span className="ml-auto shrink-0">{sayMinutes(task.estimate)}</span>}
        </button>
      </li>
    );
  });
}
