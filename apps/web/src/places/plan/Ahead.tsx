import type { ListInfo, TaskInfo } from '@corvun/contract';
import { sayMinutes } from '@corvun/core';
import { Repeat2 } from 'lucide-react';
import type { ReactNode } from 'react';
import { useTasks } from '../../data/queries';
import { Code } from '../../parts/signs';
import { useOpenTask } from '../../sheets/open';
import { daysAhead } from './ahead';

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
