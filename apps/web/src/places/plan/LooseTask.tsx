import type { AgendaEntry, CalendarInfo, ListInfo, Me } from '@corvun/contract';
import { sayMinutes, sayMoment, sayTime } from '@corvun/core';
import type { KeyboardEvent, ReactNode } from 'react';
import { ofCategory } from '../../parts/category';
import { Code } from '../../parts/signs';
import { useSettings } from '../../state/settings';
import { TickBox } from '../../parts/TickBox';
import { EntryButton, useEntryState } from './EntryButton';
import { isDone, tick } from './moves';

interface LooseProps {
  me: Me;
  now: number;
  today: string;
  entry: AgendaEntry;
  calendars: CalendarInfo[];
  lists: ListInfo[];
  /** With more room. */
  tall?: boolean;
  /** Something is about to be put before it. */
  before?: boolean;
  /** Heard before its own keys. */
  onKeyDownCapture?: (event: KeyboardEvent) => void;
}

/** A task with a day and no time, or an all-day event, under the head of its day. */
export function LooseTask({
  me,
  now,
  today,
  entry,
  calendars,
  lists,
  tall = false,
  before = false,
  onKeyDownCapture,
}: LooseProps): ReactNode {
  const { dragged, moving, marked } = useEntryState(entry);
  const timed = !entry.allDay && entry.kind !== 'task';
  const { faded, colourBy } = useSettings((state) => state.plan);
  const own = calendars.find((one) => one.id === entry.calendarId) ?? lists.find((one) => one.id === entry.listId);
  const mark = colourBy === 'category' && entry.category ? ofCategory(entry.category) : own;
  return (
    <li
      className={`relative flex items-center gap-[6px] text-xs ${tall ? 'border-b border-rule py-1 leading-5' : 'leading-6'} ${dragged || faded.includes(entry.calendarId ?? '') ? 'opacity-45' : ''} ${marked ? 'bg-teal-wash outline outline-teal' : ''} ${before ? 'shadow-[inset_0_2px_0_var(--teal)]' : ''}`}
      onKeyDownCapture={onKeyDownCapture}
      data-entry={entry.id}
      data-of={entry.taskId ?? entry.id}
      {...(entry.kind === 'task' && { 'data-loose': '' })}
    >
      {(entry.kind === 'task' || (tall && entry.taskId)) && (
        <TickBox done={isDone(entry)} title={entry.title} onTick={() => void tick(entry)} />
      )}
      <EntryButton
        {...{ me, now, today, entry }}
        loose={entry.fixed === null && !isDone(entry)}
        className={`flex min-w-0 flex-1 items-baseline gap-1 text-left ${moving ? 'outline-2 outline-dashed outline-teal' : ''}`}
      >
        {mark && <Code code={mark.code} hue={mark.hue} />}
        {entry.kind === 'task' && entry.deadline && (
          <span
            className={`peg shrink-0 ${entry.deadlineFixed ? 'peg-fixed' : ''} ${entry.deadline.slice(0, 10) < today ? 'text-amber' : ''}`}
            title={`Due ${sayMoment(entry.deadline, today)}`}
          >
            <span className="sr-only">
              due {sayMoment(entry.deadline, today)}, {entry.deadlineFixed ? 'fixed' : 'flexible'}:{' '}
            </span>
          </span>
        )}
        {timed && !tall && <span className="shrink-0 text-soft">{sayTime(Date.parse(entry.start ?? ''), me.zone)}</span>}
        <span className={`min-w-0 ${tall ? 'flex-1' : 'truncate'}`}>
          <span className={`${tall ? 'line-clamp-2' : ''} ${isDone(entry) ? 'text-soft line-through' : ''}`}>{entry.title}</span>
          {tall && (
            <span className="block text-soft">
              {[
                ...(timed ? [sayTime(Date.parse(entry.start ?? ''), me.zone)] : []),
                ...(entry.minutes === null ? [] : [sayMinutes(entry.minutes)]),
              ].join(' · ')}
            </span>
          )}
        </span>
        {marked && <span className="sr-only">, marked</span>}
        {entry.kind === 'task' && !tall && entry.minutes !== null && (
          <span className="ml-auto shrink-0 text-soft">{sayMinutes(entry.minutes)}</span>
        )}
      </EntryButton>
    </li>
  );
}
