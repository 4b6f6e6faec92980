import { sayMinutes, type DayLoad } from '@corvun/core';
import type { ReactNode } from 'react';

const SCALE = 0.86;

/** A day's working time, filled by meetings, blocks and unplaced work; what is promised beyond it goes past the end. */
export function LoadBar({ load, wide = 'narrow' }: { load: DayLoad; wide?: 'narrow' | 'full' | 'tiny' }): ReactNode {
  const { capacity, meetings, buffers, blocks, unplaced, over } = load;
  const whole = Math.max(capacity, 1);
  const parts = [
    ['var(--hue-0)', meetings],
    ['color-mix(in srgb, var(--hue-0) 45%, var(--card))', buffers],
    ['var(--plum)', blocks],
    ['var(--ink-soft)', unplaced],
  ] as const;
  let left = capacity;
  const widths = parts.map(([colour, minutes]) => {
    const shown = Math.min(left, minutes);
    left -= shown;
    return [colour, (shown / whole) * 100] as const;
  });
  const said =
    capacity === 0
      ? 'no working time'
      : `${sayMinutes(meetings)} meetings, ${buffers ? `${sayMinutes(buffers)} beside them, ` : ''}${sayMinutes(blocks)} blocks, ${sayMinutes(unplaced)} without a time, of ${sayMinutes(capacity)}`;
  return (
    <span
      role="img"
      aria-label={said}
      title={said}
      className={`relative inline-flex ${wide === 'tiny' ? 'h-[4px] w-6' : 'h-[9px]'} ${wide === 'full' ? 'w-full' : wide === 'narrow' ? 'w-[70px] shrink-0' : ''}`}
    >
      <span
        className={`flex h-full overflow-hidden border ${capacity ? 'border-ink' : 'border-rule'}`}
        style={{ width: `${SCALE * 100}%` }}
      >
        {widths.map(([colour, width]) => (
          <span key={colour} className="h-full" style={{ width: `${width}%`, background: colour }} />
        ))}
      </span>
      {over > 0 && <span className="over h-full" style={{ width: `${Math.min(1 - SCALE, (over / whole) * SCALE) * 100}%` }} />}
    </span>
  );
}
