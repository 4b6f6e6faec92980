import { sayTime } from '@corvun/core';
import type { ReactNode } from 'react';

/** How far a stretch of time is, from when to when. */
export function TimeBar({ start, end, now, zone }: { start: number; end: number; now: number; zone: string }): ReactNode {
  const part = Math.min(100, Math.max(0, ((now - start) / Math.max(1, end - start)) * 100));
  return (
    <div className="mt-7">
      <div
        className="relative h-[22px] border border-ink bg-card"
        role="img"
        aria-label={`From ${sayTime(start, zone)} to ${sayTime(end, zone)}`}
      >
        <div className="absolute inset-y-0 left-0 bg-plum-wash" style={{ width: `${part}%` }} />
        <div className="absolute -inset-y-[3px] w-[2px] bg-brick" style={{ left: `calc(${part}% - 1px)` }}>
          <b
            className={`absolute -top-5 text-xs leading-4 text-brick tabular-nums ${part > 90 ? 'right-0' : part < 10 ? 'left-0' : '-translate-x-1/2'}`}
            aria-hidden="true"
          >
            {sayTime(now, zone)}
          </b>
        </div>
      </div>
      <p className="mt-1 flex justify-between text-xs text-soft tabular-nums" aria-hidden="true">
        <span>{sayTime(start, zone)}</span>
        <span>{sayTime(end, zone)}</span>
      </p>
    </div>
  );
}
