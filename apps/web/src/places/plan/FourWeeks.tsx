import type { DayInfo } from '@corvun/contract';
import { addDays, dayOf, daysBetween, sayDay, weekOf } from '@corvun/core';
import { Popover } from 'radix-ui';
import { useRef, useState, type KeyboardEvent, type PointerEvent, type ReactNode, type Ref } from 'react';
import { useNavigate } from 'react-router';
import { LoadBar } from '../../parts/LoadBar';
import type { ColumnProps } from './DayColumn';
import { Asking } from './Asking';
import { DueLine } from './DueLine';
import { LooseTask } from './LooseTask';
import { useGestures } from './useGestures';

/** Height of a line of a cell, and of its head, in pixels. */
const LINE = 24;
const HEAD = 26;
const LEAST = 112;

type WeeksProps = ColumnProps & { ref: Ref<HTMLDivElement>; days: DayInfo[] };

/** Four weeks: every day with its load and what stands on it; what has no room opens in place. */
export function FourWeeks({ ref, ...props }: WeeksProps): ReactNode {
  const { me, now, days, making } = props;
  const today = dayOf(now, me.zone);
  const scroller = useRef<HTMLDivElement>(null);
  const [drawn, setDrawn] = useState<{ from: string; to: string } | null>(null);
  const [reached, setReached] = useState<string | null>(null);
  useGestures(scroller, props.turn);
  const weeks = [...new Set(days.map((day) => weekOf(addDays(day.day, me.settings.weekStart === 7 ? 1 : 0))))];
  const across = Math.max(1, Math.ceil(days.length / Math.max(1, weeks.length)));
  const first =
    reached !== null && days.some((day) => day.day === reached)
      ? reached
      : (days.find((day) => day.day === today) ?? days[0])?.day;
  const cellAt = (event: PointerEvent) =>
    document.elementsFromPoint(event.clientX, event.clientY).find((one) => (one as HTMLElement).dataset['cell']) as
      HTMLElement | undefined;
  const begin = (event: PointerEvent<HTMLElement>, day: string) => {
    if (event.button !== 0 || event.pointerType === 'touch' || (event.target as Element).closest('button,li')) return;
    setDrawn({ from: day, to: day });
  };
  const end = () => {
    if (!drawn) return;
    const [from, to] = [drawn.from, drawn.to].sort();
    setDrawn(null);
    if (from && to && from !== to) making.begin({ day: from, from: null, minutes: (daysBetween(from, to) + 1) * 1440 });
  };
  const go = (event: KeyboardEvent<HTMLElement>, day: string) => {
    const by = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -across, ArrowDown: across }[event.key];
    if (!by || event.target !== event.currentTarget) return;
    event.preventDefault();
    event.stopPropagation();
    const next = days[days.findIndex((one) => one.day === day) + by]?.day;
    if (!next) return props.turn(Math.sign(by));
    setReached(next);
    scroller.current?.querySelector<HTMLElement>(`[data-cell="${next}"]`)?.focus();
  };
  return (
    <div ref={scroller} className="relative min-h-0 flex-1 overflow-y-auto" tabIndex={-1}>
      <div
        ref={ref}
        role="grid"
        aria-label="Four weeks"
        tabIndex={-1}
        className="grid h-full"
        style={{ gridTemplateRows: `repeat(${weeks.length}, minmax(0, 1fr))`, minHeight: weeks.length * LEAST }}
        onPointerMove={(event) => {
          const day = drawn && cellAt(event)?.dataset['cell'];
          if (drawn && day && day !== drawn.to) setDrawn({ ...drawn, to: day });
        }}
        onPointerUp={end}
        onPointerLeave={() => setDrawn(null)}
      >
        {weeks.map((week, at) => (
          <div
            key={week}
            role="row"
            className="grid min-h-0 border-b border-rule"
            style={{ gridTemplateColumns: `repeat(${across}, minmax(0, 1fr))` }}
          >
            {days.slice(at * across, (at + 1) * across).map((day) => (
              <Cell
                key={day.day}
                {...props}
                day={day}
                today={today}
                reached={day.day === first}
                drawn={drawn !== null && between(day.day, drawn.from, drawn.to)}
                begin={(event) => begin(event, day.day)}
                onKeyDown={(event) => go(event, day.day)}
              />
            ))}
          </div>
        ))}
      </div>
    </div>
  );
}

