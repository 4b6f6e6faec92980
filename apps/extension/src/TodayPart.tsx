import { dayOf, sayDay, saySpan } from '@corvun/core';
import type { ReactNode } from 'react';
import type { Today } from './link';

interface TodayProps {
  today: Today;
  /** What the server's clock is ahead of this browser's, in milliseconds. */
  ahead: number;
  finished: ReadonlySet<string>;
  finish: (taskId: string, title: string) => void;
}

/** What stands in the calendar today, and what is open; both can be ticked off. */
export function TodayPart({ today: { me, entries, tasks, at }, ahead, finished, finish }: TodayProps): ReactNode {
  const day = dayOf(at + ahead, me.zone);
  const timed = entries.filter((one) => one.start && !one.allDay);
  return (
    <>
      <section aria-label="Today" className="mt-4">
        <h2 className="border-b border-rule pb-1 font-head font-semibold">{sayDay(day, day)}</h2>
        {!timed.length && <p className="pt-1 text-xs text-soft">Nothing stands in the calendar today.</p>}
        <ul className="max-h-[150px] overflow-y-auto">
          {timed.map((one) => {
            const done = one.status === 'COMPLETED' || (one.taskId !== null && finished.has(one.taskId));
            return (
              <li key={`${one.id}${one.start}`} className="flex items-baseline gap-3 border-b border-rule py-[3px]">
                <span className="w-[84px] shrink-0 text-xs text-soft">
                  {saySpan(Date.parse(one.start ?? ''), Date.parse(one.end ?? ''), me.zone)}
                </span>
                <span className={`min-w-0 flex-1 truncate ${done ? 'text-soft line-through' : ''}`}>{one.title}</span>
              </li>
            );
          })}
        </ul>
      </section>
      <section aria-label="Open tasks" className="mt-4">
        <h2 className="border-b border-rule pb-1 font-head font-semibold">Open</h2>
        {!tasks.length && <p className="pt-1 text-xs text-soft">Nothing is open.</p>}
        <ul className="max-h-[180px] overflow-y-auto">
          {tasks.map((task) => {
            const done = finished.has(task.id);
            const when = task.plannedDay ?? task.deadline?.slice(0, 10);
            return (
              <li key={task.id} className="border-b border-rule py-[3px]">
                <label className="flex items-baseline gap-2">
                  <input
                    type="checkbox"
                    className="accent-teal"
                    checked={done}
                    disabled={done}
                    onChange={() => finish(task.id, task.title)}
                  />
                  <span className={`min-w-0 flex-1 truncate ${done ? 'text-soft line-through' : ''}`}>{task.title}</span>
                  {when && <span className="shrink-0 text-xs text-soft">{sayDay(when, day)}</span>}
                </label>
              </li>
            );
          })}
        </ul>
      </section>
    </>
  );
}
