import type { AgendaEntry, CalendarInfo, ListInfo, Me } from '@corvun/contract';
import { sayMinutes, saySpan, sayTime } from '@corvun/core';
import { useDraggable } from '@dnd-kit/core';
import { Check, Repeat } from 'lucide-react';
import { memo, type ReactNode } from 'react';
import { ofCategory } from '../../parts/category';
import { Deadline } from '../../parts/signs';
import { useSettings } from '../../state/settings';
import { EntryButton, useEntryState } from './EntryButton';
import { Brackets, sayBuffer } from './Brackets';
import { minuteOn, useHour, type Laid } from './grid';
import { isDone } from './moves';
import type { Placing } from './planning';

interface SlipProps {
  me: Me;
  now: number;
  today: string;
  day: string;
  laid: Laid;
  calendars: CalendarInfo[];
  lists: ListInfo[];
  resizedTo: number | null;
}

/** An event or a block in the time grid. What it is dragged by is told of every drag; what it shows is drawn anew only when that changed. */
export const Slip = memo(function Slip(props: SlipProps): ReactNode {
  const { entry } = props.laid;
  const { setNodeRef, listeners, isDragging } = useDraggable({
    id: `${entry.id}-${entry.start}`,
    data: { entry, what: 'move' } satisfies Placing,
    disabled: entry.fixed !== null,
  });
  return <Face {...props} setNodeRef={setNodeRef} listeners={listeners} isDragging={isDragging} />;
});

/** The lower edge, by which it is made longer or shorter. */
function Edge({ entry }: { entry: AgendaEntry }): ReactNode {
  const { setNodeRef, listeners } = useDraggable({
    id: `edge-${entry.id}-${entry.start}`,
    data: { entry, what: 'resize' } satisfies Placing,
  });
  return (
    <span
      ref={setNodeRef}
      {...listeners}
      className="absolute inset-x-0 bottom-0 h-[6px] cursor-ns-resize touch-none"
      data-edge={entry.id}
      aria-hidden="true"
    />
  );
}

type FaceProps = SlipProps & Pick<ReturnType<typeof useDraggable>, 'setNodeRef' | 'listeners' | 'isDragging'>;

const Face = memo(function Face({
  me,
  now,
  today,
  day,
  laid: { entry, from, to, column, columns },
  calendars,
  lists,
  resizedTo,
  setNodeRef,
  listeners,
  isDragging,
}: FaceProps): ReactNode {
  const hour = useHour();
  const { moving, marked } = useEntryState(entry);
  const calendar = calendars.find((one) => one.id === entry.calendarId);
  const list = lists.find((one) => one.id === entry.listId);
  const own = entry.kind === 'block';
  const quiet = entry.blockKind === 'quiet' || entry.blockKind === 'break';
  const tentative = entry.showAs === 'tentative';
  const free = entry.showAs === 'free';
  const { faded, colourBy } = useSettings((state) => state.plan);
  const category = colourBy === 'category' && entry.category ? ofCategory(entry.category) : null;
  const soft = faded.includes(entry.calendarId ?? '');
  const hue = `var(--hue-${category?.hue ?? calendar?.hue ?? list?.hue ?? 0})`;
  const height = ((resizedTo ?? to - from) / 60) * hour;
  const looks = own
    ? `border-[1.4px] border-plum text-ink ${quiet ? 'border-dashed bg-paper/80' : free ? 'border-dotted bg-plum-wash' : 'bg-plum-wash'}`
    : tentative
      ? 'border-[1.4px] bg-card pl-[18px] text-ink'
      : entry.mirrored
        ? 'border bg-card pl-[18px] text-ink'
        : free
          ? 'border border-dashed bg-card text-ink'
          : 'text-[var(--on-hue)]';
  const style = {
    top: (from / 60) * hour,
    height: Math.max(16, height - 1),
    left: `calc(${(column / columns) * 100}% + 3px)`,
    width: `calc(${100 / columns}% - 9px)`,
  };
  const [start, end] = [Date.parse(entry.start ?? ''), Date.parse(entry.end ?? '')];
  const times = resizedTo ? `${sayTime(start, me.zone)} – ${sayMinutes(resizedTo)}` : saySpan(start, end, me.zone);
  const code = own ? list?.code : (category?.code ?? calendar?.code);
  const stillOpen = own && entry.taskId !== null && !isDone(entry) && end <= now;
  const more = ` ${times}${tentative ? (entry.guests ? ', tentative' : ', not answered yet') : ''}${isDone(entry) ? ', done' : ''}${stillOpen ? ', still open' : ''}${own && free ? ', free to others' : ''}${marked ? ', marked' : ''}${calendar ? `, ${calendar.name}` : ''}${entry.category ? `, ${entry.category}` : ''}${entry.mirrored ? ', a copy' : entry.fixed ? ', from outside' : ''}${entry.buffers.map((one) => `, ${sayBuffer(one)}`).join('')}`;
  const minute = (iso: string) => (minuteOn(iso, day, me.zone) / 60) * hour;
  return (
    <>
      {resizedTo === null && !isDragging && (
        <Brackets entry={entry} at={minute} hue={hue} left={style.left} width={style.width} />
      )}
      <div
        className={`absolute ${entry.blockKind === 'quiet' ? 'z-[1]' : 'z-[2]'} ${isDragging ? 'opacity-40' : ''}`}
        style={style}
        data-entry={entry.id}
      >
        <EntryButton
          {...{ me, now, today, entry }}
          drag={{ setNodeRef, listeners }}
          className={`relative flex size-full flex-col flex-wrap content-start justify-start gap-x-4 overflow-hidden rounded-sm px-[7px] py-[2px] text-left text-xs leading-[15px] ${moving ? 'outline-2 outline-dashed outline-teal' : marked ? 'outline-2 outline-offset-1 outline-teal' : ''} ${looks} ${soft ? 'opacity-45' : isDone(entry) ? 'opacity-65' : ''}`}
          style={own ? {} : tentative || free || entry.mirrored ? { borderColor: hue } : { background: hue }}
        >
          {tentative && (
            <span
              className="absolute inset-y-0 left-0 w-3"
              style={{ background: `repeating-linear-gradient(45deg, ${hue} 0 3px, transparent 3px 6px)` }}
              aria-hidden="true"
            />
          )}
          {entry.mirrored && !tentative && (
            <span
              className="absolute inset-y-0 left-0 w-3"
              style={{ background: `radial-gradient(${hue} 1.4px, transparent 1.8px) 0 0 / 6px 6px` }}
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
              {stillOpen && <b className="font-semibold text-amber">still open · </b>}
              {times}
              {tentative ? (entry.guests ? ' · tentative' : ' · not answered') : entry.location ? ` · ${entry.location}` : ''}
              {own && free && ' · free to others'}
              {entry.deadline && columns === 1 && (
                <>
                  {' · '}
                  <Deadline deadline={entry.deadline} fixed={entry.deadlineFixed} today={today} />
                </>
              )}
            </span>
          )}
        </EntryButton>
        {!entry.fixed && <Edge entry={entry} />}
      </div>
    </>
  );
});
