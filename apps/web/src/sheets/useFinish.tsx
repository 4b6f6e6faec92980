import { count } from '@corvun/core';
import { create } from 'zustand';
import { useEffect, useRef, type ReactNode } from 'react';
import { changeTask } from '../data/thingActions';

interface Asking {
  /** The task that is to be done, and how many of its steps are open. */
  asked: { id: string; open: number } | null;
  set: (asked: Asking['asked']) => void;
}

const useAsking = create<Asking>((set) => ({ asked: null, set: (asked) => set({ asked }) }));

export interface Finish {
  asked: Asking['asked'];
  /** Ticks a task; where steps are open it asks first what becomes of them. */
  tick: (id: string, openSteps: number) => void;
  answer: (steps: 'done' | 'leave' | null) => void;
}

/** Ticking a task whose steps are open asks once: these too, or leave them. */
export function useFinish(): Finish {
  const { asked, set } = useAsking();
  return {
    asked,
    tick: (id, open) => {
      if (open) set({ id, open });
      else void changeTask(id, { status: 'COMPLETED' });
    },
    answer: (steps) => {
      if (asked && steps) void changeTask(asked.id, { status: 'COMPLETED', steps });
      set(null);
    },
  };
}

/** The question, right where the task was ticked. */
export function FinishSteps({ finish: { asked, answer }, id }: { finish: Finish; id: string }): ReactNode {
  const first = useRef<HTMLButtonElement>(null);
  const shown = asked?.id === id;
  useEffect(() => {
    if (shown) first.current?.focus();
  }, [shown]);
  if (!shown) return null;
  return (
    <div
      role="group"
      aria-label="Its steps are open"
      className="my-1 flex flex-wrap items-baseline gap-2 border-l-2 border-teal bg-teal-wash px-3 py-1 text-xs"
      onKeyDown={(event) => {
        if (event.key !== 'Escape') return;
        event.stopPropagation();
        answer(null);
      }}
    >
      <span>{count(asked.open, 'step is', 'steps are')} open.</span>
      <button
        ref={first}
        type="button"
        className="bg-teal px-2 py-[1px] font-semibold text-on-teal"
        onClick={() => answer('done')}
      >
        {asked.open === 1 ? 'Done, too' : 'All done, too'}
      </button>
      <button type="button" className="border border-ink px-2 py-[1px]" onClick={() => answer('leave')}>
        Leave {asked.open === 1 ? 'it' : 'them'} open
      </button>
      <button type="button" className="underline underline-offset-2" onClick={() => answer(null)}>
        Not done yet
      </button>
    </div>
  );
}
