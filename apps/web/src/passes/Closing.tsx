import type { TaskInfo } from '@corvun/contract';
import { count, dayBefore, dayOf, sayDay, sayMinutes } from '@corvun/core';
import { useEffect, useState, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { useOutline } from '../data/passes';
import { useTasks } from '../data/queries';
import { changeTask } from '../data/thingActions';
import { KEYS } from '../keys';
import { button } from '../places/sources/common';
import { useOpenTask } from '../sheets/open';
import { Items, type Deed } from './Items';
import { useAnotherDay } from './AnotherDay';
import { useBreaking } from './BreakDown';
import { Lines } from './Opening';
import type { StepProps } from './stepProps';
import { isFor, putOff, useMine, useNextWorkday } from './useOpenWork';

/** What was for today or before and is still open: ticked, or moved, all of it in one step. */
export function Ticks({ me, today }: StepProps): ReactNode {
  const openTask = useOpenTask();
  const breaking = useBreaking(me, today);
  const other = useAnotherDay(me, today);
  const next = useNextWorkday(today);
  const open = useMine().filter((task) => isFor(task, today, me.zone) || dayBefore(task, today) !== null);
  const deeds: Deed<TaskInfo>[] = [
    { key: 'x', name: 'Done', run: (task) => changeTask(task.id, { status: 'COMPLETED' }) },
    ...(next ? [{ key: 'd', name: sayDay(next, today), run: (task: TaskInfo) => putOff([task], today, next) }] : []),
    { key: 'a', name: 'Another day', run: (task) => other.begin(task.id) },
    { key: 's', name: 'Shelf', run: (task) => changeTask(task.id, { shelved: true, plannedDay: null, plannedWeek: null }) },
    { key: 'b', name: 'Into steps', run: (task) => breaking.begin(task.id) },
    { key: KEYS.card.open, name: 'Open', run: (task) => openTask(task.id) },
  ];
  return (
    <>
      <Items
        label="Open today"
        items={open}
        idOf={({ id }) => id}
        deeds={deeds}
        empty="Everything that was for today is done."
        below={(task) => breaking.form(task) || other.form(task)}
      >
        {(task) => (
          <>
            <span className="min-w-0 flex-1">{task.title}</span>
            <span className="shrink-0 text-xs text-soft">{task.estimate !== null && sayMinutes(task.estimate)}</span>
          </>
        )}
      </Items>
      {open.length > 0 && next && (
        <p className="mt-3 text-xs">
          <button type="button" className={button} onClick={() => void putOff(open, today, next)}>
            Move {open.length === 1 ? 'it' : `all ${open.length}`} to {sayDay(next, today)}
          </button>
        </p>
      )}
    </>
  );
}

/** What was done today without saying how long it took. */
export function Spent({ me, today }: StepProps): ReactNode {
  const tasks = useTasks().data ?? [];
  const done = tasks.filter(
    ({ status, completed, parentId }) =>
      status === 'COMPLETED' && !parentId && completed !== null && dayOf(Date.parse(completed), me.zone) === today,
  );
  const planned = (task: TaskInfo) => task.placed || task.estimate || me.settings.lengths[task.concentration];
  const deeds: Deed<TaskInfo>[] = [
    { key: 'p', name: 'As planned', run: (task) => changeTask(task.id, { spent: planned(task) }) },
    { key: 'm', name: 'Write it', run: (task) => document.getElementById(`spent-${task.id}`)?.focus() },
  ];
  return (
    <Items
      label="Done today"
      items={done}
      idOf={({ id }) => id}
      deeds={deeds}
      empty="Nothing was ticked off today."
      below={(task) => <Took task={task} planned={planned(task)} />}
    >
      {(task) => <span className="min-w-0 flex-1">{task.title}</span>}
    </Items>
  );
}

function Took({ task, planned }: { task: TaskInfo; planned: number }): ReactNode {
  const [text, setText] = useState<string | null>(null);
  const minutes = Number(text);
  const wrong = text !== null && (!Number.isInteger(minutes) || minutes < 0 || minutes > 6000);
  const keep = () => {
    if (text === null || wrong) return;
    setText(null);
    if (minutes !== task.spent) void changeTask(task.id, { spent: minutes });
  };
  return (
    <p className="flex items-baseline gap-2 px-2 pb-1 text-xs text-soft">
      planned {sayMinutes(planned)}, took
      <input
        id={`spent-${task.id}`}
        aria-label={`Minutes “${task.title}” took`}
        inputMode="numeric"
        autoComplete="off"
        className="min-h-6 w-12 border-b border-soft bg-transparent text-center text-ink tabular-nums"
        value={text ?? (task.spent || '')}
        placeholder={String(planned)}
        aria-invalid={wrong}
        onChange={(event) => setText(event.target.value)}
        onFocus={(event) => event.target.select()}
        onBlur={keep}
        onKeyDown={(event) => {
          if (event.key !== 'Enter' && event.key !== 'Escape') return;
          event.preventDefault();
          event.stopPropagation();
          if (event.key === 'Escape') setText(null);
          // What is left is kept.
          document.querySelector<HTMLElement>(`[data-item="${task.id}"]`)?.focus();
        }}
      />
      min{' '}
      {wrong && (
        <span role="alert" className="text-brick">
          Write whole minutes.
        </span>
      )}
    </p>
  );
}

/** The next working day, in words; Plan shows it. */
export function Tomorrow({ today }: StepProps): ReactNode {
  const next = useNextWorkday(today);
  const navigate = useNavigate();
  useEffect(() => {
    if (next) void navigate(`/plan/${next}`);
  }, [next, navigate]);
  return next ? <NextDay day={next} today={today} /> : null;
}

function NextDay({ day, today }: { day: string; today: string }): ReactNode {
  return (
    <>
      <h3 className="font-head font-semibold">{sayDay(day, today)}</h3>
      <Lines outline={useOutline(day).data} parts={['load', 'whole-day', 'matters', 'time', 'task', 'over']} />
    </>
  );
}

/** How the day went, in two lines. */
export function Ends({ me, today }: StepProps): ReactNode {
  const tasks = useTasks().data ?? [];
  const done = tasks.filter(({ completed }) => completed !== null && dayOf(Date.parse(completed), me.zone) === today);
  const spent = done.reduce((sum, task) => sum + task.spent, 0);
  const open = useMine().filter((task) => isFor(task, today, me.zone)).length;
  return (
    <p>
      {count(done.length, 'thing')} done today{spent > 0 && `, ${sayMinutes(spent)} spent on them`}.{' '}
      {open > 0 && `${count(open, 'thing')} of today ${open === 1 ? 'is' : 'are'} still open.`}
    </p>
  );
}
