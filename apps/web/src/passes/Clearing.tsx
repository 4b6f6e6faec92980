import type { PassInfo, TaskInfo } from '@corvun/contract';
import { count, sayDay, sayMinutes } from '@corvun/core';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { goInPass } from '../data/passes';
import { useInbox, useLists, useTasks } from '../data/queries';
import { runSource, useSources } from '../data/sources';
import { changeTask } from '../data/thingActions';
import { KEYS } from '../keys';
import { Code, Deadline } from '../parts/signs';
import { serverNow } from '../parts/useNow';
import { isOpen } from '../places/lists/view';
import { button } from '../places/sources/common';
import { useSettings } from '../state/settings';
import { useOpenTask } from '../sheets/open';
import { asWish, noted } from './decks';
import { Items, type Deed } from './Items';
import { Mind } from './Opening';
import type { StepProps } from './stepProps';
import { useMine } from './useOpenWork';

const NONE: readonly TaskInfo[] = [];
const LENGTHS = [5, 7, 10] as const;

/** Everything is gathered, for some minutes: what the sources have, and what is on one's mind. */
export function Gather(props: StepProps): ReactNode {
  const sources = (useSources().data ?? []).filter(({ state }) => state === 'active');
  const total = useInbox(useSettings((state) => state.order)).data?.pages[0]?.total ?? 0;
  const open = (useTasks().data ?? NONE).filter((task) => isOpen(task) && !task.parentId && !task.shelved).length;
  const fetched = useRef(false);
  const ids = sources.map(({ id }) => id).join(' ');
  // Once, as it begins: what they have is there before one decides.
  const asked = props.pass.notes['fetched'] === true;
  useEffect(() => {
    if (fetched.current || asked || !ids) return;
    fetched.current = true;
    void goInPass(props.pass, { notes: { fetched: true } });
    for (const id of ids.split(' ')) void runSource(id);
  }, [ids, asked, props.pass]);
  const busy = sources.filter(({ progress }) => progress !== null).length;
  return (
    <>
      <Timer pass={props.pass} />
      <p role="status" className="mb-3 text-xs text-soft">
        {busy ? `${count(busy, 'source')} ${busy === 1 ? 'is' : 'are'} asked for what is new. ` : ''}
        {count(total, 'thing')} {total === 1 ? 'waits' : 'wait'} in the inbox, {count(open, 'task')} {open === 1 ? 'is' : 'are'}{' '}
        open.
      </p>
      <Mind {...props} />
    </>
  );
}

/** So many minutes, from when one chose them; a reload does not set them back. */
function Timer({ pass }: { pass: PassInfo }): ReactNode {
  const [, tick] = useState(0);
  const since = typeof pass.notes['since'] === 'number' ? pass.notes['since'] : null;
  const length = typeof pass.notes['length'] === 'number' ? pass.notes['length'] : null;
  const left = since === null || length === null ? null : since + length * 60_000 - serverNow();
  const running = left !== null && left > 0;
  useEffect(() => {
    if (!running) return undefined;
    const timer = window.setInterval(() => tick((one) => one + 1), 1000);
    return () => window.clearInterval(timer);
  }, [running]);
  const choose = (minutes: number) => void goInPass(pass, { notes: { since: serverNow(), length: minutes } });
  return (
    <div className="mb-2">
      <div className="flex flex-wrap items-center gap-2 text-xs">
        {LENGTHS.map((minutes) => (
          <button
            key={minutes}
            type="button"
            aria-pressed={length === minutes}
            className={`${button} ${length === minutes ? 'border-teal text-teal' : ''}`}
            onClick={() => choose(minutes)}
          >
            {minutes} min
          </button>
        ))}
        {left !== null && length !== null && (
          <span className={left > 0 ? 'text-soft' : 'text-amber'}>
            {left > 0
              ? `${Math.floor(left / 60_000)}:${String(Math.floor((left % 60_000) / 1000)).padStart(2, '0')} left`
              : `The ${length} minutes are over.`}
          </span>
        )}
      </div>
      {left !== null && length !== null && (
        <div className="mt-1 h-[3px] bg-rule" aria-hidden="true">
          <div
            className={`h-full ${left > 0 ? 'bg-teal' : 'bg-amber'}`}
            style={{ width: `${Math.min(100, 100 - (left / (length * 60_000)) * 100)}%` }}
          />
        </div>
      )}
    </div>
  );
}

