import type { CalendarInfo, ListInfo, LogEntryInfo, Me } from '@corvun/contract';
import { sayTime, type LogThing } from '@corvun/core';
import { useState, type ReactNode } from 'react';
import { Link, useLocation } from 'react-router';
import { changeLine, removeLine } from '../../data/lookback';
import { LineForm } from '../../passes/LineForm';

const soft = 'min-h-6 text-xs text-soft underline underline-offset-2 hover:text-ink';

interface LogRowProps {
  me: Me;
  entry: LogEntryInfo;
  lists: readonly ListInfo[];
  calendars: readonly CalendarInfo[];
}

/** One thing of a day: when it was, what became of it, and the way back to it. */
export function LogRow({ me, entry, lists, calendars }: LogRowProps): ReactNode {
  const { kind, at, title, text, thing, parts, id } = entry;
  // What was answered is read; what was decided is looked into.
  const [open, setOpen] = useState(kind === 'check-in');
  const [writing, setWriting] = useState(false);
  const isLine = kind === 'line';
  return (
    <li className="border-t border-rule">
      <div className="flex min-h-[33px] items-stretch gap-3 py-[6px] max-md:gap-2">
        <span className="w-[46px] shrink-0 text-soft">{at ? sayTime(Date.parse(at), me.zone) : isLine ? '' : 'all day'}</span>
        <span className="w-[7px] shrink-0" style={{ background: colourOf(entry, lists, calendars) }} aria-hidden="true" />
        <div className="flex min-w-0 flex-1 flex-wrap gap-x-4 lg:flex-nowrap">
          <p className={`min-w-0 ${isLine ? 'flex-1 whitespace-pre-wrap' : 'shrink-0 font-semibold lg:w-[290px]'}`}>
            <Titled thing={thing} title={title} />
          </p>
          {text && <p className="min-w-0 flex-1 text-soft max-md:basis-full">{text}</p>}
          {parts.length > 0 && (
            <button type="button" className={soft} aria-expanded={open} onClick={() => setOpen(!open)}>
              {open ? 'fold' : `show ${parts.length}`}
              <span className="sr-only"> of “{title}”</span>
            </button>
          )}
          {isLine && !writing && (
            <span className="flex gap-3">
              <button type="button" className={soft} onClick={() => setWriting(true)}>
                change<span className="sr-only"> “{title}”</span>
              </button>
              <button type="button" className={soft} onClick={() => void removeLine(id)}>
                take away<span className="sr-only"> “{title}”</span>
              </button>
            </span>
          )}
        </div>
      </div>
      {open && parts.length > 0 && (
        <ul className="mb-2 ml-[77px] border-l border-rule pl-3 max-md:ml-[62px]">
          {parts.map((part, index) => (
            <li key={index} className="flex flex-wrap gap-x-4 py-[2px]">
              <span className={kind === 'check-in' ? 'basis-full text-xs text-soft' : 'lg:w-[274px]'}>
                <Titled thing={part.thing} title={part.title} />
              </span>
              <span className={kind === 'check-in' ? 'whitespace-pre-wrap' : 'text-soft'}>{part.text}</span>
            </li>
          ))}
        </ul>
      )}
      {writing && (
        <div className="ml-[70px]">
          <LineForm
            label="The line"
            kept={`log-change-${id}`}
            first={title}
            most={5000}
            empty="Write what the line is to say."
            send={(line) => changeLine(id, line)}
            close={() => setWriting(false)}
          />
        </div>
      )}
    </li>
  );
}

/** A name that leads back to what it is the name of. */
function Titled({ thing, title }: { thing: LogThing | null; title: string }): ReactNode {
  const { pathname, search } = useLocation();
  const to = thing && addressOf(thing, pathname, search);
  return to ? (
    <Link
      to={to}
      state={thing.kind === 'task' || thing.kind === 'event' ? { sheet: true } : null}
      data-row
      className="underline-offset-2 hover:underline focus-visible:underline"
    >
      {title}
    </Link>
  ) : (
    title
  );
}

/** Where something is opened: tasks and events as sheets over the log. */
function addressOf({ kind, id, occurrence }: LogThing, pathname: string, search: string): string | null {
  const query = new URLSearchParams(search);
  switch (kind) {
    case 'task':
    case 'event':
      for (const one of ['task', 'event', 'date']) query.delete(one);
      query.set(kind, id);
      if (occurrence) query.set('date', occurrence);
      return `${pathname}?${query.toString()}`;
    case 'incoming':
      return `/sort/${id}`;
    case 'note':
      return `/notes/${id}`;
    case 'checkIn':
      return `/look-back/questions/${id}`;
    case 'line':
      return null;
  }
}

function colourOf(entry: LogEntryInfo, lists: readonly ListInfo[], calendars: readonly CalendarInfo[]): string {
  const hue = (lists.find(({ id }) => id === entry.listId) ?? calendars.find(({ id }) => id === entry.calendarId))?.hue;
  if (hue !== undefined) return `var(--hue-${hue})`;
  return {
    ...{ attended: 'var(--ink-soft)', done: 'var(--plum)', spent: 'var(--plum)', sorted: 'var(--teal)', sent: 'var(--teal)' },
    ...{ written: 'var(--ink)', line: 'transparent', pass: 'var(--rule)', 'check-in': 'var(--amber)', quiet: 'var(--plum)' },
  }[entry.kind];
}
