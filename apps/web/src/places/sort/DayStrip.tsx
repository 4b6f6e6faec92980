import type { AgendaEntry, CalendarInfo, DayInfo, ListInfo, Me } from '@corvun/contract';
import { sayDay, sayHour, sayMinutes, sayTime, wallOf, type NumberedGap } from '@corvun/core';
import { stillFree } from '../../parts/gaps';
import { useDroppable } from '@dnd-kit/core';
import { memo, type CSSProperties, type ReactNode } from 'react';
import { useCalendars, useLists } from '../../data/queries';
import { useOpenTask } from '../../sheets/open';
import { sayBuffer } from '../plan/Brackets';
import { layOut, minutesOf } from '../plan/grid';
import { FROM, TO, type Ghost } from './stripGhost';

interface StripProps {
  me: Me;
  now: number;
  days: DayInfo[];
  /** Gaps that fit, numbered, when a time is being chosen. */
  lit: NumberedGap[];
  /** Starts of the gaps that are taken already, where several are chosen. */
  taken: readonly number[];
  place: (gap: NumberedGap) => void;
  /** Where what is dragged would stand. */
  ghost: Ghost | null;
}

/** The next days with their gaps: does it fit? */
export const DayStrip = memo(function DayStrip({ me, now, days, lit, taken, place, ghost }: StripProps): ReactNode {
  const calendars = useCalendars();
  const lists = useLists();
  return (
    <section
      aria-label="Day strip"
      className="grid h-32 shrink-0 grid-cols-[1.7fr_repeat(4,1fr)] border-t border-ink max-md:grid-cols-1 max-md:overflow-hidden"
    >
      {days.map((day, at) => (
        <StripDay
          key={day.day}
          me={me}
          now={now}
          day={day}
          first={at === 0}
          lit={lit.filter((gap) => wallOf(gap.start, me.zone).slice(0, 10) === day.day)}
          taken={taken}
          place={place}
          ghost={ghost?.day === day.day ? ghost : null}
          calendars={calendars.data ?? []}
          lists={lists.data ?? []}
        />
      ))}
    </section>
  );
});

interface DayProps extends Omit<StripProps, 'days'> {
  day: DayInfo;
  first: boolean;
  calendars: CalendarInfo[];
  lists: ListInfo[];
}

const minuteOf = (instant: number, me: Me, day: string) => {
  const wall = wallOf(instant, me.zone);
  if (wall.slice(0, 10) < day) return 0;
  if (wall.slice(0, 10) > day) return 1440;
  return Number(wall.slice(11, 13)) * 60 + Number(wall.slice(14, 16));
};

/** Height of what is on a day of the strip, in pixels. */
const TALL = 58;
/** Pixels that can be hit, and minutes from which a block is as wide. */
const HIT = 24;
const LEAST_HIT = 90;

function StripDay({ me, now, day, first, lit, taken, place, ghost, calendars, lists }: DayProps): ReactNode {
  const { setNodeRef } = useDroppable({ id: `strip-${day.day}`, data: { strip: day } });
  const at = (instant: number) =>
    Math.min(100, Math.max(0, ((minuteOf(instant, me, day.day) - FROM * 60) / ((TO - FROM) * 60)) * 100));
  const inView = (start: string, end: string) =>
    minuteOf(Date.parse(end), me, day.day) > FROM * 60 && minuteOf(Date.parse(start), me, day.day) < TO * 60;
  const { over } = day.load;
  const timed = day.entries.filter(
    (entry) => entry.kind !== 'task' && !entry.allDay && entry.start && entry.end && inView(entry.start, entry.end),
  );
  const today = wallOf(now, me.zone).slice(0, 10);
  return (
    <div
      className={`@container relative min-w-0 border-r border-rule px-[10px] pt-[6px] last:border-r-0 ${first ? '' : 'max-md:hidden'}`}
    >
      <header className="flex items-baseline justify-between gap-2 @max-[150px]:text-[13px]">
        <b className="shrink-0 font-head font-semibold">
          {day.day === today ? `Today, ${sayDay(day.day, today)}` : sayDay(day.day, today)}
        </b>
        <span
          className={`truncate text-xs ${(ghost ? ghost.over.length : over) > 0 ? 'text-amber' : ghost ? 'text-teal' : 'text-soft'}`}
        >
          {ghost ? (
            sayGhost(ghost, me)
          ) : (
            <>
              {sayMinutes(over > 0 ? over : stillFree(day, now))}
              {over > 0 ? ' over' : <span className="@max-[150px]:sr-only"> free</span>}
            </>
          )}
        </span>
      </header>
      <div
        ref={setNodeRef}
        className="relative mt-1 h-[72px] border-b border-soft bg-[repeating-linear-gradient(90deg,var(--rule)_0_1px,transparent_1px_10%)]"
      >
        {day.unseen.map(({ start, end }) => (
          <span
            key={start}
            className="taken-unseen absolute inset-y-0"
            title="taken by what is hidden"
            style={{ left: `${at(Date.parse(start))}%`, width: `${at(Date.parse(end)) - at(Date.parse(start))}%` }}
          />
        ))}
        {day.entries
          .flatMap(({ buffers }) => buffers)
          .filter(({ minutes, start, end }) => minutes > 0 && inView(start, end))
          .map((one) => (
            <span
              key={one.kind + one.start}
              className="absolute bottom-0 h-[14px] border-t-2 border-soft"
              title={sayBuffer(one)}
              style={{ left: `${at(Date.parse(one.start))}%`, width: `${at(Date.parse(one.end)) - at(Date.parse(one.start))}%` }}
            />
          ))}
        {layOut(timed, day.day, me.zone).map(({ entry, column, columns }) => (
          <Slip
            key={entry.id + entry.start}
            entry={entry}
            choosing={lit.length > 0}
            style={{
              left: `${at(Date.parse(entry.start ?? ''))}%`,
              width: `${at(Date.parse(entry.end ?? '')) - at(Date.parse(entry.start ?? ''))}%`,
              // What is at the same time stands one above the other.
              height: TALL / columns,
              bottom: (TALL / columns) * column,
            }}
            calendars={calendars}
            lists={lists}
          />
        ))}
        {lit.map((gap) => (
          <LitGap
            key={gap.number}
            gap={gap}
            me={me}
            taken={taken.includes(gap.slot.start)}
            place={place}
            over={ghost !== null && ghost.start >= gap.slot.start && ghost.start < gap.end}
            style={{ left: `${at(gap.slot.start)}%`, width: `${at(gap.end) - at(gap.slot.start)}%` }}
          />
        ))}
        {ghost && (
          <span
            className={`pointer-events-none absolute bottom-0 z-[2] h-[58px] border-2 border-dashed ${ghost.over.length ? 'border-amber' : 'border-teal'}`}
            style={{ left: `${at(ghost.start)}%`, width: `${at(ghost.end) - at(ghost.start)}%` }}
            aria-hidden="true"
          />
        )}
        {day.day === today && (
          <span className="absolute inset-y-0 w-[2px] bg-brick" style={{ left: `${at(now)}%` }} aria-hidden="true" />
        )}
      </div>
      <div className="flex justify-between text-xs text-soft" aria-hidden="true">
        {(first ? [8, 10, 12, 14, 16, 18] : [8, 13, 18]).map((hour) => (
          <span key={hour}>{sayHour(hour)}</span>
        ))}
      </div>
    </div>
  );
}

