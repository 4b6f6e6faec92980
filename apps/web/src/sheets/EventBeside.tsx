import type { EventFull, YesCost } from '@corvun/contract';
import { sayMinutes } from '@corvun/core';
import { X } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import { changeTask } from '../data/thingActions';
import { useTasks } from '../data/queries';
import { TickBox } from '../parts/TickBox';
import { sayBuffer } from '../places/plan/Brackets';
import { button } from '../places/sources/common';
import { useOpenTask } from './open';
import { capital } from './part';
import type { EventSaving } from './useEventSave';

type Carried = EventFull['carried'][number];

interface BesideProps {
  event: EventFull;
  cost: YesCost | undefined;
  saving: EventSaving;
  readOnly: boolean;
}

/** What belongs to an event before and after it, and the tasks that are done in that time. */
export function EventBeside({ event, cost, saving, readOnly }: BesideProps): ReactNode {
  const [adding, setAdding] = useState<Carried['at'] | null>(null);
  const openTask = useOpenTask();
  const buffers = cost?.buffers ?? [];
  const may = !readOnly && !event.allDay;
  if (!buffers.length && !event.carried.length && !may) return null;
  const { prep = null, followUp = null, travel = null } = event.buffers ?? {};
  const keep = (tasks: ({ id: string; at: Carried['at'] } | { line: string; at: Carried['at'] })[]) =>
    saving.save({ buffers: { prep, followUp, travel, tasks } });
  const named = event.carried.map(({ id, at }) => ({ id, at }));
  return (
    <section aria-labelledby="beside-head" className="mt-4 border-t border-rule pt-3">
      <h3 id="beside-head" className="font-head font-semibold">
        Beside it
      </h3>
      {buffers.map((one) => (
        <p key={one.kind + one.start} className={`text-xs ${one.minutes < one.wanted ? 'text-amber' : 'text-soft'}`}>
          {capital(sayBuffer(one))}
        </p>
      ))}
      <ul aria-label="Tasks beside it">
        {event.carried.map((task) => (
          <li key={task.id} className="flex items-center gap-2">
            <TickBox
              done={task.done}
              title={task.title}
              onTick={() => void changeTask(task.id, { status: task.done ? 'NEEDS-ACTION' : 'COMPLETED', version: task.version })}
            />
            <button
              type="button"
              className={`min-h-6 min-w-0 flex-1 truncate text-left hover:text-teal ${task.done ? 'text-soft line-through' : ''}`}
              onClick={() => openTask(task.id)}
            >
              {task.title}
            </button>
            <span className="text-xs text-soft">
              {task.at === 'prep' ? 'before' : 'after'}, {sayMinutes(task.minutes)}
            </span>
            {may && (
              <button
                type="button"
                className="grid size-6 place-items-center text-soft hover:text-ink"
                aria-label={`“${task.title}” is not done beside it`}
                onClick={() => void keep(named.filter(({ id }) => id !== task.id))}
              >
                <X size={13} aria-hidden="true" />
              </button>
            )}
          </li>
        ))}
      </ul>
      {may && adding === null && (
        <p className="mt-1 flex flex-wrap gap-2 text-xs">
          <button type="button" className={button} onClick={() => setAdding('prep')}>
            A task before it …
          </button>
          <button type="button" className={button} onClick={() => setAdding('follow-up')}>
            A task after it …
          </button>
        </p>
      )}
      {may && adding !== null && (
        <TaskLine
          at={adding}
          taken={named.map(({ id }) => id)}
          add={(task) => void keep([...named, { ...task, at: adding }]).then((kept) => kept && setAdding(null))}
          close={() => setAdding(null)}
        />
      )}
    </section>
  );
}

const MOST_LIKE = 5;

interface LineProps {
  at: Carried['at'];
  taken: readonly string[];
  add: (task: { id: string } | { line: string }) => void;
  close: () => void;
}

/** An open task that is found by typing, or a new one. */
function TaskLine({ at, taken, add, close }: LineProps): ReactNode {
  const [text, setText] = useState('');
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  const found = (useTasks().data ?? [])
    .filter(
      ({ id, status, shelved }) => !taken.includes(id) && !shelved && (status === 'NEEDS-ACTION' || status === 'IN-PROCESS'),
    )
    .filter(({ title }) => words.every((word) => title.toLowerCase().includes(word)))
    .slice(0, MOST_LIKE);
  return (
    <div className="mt-2">
      <label htmlFor="beside-task" className="block text-xs text-soft">
        A task to do {at === 'prep' ? 'before' : 'after'} it
      </label>
      <input
        id="beside-task"
        ref={(field) => field?.focus()}
        className="w-full border-b border-ink bg-transparent py-1"
        placeholder="read the quote 20 min"
        autoComplete="off"
        maxLength={2000}
        value={text}
        onChange={(change) => setText(change.target.value)}
        onKeyDown={(key) => {
          if (key.key === 'Enter' && text.trim()) add({ line: text.trim() });
          if (key.key !== 'Escape') return;
          key.stopPropagation();
          close();
        }}
      />
      <p className="min-h-4 text-xs text-soft">
        {text.trim() ? 'Enter makes a new one; or choose one there is.' : 'Write a new one, or choose one there is.'}
      </p>
      <ul aria-label="Open tasks">
        {found.map((task) => (
          <li key={task.id}>
            <button
              type="button"
              className="flex min-h-6 w-full items-baseline justify-between gap-2 text-left hover:bg-teal-wash"
              onClick={() => add({ id: task.id })}
            >
              <span className="min-w-0 truncate">{task.title}</span>
              <span className="shrink-0 text-xs text-soft">{task.estimate ? sayMinutes(task.estimate) : ''}</span>
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}
