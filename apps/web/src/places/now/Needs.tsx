import type { Me, TaskFull } from '@corvun/contract';
import type { ReactNode } from 'react';
import { Markdown } from '../../parts/Markdown';
import { Origin } from '../../sheets/Origin';
import { TickList } from './TickList';

/** The steps of a task that are not those of another. */
export const stepsOf = (task: TaskFull) =>
  task.steps
    .filter(({ parentId }) => parentId === task.id)
    .map(({ id, title, status }) => ({ id, title, done: status === 'COMPLETED' }));

/** Text under its name. */
export function Written({ label, text }: { label: string; text: string }): ReactNode {
  if (!text.trim()) return null;
  return (
    <section aria-label={label} className="mt-3 first:mt-0">
      <h3 className="font-head font-semibold">{label}</h3>
      <div className="-mt-3 max-h-[240px] overflow-y-auto">
        <Markdown text={text} />
      </div>
    </section>
  );
}

/** What a task needs: its steps, its notes, and the message it came from. */
export function Needs({ me, task, today }: { me: Me; task: TaskFull; today: string }): ReactNode {
  const own = task.steps.length > 0 || task.notes.trim() !== '';
  return (
    <div className={`relative mt-6 grid items-start gap-x-8 gap-y-4 ${own && task.origin ? 'lg:grid-cols-2' : ''}`}>
      <h2 className="sr-only">What it needs</h2>
      {own && (
        <div>
          <TickList label="Steps" items={stepsOf(task)} />
          <Written label="Notes" text={task.notes} />
        </div>
      )}
      {task.origin && (
        <div className="-mt-4 max-w-[560px]">
          <Origin task={task} today={today} zone={me.zone} />
        </div>
      )}
    </div>
  );
}