const sayGhost = ({ start, end, over }: Ghost, { zone }: Me): string =>
  `${sayTime(start, zone)}–${sayTime(end, zone)}${over.length ? `, taken by ${over[0]}${over.length > 1 ? ` and ${over.length - 1} more` : ''}` : ''}`;

function Slip({
  entry,
  choosing,
  style,
  calendars,
  lists,
}: {
  entry: AgendaEntry;
  /** Whether a gap is being chosen: then only gaps are pressed. */
  choosing: boolean;
  style: CSSProperties;
  calendars: CalendarInfo[];
  lists: ListInfo[];
}): ReactNode {
  const openTask = useOpenTask();
  const calendar = calendars.find((one) => one.id === entry.calendarId);
  const list = lists.find((one) => one.id === entry.listId);
  const own = entry.kind === 'block';
  const code = own ? (list?.code ?? '') : (calendar?.code ?? '');
  const hue = `var(--hue-${calendar?.hue ?? 0})`;
  const tentative = entry.showAs === 'tentative';
  const free = entry.showAs === 'free' && !own;
  const looks = free
    ? 'border border-b-0 border-dashed text-soft'
    : own
      ? 'border border-b-0 border-plum bg-plum-wash text-plum'
      : tentative
        ? 'border border-b-0 bg-card text-ink'
        : 'text-[var(--on-hue)]';
  const colour = own
    ? {}
    : free
      ? { borderColor: hue }
      : tentative
        ? {
            borderColor: hue,
            backgroundImage: `repeating-linear-gradient(45deg, ${hue} 0 3px, transparent 3px 6px)`,
            backgroundSize: '100% 14px',
            backgroundRepeat: 'no-repeat',
            backgroundPosition: 'bottom',
          }
        : { background: hue };
  // What is too small to be hit (WCAG 2.2, 2.5.8) is opened on Plan.
  const opens = entry.taskId && !choosing && Number(style.height) >= HIT && minutesOf(entry) >= LEAST_HIT ? entry.taskId : null;
  const Part = opens ? 'button' : 'span';
  return (
    <Part
      {...(opens ? { type: 'button' as const, onClick: () => openTask(opens) } : {})}
      className={`@container absolute overflow-hidden rounded-t-sm pt-[2px] text-xs leading-[13px] ${looks} ${entry.status === 'COMPLETED' ? 'opacity-60' : ''}`}
      style={{ ...style, ...colour }}
      title={`${entry.title}${tentative ? ', not answered yet' : ''}`}
    >
      {/* A code that does not fit whole is left out. */}
      <span className={`hidden px-[3px] @min-[22px]:inline ${entry.status === 'COMPLETED' ? 'line-through' : ''}`}>{code}</span>
      <span className="sr-only"> {entry.title}</span>
    </Part>
  );
}

function LitGap({
  gap,
  me,
  taken,
  place,
  over,
  style,
}: {
  gap: NumberedGap;
  me: Me;
  taken: boolean;
  place: (gap: NumberedGap) => void;
  /** What is dragged would stand in it. */
  over: boolean;
  style: CSSProperties;
}): ReactNode {
  return (
    <button
      type="button"
      style={style}
      onClick={() => place(gap)}
      data-over={over || undefined}
      aria-pressed={taken || undefined}
      aria-label={`${gap.number}: ${wallOf(gap.slot.start, me.zone).replace('T', ' at ')}`}
      className={`absolute bottom-0 h-[48px] border border-b-0 border-dashed border-teal font-head font-bold ${taken ? 'bg-teal text-on-teal' : 'bg-teal-wash text-teal hover:bg-card'}`}
    >
      {gap.number}
    </button>
  );
}
