import type { ListInfo, TaskInfo } from '@corvun/contract';
import { sayDay, sayMinutes, sayMoment, type Group } from '@corvun/core';
import type { ReactNode } from 'react';
import { createPortal } from 'react-dom';
import { usePrinting } from '../../parts/usePrinting';

interface PrintedProps {
  title: string;
  groups: readonly Group<TaskInfo>[];
  lists: readonly ListInfo[];
  today: string;
  /** The dialog of the browser was closed. */
  over: () => void;
}

/** All that is shown, for paper: on the screen only what is in sight is drawn. */
export function PrintedList({ title, groups, lists, today, over }: PrintedProps): ReactNode {
  usePrinting(over);
  const name = (id: string | null) => lists.find((list) => list.id === id)?.name ?? '';
  return createPortal(
    <div className="printed">
      <h1>{title}</h1>
      <p>{sayDay(today, '')}</p>
      {groups.map((group) => (
        <section key={group.key}>
          {group.title && <h2>{group.title}</h2>}
          <ul>
            {group.tasks.map((task) => (
              <li key={task.id} className={task.parentId ? 'step' : ''}>
                <span className="box">{task.status === 'COMPLETED' ? '☒' : '☐'}</span>
                <span>
                  {task.title}
                  <small>
                    {[
                      group.title === name(task.listId) || task.parentId ? '' : name(task.listId),
                      task.deadline && `due ${sayMoment(task.deadline, today)}`,
                      task.plannedDay && sayDay(task.plannedDay, today),
                      task.estimate && sayMinutes(task.estimate),
                      task.waitingOn && `waiting on ${task.waitingOn}`,
                      ...task.tags.map((tag) => `#${tag}`),
                    ]
                      .filter(Boolean)
                      .join(' · ')}
                  </small>
                </span>
              </li>
            ))}
          </ul>
        </section>
      ))}
    </div>,
    document.body,
  );
}
