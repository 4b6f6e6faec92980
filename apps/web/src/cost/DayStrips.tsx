import type { StripSlip, YesCost } from '@corvun/contract';
import { sayHour, wallOf } from '@corvun/core';
import type { ReactNode } from 'react';

const HOUR = 3_600_000;

const LOOK: Record<StripSlip['kind'], string> = {
  event: 'bg-[var(--hue-0)]',
  buffer: 'border-t-2 border-[var(--hue-0)]',
  own: 'border border-plum bg-plum-wash',
  this: 'border border-[var(--hue-0)] bg-[repeating-linear-gradient(135deg,var(--hue-0)_0_3px,transparent_3px_6px)]',
};

/** The day as it is and as it would be, as two thin strips over the same hours. */
export function DayStrips({ cost, zone }: { cost: YesCost; zone: string }): ReactNode {
  const times = [...cost.before, ...cost.after, ...cost.working, cost].flatMap(({ start, end }) => [
    Date.parse(start),
    Date.parse(end),
  ]);
  const from = Math.floor(Math.min(...times) / HOUR) * HOUR;
  const until = Math.ceil(Math.max(...times) / HOUR) * HOUR;
  const at = (instant: number) => ((instant - from) / (until - from)) * 100;
  const hours = Array.from({ length: Math.round((until - from) / HOUR) }, (_, hour) => from + hour * HOUR);
  const strip = (name: string, slips: readonly StripSlip[]) => (
    <div className="grid grid-cols-[64px_minmax(0,1fr)] items-center">
      <span className="px-3 text-soft">{name}</span>
      <div className="relative h-[22px] border-b border-ink">
        {hours.map((hour) => (
          <span key={hour} className="absolute inset-y-0 w-px bg-rule" style={{ left: `${at(hour)}%` }} />
        ))}
        {slips.map((one) => (
          <span
            key={one.kind + one.id + one.start}
            className={`absolute inset-y-[3px] min-w-[2px] ${LOOK[one.kind]}`}
            style={{ left: `${at(Date.parse(one.start))}%`, width: `${at(Date.parse(one.end)) - at(Date.parse(one.start))}%` }}
          />
        ))}
      </div>
    </div>
  );
  const marks = hours.filter((_, index) => index % (hours.length > 9 ? 3 : 2) === 0);
  return (
    <div className="border-t border-rule pt-2 pr-3 pb-2" aria-hidden="true">
      {strip('before', cost.before)}
      {strip('after', cost.after)}
      <div className="relative ml-16 h-4">
        {marks.map((hour) => (
          <span key={hour} className="absolute top-0 text-xs text-soft" style={{ left: `${at(hour)}%` }}>
            {sayHour(Number(wallOf(hour, zone).slice(11, 13)))}
          </span>
        ))}
      </div>
    </div>
  );
}
