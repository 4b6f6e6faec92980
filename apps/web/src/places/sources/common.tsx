import type { SourceKind } from '@corvun/contract';
import { dayOf, sayAge, sayDay, sayTime } from '@corvun/core';
import { CalendarDays, Mail, MessageSquareText, NotebookText, SquareKanban } from 'lucide-react';
import { type ReactNode } from 'react';
import { Link } from 'react-router';

export const ICONS = {
  mailbox: Mail,
  chat: MessageSquareText,
  tracker: SquareKanban,
  notes: NotebookText,
  feed: CalendarDays,
} as const;

export const KIND_NAMES: Record<SourceKind, string> = {
  mailbox: 'Mailbox',
  chat: 'Chat',
  tracker: 'Tracker',
  notes: 'Notes folder',
  feed: 'Calendar feed',
};

export const button = 'border border-ink px-3 py-1 hover:bg-card disabled:opacity-50';
export const primary = 'bg-teal px-3 py-1 font-semibold text-on-teal disabled:opacity-50';
export const field = 'block w-full border border-soft bg-card px-2 py-1';
export const quiet = 'underline underline-offset-2 hover:text-teal';

/** A moment, as people say it: how long ago today, else the day and the time. */
export function saysWhen(at: string | null, now: number, zone: string): string {
  if (!at) return 'never';
  const then = Date.parse(at);
  if (then > now) {
    const seconds = Math.round((then - now) / 1000);
    return seconds < 90 ? `in ${seconds} s` : `in ${Math.round(seconds / 60)} min`;
  }
  if (now - then < 6 * 3_600_000) {
    const age = sayAge(then, now);
    return age === 'just now' ? age : `${age} ago`;
  }
  return `${sayDay(dayOf(then, zone), dayOf(now, zone))}, ${sayTime(then, zone)}`;
}

/** How far something long is, with numbers. */
export function Progress({
  done,
  total,
  unit,
  label,
}: {
  done: number;
  total: number | null;
  unit: string;
  label: string;
}): ReactNode {
  const share = total ? Math.min(100, (done / total) * 100) : 0;
  return (
    <div className="flex items-center gap-3 text-xs text-soft">
      <div
        role="progressbar"
        aria-label={label}
        aria-valuemin={0}
        aria-valuemax={total ?? undefined}
        aria-valuenow={total ? done : undefined}
        className="h-[6px] w-40 border border-teal bg-card"
      >
        <div className="h-full bg-teal" style={{ width: total ? `${share}%` : '100%', opacity: total ? 1 : 0.35 }} />
      </div>
      <span className="tabular-nums">{total ? `${done} of ${total} ${unit}` : done ? `${done} ${unit}` : 'looking …'}</span>
    </div>
  );
}

export function SaysNothing(): ReactNode {
  return (
    <p className="text-soft">
      There is nothing at this address.{' '}
      <Link className={quiet} to="/sources">
        Back to what is connected
      </Link>
    </p>
  );
}