const between = (day: string, a: string, b: string) => (a < b ? day >= a && day <= b : day >= b && day <= a);

interface CellProps extends ColumnProps {
  day: DayInfo;
  today: string;
  /** Whether Tab reaches it. */
  reached: boolean;
  drawn: boolean;
  begin: (event: PointerEvent<HTMLElement>) => void;
  onKeyDown: (event: KeyboardEvent<HTMLElement>) => void;
}

/** One day: its load, and as many of its entries as there is room for. */
function Cell({ day, today, reached, drawn, begin, onKeyDown, ...props }: CellProps): ReactNode {
  const { me, now, calendars, lists, target, placing, making, dues } = props;
  const navigate = useNavigate();
  const cell = useRef<HTMLDivElement>(null);
  const [height, setHeight] = useState(LEAST);
  const own = dues(day);
  const lines = Math.max(1, Math.floor((height - HEAD) / LINE));
  const all = day.entries.length + own.length;
  const room = all > lines ? lines - 1 : lines;
  const over = target?.day === day.day && placing !== null;
  const entries = (some: typeof day.entries) =>
    some.map((entry) => (
      <LooseTask
        key={`${entry.kind}${entry.id}${entry.start}`}
        me={me}
        now={now}
        today={today}
        entry={entry}
        calendars={calendars}
        lists={lists}
      />
    ));
  return (
    <div
      ref={(element) => {
        cell.current = element;
        if (!element) return undefined;
        const observer = new ResizeObserver(() => setHeight(element.clientHeight));
        observer.observe(element);
        return () => observer.disconnect();
      }}
      role="gridcell"
      data-cell={day.day}
      tabIndex={reached ? 0 : -1}
      className={`relative min-w-0 overflow-hidden border-l border-rule px-2 first:border-l-0 focus-visible:z-[1] ${drawn || over ? 'bg-teal-wash' : day.load.over > 0 ? 'bg-amber-wash' : day.working.length ? '' : 'outside-hours'}`}
      onPointerDown={begin}
      onDoubleClick={(event) =>
        !(event.target as Element).closest('button') && making.begin({ day: day.day, from: null, minutes: 1440 })
      }
      onKeyDown={(event) => {
        if (event.key === 'Enter' && event.target === event.currentTarget) void navigate(`/plan/${day.day}`);
        else onKeyDown(event);
      }}
    >
      <div className="flex h-[26px] items-center justify-between gap-2">
        <h2 className={`font-head text-[14px] font-semibold whitespace-nowrap ${day.day === today ? 'text-teal' : ''}`}>
          <span className="max-md:sr-only">{sayDay(day.day, today)}</span>
          <span className="md:hidden" aria-hidden="true">
            {Number(day.day.slice(8))}
          </span>
        </h2>
        {day.off ? (
          <span className="truncate text-xs text-soft">{day.off}</span>
        ) : (
          <span className="max-md:hidden">
            <LoadBar load={day.load} />
          </span>
        )}
      </div>
      <ul className="bg-transparent">
        {own.slice(0, room).map((task) => (
          <DueLine key={task.id} task={task} today={today} lists={lists} />
        ))}
        {entries(day.entries.slice(0, Math.max(0, room - own.length)))}
      </ul>
      {all > room && (
        <Popover.Root>
          <Popover.Trigger className="min-h-6 text-xs text-soft underline underline-offset-2 hover:text-ink">
            {all - room} more
            <span className="sr-only"> on {sayDay(day.day, today)}</span>
          </Popover.Trigger>
          <Popover.Portal>
            <Popover.Content
              align="start"
              sideOffset={2}
              collisionPadding={8}
              aria-label={sayDay(day.day, today)}
              className="z-30 max-h-[60vh] w-[280px] overflow-y-auto border border-ink bg-card p-2 shadow-lg"
            >
              <b className="font-head font-semibold">{sayDay(day.day, today)}</b>
              <ul>
                {own.map((task) => (
                  <DueLine key={task.id} task={task} today={today} lists={lists} />
                ))}
                {entries(day.entries)}
              </ul>
            </Popover.Content>
          </Popover.Portal>
        </Popover.Root>
      )}
      <Asking day={day} {...props} />
    </div>
  );
}
