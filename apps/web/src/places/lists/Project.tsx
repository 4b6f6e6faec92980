import type { ListInfo } from '@corvun/contract';
import { count, daysBetween, sayDay, sayMinutes, shareDone } from '@corvun/core';
import type { ReactNode } from 'react';
import { useProjects } from '../../data/queries';
import { useOpenTask } from '../../sheets/open';

/** What a project is to come to, how far it is, what comes next in it, and whether it moves. */
export function Project({ list, today }: { list: ListInfo; today: string }): ReactNode {
  const open = useOpenTask();
  const progress = useProjects().data?.find(({ listId }) => listId === list.id);
  const { outcome, ends } = list;
  if (!progress) return null;
  const { done, open: left, minutesDone, minutesLeft, next, stalled } = progress;
  const share = shareDone(progress);
  const days = ends ? daysBetween(today, ends) : 0;
  return (
    <div className="mt-1 text-soft">
      <p>
        {outcome ? `Project: ${outcome}` : 'A project'}
        {ends && (
          <>
            , ends {sayDay(ends, today)}
            <span className={days < 0 ? 'text-amber' : ''}>
              {days < 0 ? `, ${count(-days, 'day')} ago` : days === 0 ? ', today' : `, in ${count(days, 'day')}`}
            </span>
          </>
        )}
      </p>
      <div className="mt-1 flex flex-wrap items-center gap-x-3 text-xs">
        <span
          role="img"
          aria-label={`${Math.round(share * 100)} percent done`}
          className="relative inline-block h-[7px] w-36 border border-ink"
        >
          <span className="absolute inset-y-0 left-0 bg-ink" style={{ width: `${share * 100}%` }} />
        </span>
        <span>
          {done} of {count(done + left, 'step')} done
          {minutesDone + minutesLeft > 0 && `, ${sayMinutes(minutesDone)} of ${sayMinutes(minutesDone + minutesLeft)}`}
        </span>
        {next && (
          <span className="min-w-0">
            next:{' '}
            <button type="button" className="min-h-6 text-ink underline underline-offset-2" onClick={() => open(next.id)}>
              {next.title}
            </button>
          </span>
        )}
        {stalled && <span className="text-amber">{stalled}</span>}
      </div>
    </div>
  );
}
