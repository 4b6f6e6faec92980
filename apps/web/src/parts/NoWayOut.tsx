import { MailX } from 'lucide-react';
import type { ReactNode } from 'react';
import { Link } from 'react-router';

const SETTING = '/settings#mail-out';

/** In the band, while nothing that is written reaches anybody. */
export function NoWayMark(): ReactNode {
  return (
    <Link
      to={SETTING}
      title="Mail has no way out: what you write cannot be sent"
      className="flex shrink-0 items-center gap-1 px-2 text-xs text-brick underline-offset-2 hover:underline"
    >
      <MailX size={17} aria-hidden="true" />
      <span className="max-lg:sr-only">Mail has no way out</span>
    </Link>
  );
}

/** Where somebody is about to write. */
export function NoWayLine({ className = '' }: { className?: string }): ReactNode {
  return (
    <p className={`text-xs text-brick ${className}`}>
      Mail has no way out yet, so nothing can be sent.{' '}
      <Link to={SETTING} className="underline underline-offset-2 hover:text-ink">
        Set one
      </Link>
      ; what you write here stays.
    </p>
  );
}