/** Deadlines: those that others set stay, those that are only wishes stop being any. */
export function Wishes({ today }: StepProps): ReactNode {
  const openTask = useOpenTask();
  const due = (useTasks().data ?? NONE)
    .filter((task) => isOpen(task) && !task.shelved && task.deadline !== null)
    .sort((a, b) => (a.deadline ?? '').localeCompare(b.deadline ?? ''));
  const wish: Deed<TaskInfo> = { key: 'w', name: 'My own wish', run: (task) => changeTask(task.id, asWish(task, today)) };
  const open: Deed<TaskInfo> = { key: KEYS.card.open, name: 'Open', run: ({ id }) => openTask(id) };
  const line = (task: TaskInfo) => (
    <>
      <span className="min-w-0 flex-1">
        {task.title}
        {task.sender && <span className="block text-xs text-soft">from {task.sender}</span>}
      </span>
      <span className="shrink-0 text-xs text-soft">
        <Deadline deadline={task.deadline ?? ''} fixed={task.deadlineFixed} today={today} />
      </span>
    </>
  );
  const unsure = due.filter(({ deadlineFixed }) => !deadlineFixed);
  const fixed = due.filter(({ deadlineFixed }) => deadlineFixed);
  return (
    <>
      <Items
        label="Deadlines that may be wishes"
        items={unsure}
        idOf={({ id }) => id}
        deeds={[{ key: 'f', name: 'Others set it', run: ({ id }) => changeTask(id, { deadlineFixed: true }) }, wish, open]}
        empty="Every deadline that is left was set by others."
      >
        {line}
      </Items>
      {fixed.length > 0 && (
        <>
          <h3 className="mt-4 font-head font-semibold">Set by others</h3>
          <Items label="Set by others" items={fixed} idOf={({ id }) => id} deeds={[wish, open]} empty="">
            {line}
          </Items>
        </>
      )}
    </>
  );
}

/** One question is asked of everything that is open. */
export function Question({ me, today, pass }: StepProps): ReactNode {
  const openTask = useOpenTask();
  const lists = useLists().data ?? [];
  const levers = noted(pass, 'levers');
  const mine = useMine().filter(({ parentId }) => !parentId);
  const turn = ({ id }: TaskInfo) =>
    goInPass(pass, { notes: { levers: levers.includes(id) ? levers.filter((one) => one !== id) : [...levers, id] } });
  const marked = mine.filter(({ id }) => levers.includes(id)).length;
  const deeds: Deed<TaskInfo>[] = [
    { key: 'Enter', name: 'Makes others easier', run: turn },
    { key: 'Backspace', name: 'Unnecessary', run: ({ id }) => changeTask(id, { status: 'CANCELLED' }) },
    { key: 'x', name: 'Done', run: ({ id }) => changeTask(id, { status: 'COMPLETED' }) },
    { key: KEYS.card.open, name: 'Open', run: ({ id }) => openTask(id) },
  ];
  return (
    <>
      <p role="status" className="mb-2 text-xs">
        {marked ? `${count(marked, 'thing')} would make others easier.` : 'None is marked yet.'}
      </p>
      <Items
        label="Everything that is open"
        items={mine}
        idOf={({ id }) => id}
        deeds={deeds}
        textOf={({ title, tags }) => [title, ...tags].join(' ')}
        empty="Nothing is open."
      >
        {(task) => {
          const list = lists.find(({ id }) => id === task.listId);
          const on = levers.includes(task.id);
          return (
            <>
              <span className="w-3 shrink-0 text-teal" aria-hidden="true">
                {on ? '●' : ''}
              </span>
              {list && <Code code={list.code} hue={list.hue} />}
              <span className={`min-w-0 flex-1 ${on ? 'font-semibold' : ''}`}>
                {task.title}
                {on && <span className="sr-only">, makes others easier</span>}
              </span>
              <span className="shrink-0 text-xs text-soft">
                {task.deadline
                  ? sayDay(task.deadline.slice(0, 10), today)
                  : sayMinutes(task.estimate ?? me.settings.lengths[task.concentration])}
              </span>
            </>
          );
        }}
      </Items>
    </>
  );
}
