import { sayMoment, type Priority } from '@corvun/core';
import type { ReactNode } from 'react';

/** Two-letter code on its hue: colour never stands alone. */
export function Code({ code, hue }: { code: string; hue: number }): ReactNode {
  return (
    <span className="code" style={{ background: `var(--hue-${hue})` }}>
      {code}
    </span>
  );
}

/** A deadline with its peg: solid for fixed, hollow for flexible. */
export function Deadline({ deadline, fixed, today }: { deadline: string; fixed: boolean; today: string }): ReactNode {
  const late = deadline.slice(0, 10) < today;
  return (
    <span className={`inline-flex items-baseline gap-1 whitespace-nowrap ${late ? 'text-amber' : ''}`}>
      <span className={`peg ${fixed ? 'peg-fixed' : ''}`} aria-hidden="true" />
      <span className="sr-only">{fixed ? 'fixed deadline' : 'flexible deadline'}</span>
      {sayMoment(deadline, today)}
    </span>
  );
}

/** One to three strokes: low, normal, high. Normal is not shown where it would only be noise. */
export function Tally({ priority }: { priority: Priority }): ReactNode {
  const strokes = { low: 1, normal: 2, high: 3 }[priority];
  return (
    <span className="inline-flex gap-[2px] align-[-1px]" role="img" aria-label={`${priority} priority`}>
      {Array.from({ length: strokes }, (_, at) => (
        <span key={at} className="h-[11px] w-[2px] bg-current" />
      ))}
    </span>
  );
}

/** A key. @param always also where there are usually none: a sentence needs it */
export function Key({ children, always = false }: { children: ReactNode; always?: boolean }): ReactNode {
  return (
    <kbd className={always ? 'key key-always' : 'key'} aria-hidden="true">
      {children}
    </kbd>
  );
}
