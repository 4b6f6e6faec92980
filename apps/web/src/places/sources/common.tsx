import type { SourceInfo, SourceKind } from '@corvun/contract';
import { dayOf, sayAge, sayDay, sayTime } from '@corvun/core';
import { CalendarDays, CalendarSync, Mail, MessageSquareText, NotebookText, SquareKanban } from 'lucide-react';
import { type ReactNode } from 'react';
import { Link } from 'react-router';

export const ICONS = {
  mailbox: Mail,
  chat: MessageSquareText,
  tracker: SquareKanban,
  notes: NotebookText,
  feed: CalendarDays,
  account: CalendarSync,
} as const;

export const KIND_NAMES: Record<SourceKind, string> = {
  mailbox: 'Mailbox',
  chat: 'Chat',
  tracker: 'Tracker',
  notes: 'Notes folder',
  feed: 'Calendar feed',
  account: 'Calendar account',
};

/** What is asked to reach each kind of source. */
export const ABOUT: Record<
  SourceKind,
  { what: string; address: string; example: string; secret: string | null; account: boolean }
> = {
  mailbox: {
    what: 'Mail from the folders you choose. Nothing is marked as read.',
    address: 'Server',
    example: 'imaps://mail.alderfen.example:993',
    secret: 'Password',
    account: true,
  },
  chat: {
    what: 'What is addressed to you, and what you mark for yourself.',
    address: 'Address',
    example: 'https://chat.alderfen.example',
    secret: 'Token',
    account: false,
  },
  tracker: {
    what: 'Your own cards that are ready, both ways.',
    address: 'Address',
    example: 'https://tracker.alderfen.example',
    secret: 'Token',
    account: false,
  },
  notes: {
    what: 'Task lines of Markdown files, both ways.',
    address: 'Folder on this machine',
    example: '/home/maren/Notes',
    secret: null,
    account: false,
  },
  feed: {
    what: 'Events of a calendar that others keep.',
    address: 'Address of the .ics file',
    example: 'https://county.example/hearings.ics',
    secret: null,
    account: false,
  },
  account: {
    what: 'Calendars and task lists of an account (CalDAV), both ways.',
    address: 'Server',
    example: 'https://calendars.alderfen.example',
    secret: 'Password',
    account: true,
  },
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

/** A moment that is past: the server's clock may be a moment ahead of this window's. */
export const saysPast = (at: string | null, now: number, zone: string): string =>
  saysWhen(at, at ? Math.max(now, Date.parse(at)) : now, zone);

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

/** What a source brings in, and what goes back, in a sentence. */
export function saysSettings({ kind, settings }: Pick<SourceInfo, 'kind' | 'settings'>): string {
  const all = (names: string[] | undefined, none: string) => (names?.length ? names.join(', ') : none);
  switch (kind) {
    case 'mailbox':
      return `${settings.unreadOnly ? 'Unread mail' : 'Mail'} of the last ${settings.days ?? 30} days from ${all(settings.folders, 'no folder')}; decided mail ${settings.moveTo ? `is moved to ${settings.moveTo}` : 'stays where it is'}`;
    case 'chat': {
      const parts = [
        'what is addressed to you',
        settings.direct === false ? '' : 'direct messages',
        settings.mark ? `what you mark with ${settings.mark}` : '',
        settings.words?.length ? `what says ${settings.words.join(', ')}` : '',
      ].filter(Boolean);
      const sentence = `${parts.join(', ')}${settings.decidedMark ? `; decided messages get ${settings.decidedMark}` : ''}`;
      return sentence.charAt(0).toUpperCase() + sentence.slice(1);
    }
    case 'tracker':
      return `Your cards that are ready, from ${all(
        settings.boards?.map((one) => one.name),
        'no board',
      )}${settings.labels?.length ? `, labelled ${settings.labels.join(' or ')}` : ''}${settings.words?.length ? `, that say ${settings.words.join(' or ')}` : ''}; due dates ${settings.due === 'none' ? 'are not taken' : `are ${settings.due ?? 'fixed'}`}`;
    case 'notes':
      return `Task lines${settings.tag ? ` with #${settings.tag}` : ''}${settings.leaveOut?.length ? `, not from ${settings.leaveOut.join(', ')}` : ''}${settings.untouchedDays ? `, of notes changed in the last ${settings.untouchedDays} days` : ''}; new ones go to ${settings.list ?? 'no list'}`;
    case 'feed':
      return settings.busy ? 'Its events count as busy' : 'Its events do not count as busy';
    case 'account': {
      const chosen = settings.collections ?? [];
      const others = chosen.filter(({ id }) => id.startsWith('free:')).map(({ name }) => name);
      const own = chosen.filter(({ id }) => !id.startsWith('free:'));
      const names = own.map(({ name, readOnly }) => (readOnly ? `${name} (can only be read)` : name));
      return `Both ways: ${all(names, 'no calendar')}${others.length ? `; when ${others.join(' and ')} ${others.length === 1 ? 'is' : 'are'} busy` : ''}`;
    }
  }
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
