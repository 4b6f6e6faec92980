import type { AgendaEntry, CalendarInfo, ListInfo, Me } from '@corvun/contract';
import { sayMinutes, saySpan, sayTime } from '@corvun/core';
import { useDraggable } from '@dnd-kit/core';
import { Check, Repeat } from 'lucide-react';
import { useState, type KeyboardEvent, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { KEYS } from '../../keys';
import { Code, Deadline } from '../../parts/signs';
import { TickBox } from '../../parts/TickBox';
import { useSaid } from '../../state/said';
import { EntryMenu } from './EntryMenu';
import { HOUR, type Laid } from './grid';
import { isDone, step, tick, type Dragged } from './moves';

/** Keys on an entry: tick, original, and moving with the arrows after M. */
function useEntryKeys(entry: AgendaEntry, me: Me) {
  const navigate = useNavigate();
  const [moving, setMoving] = useState(false);
  const begin = () => {
    setMoving(true);
    useSaid
      .getState()
      .say('Arrow keys move it by 15 minutes or a day, Shift with ↑ ↓ makes it shorter or longer, Escape ends', 'none');
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const arrow = event.key.startsWith('Arrow');
    if (event.key === KEYS.entry.move && !entry.fixed) {
      if (!moving) begin();
      else {
        setMoving(false);
        useSaid.getState().say('Stays here', 'none');
      }
    } else if (moving && arrow) void step(entry, event.key, event.shiftKey, me);
    else if (moving && (event.key === 'Escape' || event.key === 'Enter')) setMoving(false);
    else if (event.key === KEYS.entry.tick && entry.taskId) void tick(entry);
    else if (event.key === KEYS.entry.original && entry.incomingId) void navigate(`/sort/${entry.incomingId}`);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return { moving, onKeyDown, begin: entry.fixed ? undefined : begin, stop: () => setMoving(false) };
}

interface SlipProps {
  me: Me;
  today: string;
  laid: Laid;
  calendars: CalendarInfo[];
  lists: ListInfo[];
  resizedTo: number | null;
}

/** An event or a block in the time grid. */
export function Slip({
  me,
  today,
  laid: { entry, from, to, column, columns },
  calendars,
  lists,
  resizedTo,
}: SlipProps): ReactNode {
  const { setNodeRef, listeners, isDragging } = useDraggable({
    id: `${entry.id}-${entry.start}`,
    data: { entry, what: 'move' } satisfies Dragged,
    disabled: entry.fixed !== null,
  });
  const { setNodeRef: setEdgeRef, listeners: edgeListeners } = useDraggable({
    id: `edge-${entry.id}-${entry.start}`,
    data: { entry, what: 'resize' } satisfies Dragged,
    disabled: entry.fixed !== null,
  });
  const { moving, onKeyDown, begin, stop } = useEntryKeys(entry, me);
  const calendar = calendars.find((one) => one.id === entry.calendarId);
  const list = lists.find((one) => one.id === entry.listId);
  const own = entry.kind === 'block';
  const tentative = entry.showAs === 'tentative';
  const free = entry.showAs === 'free' && !own;
  const hue = `var(--hue-${calendar?.hue ?? list?.hue ?? 0})`;
  const height = ((resizedTo ?? to - from) / 60) * HOUR;
  const looks = own
    ? 'border-[1.4px] border-plum bg-plum-wash text-ink'
    : tentative
      ? 'border-[1.4px] bg-card pl-[18px] text-ink'
      : free
        ? 'border border-dashed bg-card text-ink'
        : 'text-[var(--on-hue)]';
  const style = {
    top: (from / 60) * HOUR,
    height: Math.max(16, height - 1),
    left: `calc(${(column / columns) * 100}% + 3px)`,
    width: `calc(${100 / columns}% - 9px)`,
  };
  const [start, end] = [Date.parse(entry.start ?? ''), Date.parse(entry.end ?? '')];
  const times = resizedTo ? `${sayTime(start, me.zone)} – ${sayMinutes(resizedTo)}` : saySpan(start, end, me.zone);
  const code = own ? list?.code : calendar?.code;
  const more = ` ${times}${tentative ? ', not answered yet' : ''}${isDone(entry) ? ', done' : ''}${calendar ? `, ${calendar.name}` : ''}${entry.fixed ? ', from outside' : ''}`;
  return (
    <div className={`absolute z-[2] ${isDragging ? 'opacity-40' : ''}`} style={style} data-entry={entry.id}>
      <EntryMenu entry={entry} me={me} today={today} move={begin}>
        <button
          ref={setNodeRef}
          type="button"
          {...listeners}
          onKeyDown={onKeyDown}
          onBlur={stop}
          className={`relative flex size-full flex-col flex-wrap content-start justify-start gap-x-4 overflow-hidden rounded-sm px-[7px] py-[2px] text-left text-xs leading-[15px] ${moving ? 'outline-2 outline-dashed outline-teal' : ''} ${looks} ${isDone(entry) ? 'opacity-65' : ''}`}
          style={own ? {} : tentative || free ? { borderColor: hue } : { background: hue }}
        >
          {tentative && (
            <span
              className="absolute inset-y-0 left-0 w-3"
              style={{ background: `repeating-linear-gradient(45deg, ${hue} 0 3px, transparent 3px 6px)` }}
              aria-hidden="true"
            />
          )}
          {/* A line that does not fit whole begins a second column, which is out of sight: none is cut through. */}
          <span className="flex w-full items-start gap-1">
            {isDone(entry) && <Check size={13} className="shrink-0" aria-hidden="true" />}
            <b className={`font-semibold ${height < 40 ? 'truncate' : 'line-clamp-2'} ${isDone(entry) ? 'line-through' : ''}`}>
              {code && <span aria-hidden="true">{code} · </span>}
              <span className="sr-only">{own ? 'Block: ' : 'Event: '}</span>
              {entry.title}
              <span className="sr-only">{more}</span>
            </b>
            {entry.occurrence && <Repeat size={11} className="ml-auto shrink-0" aria-hidden="true" />}
          </span>
          {height >= 40 && (
            <span className={`block w-full truncate ${own ? 'text-soft' : ''}`} aria-hidden="true">
              {times}
              {tentative ? ' · not answered' : entry.location ? ` · ${entry.location}` : ''}
              {entry.deadline && columns === 1 && (
                <>
                  {' · '}
                  <Deadline deadline={entry.deadline} fixed={entry.deadlineFixed} today={today} />
                </>
              )}
            </span>
          )}
        </button>
      </EntryMenu>
      {!entry.fixed && (
        <span
          ref={setEdgeRef}
          {...edgeListeners}
          className="absolute inset-x-0 bottom-0 h-[6px] cursor-ns-resize touch-none"
          data-edge={entry.id}
          aria-hidden="true"
        />
      )}
    </div>
  );
}

/** A task with a day and no time, or an all-day event, under the head of its day. */
export function LooseTask({
  me,
  today,
  entry,
  calendars,
  lists,
}: Omit<SlipProps, 'laid' | 'resizedTo'> & { entry: AgendaEntry }): ReactNode {
  const { setNodeRef, listeners, isDragging } = useDraggable({
    id: `loose-${entry.kind}-${entry.id}-${entry.day}`,
    data: { entry, what: 'move' } satisfies Dragged,
    disabled: entry.fixed !== null || isDone(entry),
  });
  const { moving, onKeyDown, stop } = useEntryKeys(entry, me);
  const calendar = calendars.find((one) => one.id === entry.calendarId);
  const list = lists.find((one) => one.id === entry.listId);
  const mark = calendar ?? list;
  return (
    <li className={`flex items-center gap-[6px] text-xs leading-6 ${isDragging ? 'opacity-40' : ''}`} data-entry={entry.id}>
      {entry.kind === 'task' && <TickBox done={isDone(entry)} title={entry.title} onTick={() => void tick(entry)} />}
      <EntryMenu entry={entry} me={me} today={today}>
        <button
          ref={setNodeRef}
          type="button"
          {...listeners}
          onKeyDown={onKeyDown}
          onBlur={stop}
          className={`flex min-w-0 flex-1 items-baseline gap-1 text-left ${moving ? 'outline-2 outline-dashed outline-teal' : ''}`}
        >
          {mark && <Code code={mark.code} hue={mark.hue} />}
          <span className={`truncate ${isDone(entry) ? 'text-soft line-through' : ''}`}>{entry.title}</span>
          {entry.kind === 'task' && entry.minutes !== null && (
            <span className="ml-auto shrink-0 text-soft">{sayMinutes(entry.minutes)}</span>
          )}
        </button>
      </EntryMenu>
    </li>
  );
}
