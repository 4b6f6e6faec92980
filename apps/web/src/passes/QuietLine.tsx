import { sayDay } from '@corvun/core';
import type { ReactNode } from 'react';
import { changeShortlist, useShortlist } from '../data/passes';

/** Says that it is a quiet time, in which what is new only waits here. */
export function QuietLine({ today }: { today: string }): ReactNode {
  const { quietUntil } = useShortlist();
  if (quietUntil === null) return null;
  return (
    <p role="note" className="flex shrink-0 flex-wrap items-baseline gap-x-3 border-b border-rule bg-teal-wash px-4 py-1 text-xs">
      It is quiet until {sayDay(quietUntil, today)}: what is new waits here, and nothing has to be decided before.
      <button
        type="button"
        className="min-h-6 underline underline-offset-2"
        onClick={() => void changeShortlist({ quietUntil: null })}
      >
        End the quiet time
      </button>
    </p>
  );
}
