import { Popover } from 'radix-ui';
import type { ReactNode } from 'react';
import { clockText, useHour } from './grid';

const LEAST = 18;

interface OutlineProps {
  from: number;
  minutes: number;
  /** What it would meet there. */
  says?: string;
  /** Where it lies in, instead of in a day. */
  top?: number;
}

/** Where something would come to stand, with its times and what it would meet. */
export function Outline({ from, minutes, says = '', top }: OutlineProps): ReactNode {
  const hour = useHour();
  return (
    <div
      data-outline
      className="pointer-events-none absolute right-2 left-1 z-[5] overflow-hidden border border-dashed border-teal bg-teal-wash/90 px-1 text-xs text-ink"
      style={{ top: top ?? (from / 60) * hour, height: Math.max(LEAST, (minutes / 60) * hour) }}
    >
      <b className="font-semibold">
        {clockText(from)} – {clockText(from + minutes)}
      </b>{' '}
      {says}
    </div>
  );
}

interface HeldProps {
  /** Minutes after midnight; null: the head of the day. */
  from: number | null;
  minutes: number;
  /** For assistive technology: what is asked. */
  label: string;
  close: (how: 'escape' | 'beside') => void;
  children: ReactNode;
}

/** A place on the grid that is held while something is asked beside it. */
export function Held({ from, minutes, label, close, children }: HeldProps): ReactNode {
  const hour = useHour();
  return (
    <Popover.Root open onOpenChange={(open) => !open && close('beside')}>
      <Popover.Anchor asChild>
        {from === null ? (
          <div className="h-5 border border-dashed border-teal bg-teal-wash px-1 text-xs">no time</div>
        ) : (
          <div className="absolute inset-x-0" style={{ top: (from / 60) * hour, height: Math.max(LEAST, (minutes / 60) * hour) }}>
            <Outline from={from} minutes={minutes} top={0} />
          </div>
        )}
      </Popover.Anchor>
      <Popover.Portal>
        <Popover.Content
          aria-label={label}
          side="right"
          align="start"
          sideOffset={4}
          collisionPadding={8}
          className="z-50 w-[330px] border border-ink bg-card shadow-lg max-md:w-[calc(100vw-16px)]"
          onEscapeKeyDown={(event) => {
            event.preventDefault();
            close('escape');
          }}
          onCloseAutoFocus={(event) => event.preventDefault()}
          onKeyDown={(event) => event.key !== 'Escape' && event.stopPropagation()}
        >
          {children}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
