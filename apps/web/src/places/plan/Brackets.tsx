import type { AgendaEntry, BufferInfo } from '@corvun/contract';
import { sayMinutes } from '@corvun/core';
import type { ReactNode } from 'react';

const NAMES: Record<BufferInfo['kind'], string> = {
  prep: 'prep',
  travel: 'travel',
  'follow-up': 'follow-up',
  pause: 'pause',
};
/** Least height for words, in pixels. */
const WORDS = 13;

/** What belongs to an event, in words: `prep 15 min; travel 25 min from Office`; what does not fit says so. */
export const sayBuffer = ({ kind, minutes, wanted, from, to }: BufferInfo): string => {
  const way = kind === 'travel' && from ? ` from ${from} to ${to}` : '';
  if (minutes === 0) return `no room for ${sayMinutes(wanted)} of ${NAMES[kind]}${way}`;
  return `${NAMES[kind]}${way} ${sayMinutes(minutes)}${minutes < wanted ? ` of ${sayMinutes(wanted)}` : ''}`;
};

interface BracketsProps {
  entry: AgendaEntry;
  /** Pixels of a time of this day from the upper edge of the column. */
  at: (iso: string) => number;
  hue: string;
  left: string;
  width: string;
}

/** Thin brackets beside a slip: what belongs to it before, after and on the way. */
export function Brackets({ entry, at, hue, left, width }: BracketsProps): ReactNode {
  return entry.buffers
    .filter(({ minutes }) => minutes > 0)
    .map((buffer) => {
      const [top, bottom] = [at(buffer.start), at(buffer.end)];
      const before = entry.start !== null && buffer.end <= entry.start;
      const short = buffer.minutes < buffer.wanted;
      return (
        <span
          key={buffer.kind + buffer.start}
          data-buffer={buffer.kind}
          title={sayBuffer(buffer)}
          className={`pointer-events-none absolute z-[1] flex gap-[5px] overflow-hidden text-xs leading-[13px] ${before ? 'items-start' : 'items-end'}`}
          style={{ top, height: Math.max(3, bottom - top - 1), left, width }}
          aria-hidden="true"
        >
          <span
            className={`h-full w-[7px] shrink-0 border-l-2 ${before ? 'border-t-2' : 'border-b-2'}`}
            style={{ borderColor: short ? 'var(--amber)' : hue }}
          />
          {bottom - top >= WORDS && (
            <span className={`truncate bg-paper ${short ? 'text-amber' : 'text-soft'}`}>
              {NAMES[buffer.kind]} {sayMinutes(buffer.minutes)}
              {short && ` of ${sayMinutes(buffer.wanted)}`}
            </span>
          )}
        </span>
      );
    });
}
