import type { HeadsDownInfo, Me, TaskFull } from '@corvun/contract';
import { count, sayNext, sayTime } from '@corvun/core';
import { useState, type ReactNode } from 'react';
import { leaveHeadsDown, stopTimer, turnHeadsDown } from '../../data/doing';
import { useTask } from '../../data/tasks';
import { changeTask } from '../../data/thingActions';
import { KEYS } from '../../keys';
import { useNow } from '../../parts/useNow';
import { useKeys } from '../../parts/useKeys';
import { Notes } from '../../sheets/Notes';
import { useSave } from '../../sheets/useSave';
import { FinishSteps, useFinish } from '../../sheets/useFinish';
import { CameUp } from './CameUp';
import { Deeds } from './Deeds';
import { stepsOf } from './Needs';
import { countdown, type Standing } from './standing';
import { QuietLine } from './QuietLine';
import { TickList } from './TickList';

const PHASES = { work: 'Work', short: 'Pause', long: 'Long pause', over: 'The pause is over' } as const;
const ON = { work: 'Pause now', short: 'Back to work', long: 'Back to work', over: 'Go on' } as const;

interface AloneProps {
  me: Me;
  alone: HeadsDownInfo;
  next: Standing | null;
  /** Whether the timer was left for something that came up. */
  paused: boolean;
}

/** One task and nothing else: its steps and notes, the interval timer, and what comes next. */
export function HeadsDown({ me, alone, next, paused }: AloneProps): ReactNode {
  const now = useNow(1000);
  const task = useTask(alone.taskId).data;
  const [came, setCame] = useState(false);
  const finish = useFinish();
  useKeys({
    [KEYS.alone.leave]: () => void leaveHeadsDown(),
    [KEYS.sheet.notes]: () => document.getElementById('write-notes')?.click(),
  });
  const { phase, round, every, until, from } = alone;
  const [begins, ends] = [Date.parse(from), until === null ? null : Date.parse(until)];
  const part = ends === null ? 0 : Math.min(100, Math.max(0, ((now - begins) / (ends - begins)) * 100));
  const which = phase === 'work' ? `, ${(round % every) + 1} of ${every}` : '';
  return (
    <section
      data-alone
      aria-label="Heads-down"
      className="mx-auto flex h-full max-w-[720px] flex-col overflow-y-auto px-8 py-12 max-md:px-4 max-md:py-6"
    >
      <p className="flex items-baseline justify-between gap-4 text-soft">
        <span>
          {paused && phase === 'over' ? 'Left for something that came up' : PHASES[phase]}
          {which}
        </span>
        {ends !== null && (
          <b className="font-head text-lg text-ink tabular-nums" role="timer" aria-label={`${PHASES[phase]}, time left`}>
            {countdown(ends, now)}
          </b>
        )}
      </p>
      <div className="mt-2 h-[10px] shrink-0 border border-ink bg-card" aria-hidden="true">
        <div className={`h-full ${phase === 'work' ? 'bg-plum' : 'bg-teal'}`} style={{ width: `${part}%` }} />
      </div>
      <h1 className="mt-10 font-head text-lg font-bold tracking-tight break-words">{alone.title}</h1>
      {task && (
        <div className="relative mt-5">
          <h2 className="sr-only">What it needs</h2>
          <TickList label="Steps" items={stepsOf(task)} />
          <OwnNotes task={task} />
        </div>
      )}
      {task && <FinishSteps finish={finish} id={task.id} />}
      <Deeds
        label="What can be done"
        deeds={[
          { key: KEYS.alone.goOn, name: ON[phase], first: true, run: () => turnHeadsDown() },
          {
            key: KEYS.alone.done,
            name: 'Done',
            run: () =>
              task
                ? finish.tick(task.id, task.steps.filter(({ status }) => status !== 'COMPLETED').length)
                : changeTask(alone.taskId, { status: 'COMPLETED' }),
          },
          {
            ...{ key: KEYS.alone.cameUp, name: 'Something came up', expanded: came },
            run: async () => {
              setCame(true);
              if (phase === 'work') await stopTimer(true);
            },
          },
          { key: KEYS.alone.leave, name: 'Leave', apart: true, run: () => leaveHeadsDown() },
        ]}
      />
      {came && (
        <CameUp
          close={() => {
            setCame(false);
            document.getElementById('place')?.focus();
          }}
        />
      )}
      <p className="mt-auto flex flex-wrap justify-between gap-x-6 pt-10 text-xs text-soft">
        <span>{next ? `Next: ${sayNext(next, now, me.zone)}` : 'Nothing else is planned today'}</span>
        <span>
          {[
            ends !== null && `${phase === 'work' ? 'pause' : 'work'} at ${sayTime(ends, me.zone)}`,
            alone.came > 0 && `${count(alone.came, 'thing')} came in and ${alone.came === 1 ? 'waits' : 'wait'}`,
          ]
            .filter(Boolean)
            .join(' · ')}
        </span>
      </p>
      <QuietLine me={me} now={now} alone />
      <p role="status" className="sr-only">
        {PHASES[phase]}
        {which}
      </p>
    </section>
  );
}

function OwnNotes({ task }: { task: TaskFull }): ReactNode {
  const { save } = useSave(task);
  return <Notes draft={`notes-${task.id}`} text={task.notes} save={(notes) => save({ notes })} />;
}
