import type { ListInfo, TaskInfo } from '@corvun/contract';
import { sayMoment } from '@corvun/core';
import type { ReactNode } from 'react';
import { Code } from '../../parts/signs';
import { useOpenTask } from '../../sheets/open';

/** A deadline on its day, where the work for it stands elsewhere. */
export function DueLine({ task, today, lists }: { task: TaskInfo; today: string; lists: readonly ListInfo[] }): ReactNode {
  const open = useOpenTask();
  const list = lists.find((one) => one.id === task.listId);
  const late = (task.deadline ?? '').slice(0, 10) < today;
  return (
    <li className="flex text-xs leading-6">
      <button
        type="button"
        className={`flex min-w-0 flex-1 items-baseline gap-1 text-left ${late ? 'text-amber' : ''}`}
        title={`Due ${sayMoment(task.deadline ?? '', today)}`}
        onClick={() => open(task.id)}
      >
        <span className={`peg shrink-0 ${task.deadlineFixed ? 'peg-fixed' : ''}`} aria-hidden="true" />
        <span className="sr-only">{task.deadlineFixed ? 'Fixed deadline: ' : 'Flexible deadline: '}</span>
        {list && <Code code={list.code} hue={list.hue} />}
        <span className="truncate italic">due: {task.title}</span>
      </button>
    </li>
  );
}
