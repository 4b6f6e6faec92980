import type { Me, NowState } from '@corvun/contract';
import { MINUTE, dayOf, minutesBetween, sayMinutes, sayTime } from '@corvun/core';
import { useState, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { beginHeadsDown, startTimer, stopTimer } from '../../data/doing';
import { useLists } from '../../data/queries';
import { useTask } from '../../data/tasks';
import { KEYS, keyName } from '../../keys';
import { putOff, useNextWorkday } from '../../passes/useOpenWork';
import { Code, Deadline, Key } from '../../parts/signs';
import { useKeys } from '../../parts/useKeys';
import { askPermission } from '../../reminders/notify';
import { originalOf, useOpenTask } from '../../sheets/open';
import { NotThere } from '../../sheets/SheetFrame';
import { FinishSteps, useFinish } from '../../sheets/useFinish';
import { notToday } from '../plan/moves';
import { CameUp } from './CameUp';
import { Deeds, type NowDeed } from './Deeds';
import { Longer } from './Longer';
import { Needs } from './Needs';
import { sayAfter, type At } from './standing';
import { TimeBar } from './TimeBar';

interface DoingProps {
  me: Me;
  now: number;
  state: NowState;
  at: At;
  taskId: string;
}

/** The task one is at: how long still, what it needs, and what can be done with it. */
export function Doing({ me, now, state, at: { running, block }, taskId }: DoingProps): ReactNode {
  const today = dayOf(now, me.zone);
  const asked = useTask(taskId);
  const task = asked.data;
  const lists = useLists().data ?? [];
  const [open, setOpen] = useState<'longer' | 'came-up' | null>(null);
  const finish = useFinish();
  const openTask = useOpenTask();
  const navigate = useNavigate();
  const next = useNextWorkday(today);
  useKeys({
    [KEYS.now.open]: () => openTask(taskId),
    [KEYS.now.original]: () => task?.incomingId && void navigate(...originalOf(task.incomingId)),
  });
  const close = () => {
    setOpen(null);
    document.getElementById('place')?.focus();
  };
  if (!task) return <NotThere what="task" problem={asked.error} retry={() => void asked.refetch()} />;
  const timer = state.timer?.taskId === taskId ? state.timer : null;
  const list = lists.find(({ id }) => id === task.listId);
  const since = timer ? Date.parse(timer.since) : null;
  const planned = block ? minutesBetween(block.start, block.end) : task.estimate;
  const left = block ? Math.max(0, Math.ceil((block.end - now) / MINUTE)) : null;
  const openSteps = task.steps.filter(({ status }) => status !== 'COMPLETED').length;
  const deeds: NowDeed[] = [
    {
      ...{ key: KEYS.now.done, first: true },
      name: left ? `Done, ${sayMinutes(left)} back` : 'Done',
      run: () => finish.tick(task.id, openSteps),
    },
    ...(block ? [{ key: KEYS.now.longer, name: 'Needs longer', expanded: open === 'longer', run: () => setOpen('longer') }] : []),
    ...(block || next
      ? [
          {
            key: KEYS.now.notToday,
            name: 'Not today',
            run: async () => {
              if (timer) await stopTimer();
              if (block) await notToday(block.entry, today, me);
              else if (next) await putOff([task], today, next);
            },
          },
        ]
      : []),
    {
      key: KEYS.now.cameUp,
      name: 'Something came up',
      expanded: open === 'came-up',
      run: async () => {
        setOpen('came-up');
        if (timer) await stopTimer(true);
      },
    },
    {
      key: KEYS.now.measure,
      name: timer ? 'Stop timer' : 'Timer',
      run: () => (timer ? stopTimer() : startTimer(task.id)),
    },
    {
      ...{ key: KEYS.now.headsDown, name: 'Heads-down', apart: true },
      run: () => {
        void askPermission();
        return beginHeadsDown(task.id);
      },
    },
  ];
  return (
    <section aria-label="What runs">
      <p className="flex items-baseline justify-between gap-4 text-xs text-soft">
        {timer ? `Timer since ${sayTime(since ?? now, me.zone)}` : block ? `Now, since ${sayTime(block.start, me.zone)}` : 'Now'}
        <button type="button" className="flex min-h-6 items-center gap-[6px] hover:text-teal" onClick={() => openTask(taskId)}>
          Open <Key>{keyName(KEYS.now.open)}</Key>
        </button>
      </p>
      <h1 className="mt-1 font-head text-lg font-bold tracking-tight break-words">{task.title}</h1>
      <p className="mt-2 flex flex-wrap items-baseline gap-x-2 text-soft">
        {list && (
          <span className="flex items-baseline gap-[6px]">
            <Code code={list.code} hue={list.hue} /> {list.name}
          </span>
        )}
        {task.deadline && (
          <span>
            {list && '· '}
            <Deadline deadline={task.deadline} fixed={task.deadlineFixed} today={today} />
          </span>
        )}
        {planned !== null && (
          <span>
            {(list ?? task.deadline) && '· '}planned {sayMinutes(planned)}
          </span>
        )}
        {task.spent > 0 && <span>· {sayMinutes(task.spent)} spent</span>}
      </p>
      {block ? (
        <TimeBar start={block.start} end={block.end} now={now} zone={me.zone} />
      ) : (
        since !== null &&
        task.estimate !== null && (
          <TimeBar
            start={since - task.spent * MINUTE}
            end={Math.max(now, since + (task.estimate - task.spent) * MINUTE)}
            now={now}
            zone={me.zone}
          />
        )
      )}
      <p className="mt-3 text-md">
        {left !== null ? (
          <>
            <b className="font-head text-lg">{sayMinutes(left)}</b> left, {sayAfter(running, me.zone)}
          </>
        ) : (
          since !== null && (
            <>
              <b className="font-head text-lg">{sayMinutes(Math.max(0, minutesBetween(since, now)))}</b> so far
              {task.estimate !== null && ` of ${sayMinutes(Math.max(0, task.estimate - task.spent))} that it has`},{' '}
              {sayAfter(running, me.zone)}
            </>
          )
        )}
      </p>
      {timer?.note && <p className="mt-1 border-l-2 border-amber pl-2 text-xs">{timer.note}</p>}
      <FinishSteps finish={finish} id={task.id} />
      <Deeds label="What can be done with it" deeds={deeds} />
      {open === 'longer' && block && <Longer me={me} blockId={block.id} close={close} />}
      {open === 'came-up' && <CameUp close={close} />}
      <Needs me={me} task={task} today={today} />
    </section>
  );
}
