import type { Me } from '@corvun/contract';
import { addDays, dayOf, firstShown, isDay, sayDay, weekOf } from '@corvun/core';
import {
  DndContext,
  DragOverlay,
  PointerSensor,
  useSensor,
  useSensors,
  type DragEndEvent,
  type DragMoveEvent,
  type DragStartEvent,
} from '@dnd-kit/core';
import { ChevronLeft, ChevronRight } from 'lucide-react';
import { useRef, useState, type ReactNode } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { useCalendars, useDays, useLists } from '../../data/queries';
import { KEYS } from '../../keys';
import { Failed, Waiting } from '../../parts/states';
import { useKeys } from '../../parts/useKeys';
import { useNow } from '../../parts/useNow';
import { useNarrow } from '../../parts/useNarrow';
import { useSettings } from '../../state/settings';
import { HOUR, minutesOf, snap } from './grid';
import { Layers } from './Layers';
import { place, type Dragged, type Target } from './moves';
import { TimeGrid } from './TimeGrid';

const COUNTS = [1, 2, 3, 5, 7] as const;
/** Days and weeks against the time that is really free. */
export function PlanPlace({ me }: { me: Me }): ReactNode {
  const navigate = useNavigate();
  const params = useParams();
  const now = useNow();
  const today = dayOf(now, me.zone);
  const narrow = useNarrow();
  const { planDays, setPlanDays } = useSettings();
  const count = narrow ? 1 : planDays;
  const anchor = params.day && isDay(params.day) ? params.day : today;
  const first = firstShown(anchor, count, me.settings);
  const days = useDays(first, count);
  const calendars = useCalendars();
  const lists = useLists();
  const [dragged, setDragged] = useState<Dragged | null>(null);
  const [target, setTarget] = useState<Target | null>(null);
  const columns = useRef<HTMLDivElement>(null);

  const go = (by: number) => void navigate(`/plan/${addDays(count >= 5 ? first : anchor, by * (count >= 5 ? 7 : count))}`);
  useKeys({ [KEYS.plan.earlier]: () => go(-1), [KEYS.plan.later]: () => go(1), [KEYS.plan.today]: () => void navigate('/plan') });

  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 5 } }));
  const onDragStart = ({ active }: DragStartEvent) => setDragged(active.data.current as Dragged);
  const { snap: step } = me.settings;
  const onDragMove = (event: DragMoveEvent) => setTarget(targetOf(event, columns.current, step));
  const onDragEnd = (event: DragEndEvent) => {
    const reached = targetOf(event, columns.current, step);
    const { entry } = event.active.data.current as Dragged;
    setDragged(null);
    setTarget(null);
    if (reached) void place(entry, reached, me.zone);
  };

  const last = addDays(first, count - 1);
  const heading =
    count === 1
      ? sayDay(first, today)
      : `${sayDay(first, today).replace(/^\w+ /, '')} – ${sayDay(last, today).replace(/^\w+ /, '')}`;
  if (days.isPending) return <Waiting what="Opening the plan" />;
  if (days.error && !days.data) return <Failed problem={days.error} retry={() => void days.refetch()} />;
  return (
    <div className="flex h-full flex-col">
      <div className="flex h-11 shrink-0 items-center gap-4 border-b border-rule px-[18px] max-md:gap-2 max-md:px-3">
        <h1 className="font-head text-[20px] font-semibold whitespace-nowrap">
          <span className="sr-only">Plan, </span>
          {heading}
        </h1>
        <span className="text-soft max-md:hidden">week {Number(weekOf(first).slice(6))}</span>
        <div className="flex items-center text-soft">
          <button
            type="button"
            className="grid size-8 place-items-center hover:text-ink"
            aria-label="Earlier"
            onClick={() => go(-1)}
          >
            <ChevronLeft size={17} aria-hidden="true" />
          </button>
          <button type="button" className="px-1 hover:text-ink" onClick={() => void navigate('/plan')}>
            today
          </button>
          <button
            type="button"
            className="grid size-8 place-items-center hover:text-ink"
            aria-label="Later"
            onClick={() => go(1)}
          >
            <ChevronRight size={17} aria-hidden="true" />
          </button>
        </div>
        {!narrow && (
          <div role="radiogroup" aria-label="How many days" className="flex border border-rule">
            {COUNTS.map((number) => (
              <button
                key={number}
                type="button"
                role="radio"
                aria-checked={number === planDays}
                className={`border-l border-rule px-[10px] py-[3px] first:border-l-0 ${number === planDays ? 'bg-ink text-paper' : 'text-soft hover:text-ink'}`}
                onClick={() => setPlanDays(number)}
              >
                {number === 7 ? '7 days' : number}
              </button>
            ))}
          </div>
        )}
        <div className="ml-auto">
          <Layers />
        </div>
      </div>
      {days.data.every((day) => day.entries.length === 0) && (
        <p className="shrink-0 border-b border-rule px-[18px] py-2 text-soft max-md:px-3">
          Nothing stands on these days. Put something on a day or give it time on{' '}
          <Link to="/sort" className="underline underline-offset-2">
            Sort
          </Link>{' '}
          or{' '}
          <Link to="/lists" className="underline underline-offset-2">
            Lists
          </Link>
          , or{' '}
          <Link to="/sources/files" className="underline underline-offset-2">
            take a calendar in
          </Link>
          .
        </p>
      )}
      <DndContext
        sensors={sensors}
        onDragStart={onDragStart}
        onDragMove={onDragMove}
        onDragEnd={onDragEnd}
        onDragCancel={() => {
          setDragged(null);
          setTarget(null);
        }}
        autoScroll={{ threshold: { x: 0, y: 0.12 } }}
      >
        <TimeGrid
          ref={columns}
          me={me}
          now={now}
          days={days.data}
          calendars={calendars.data ?? []}
          lists={lists.data ?? []}
          dragged={dragged}
          target={target}
        />
        <DragOverlay dropAnimation={null}>
          {dragged?.what === 'move' && (
            <div className="w-40 truncate border border-dashed border-plum bg-plum-wash px-2 py-1 text-xs font-semibold opacity-90">
              {dragged.entry.title}
            </div>
          )}
        </DragOverlay>
      </DndContext>
    </div>
  );
}

/** Where a drag has got to: a day, and the minute of it, or no minute over the head of a day. */
function targetOf(
  { active, delta, activatorEvent }: DragMoveEvent | DragEndEvent,
  columns: HTMLDivElement | null,
  step: number,
): Target | null {
  const { entry, what } = active.data.current as Dragged;
  const pointer = activatorEvent as PointerEvent;
  const [x, y] = [pointer.clientX + delta.x, pointer.clientY + delta.y];
  const column = [...(columns?.querySelectorAll<HTMLElement>('[data-day]') ?? [])].find((one) => {
    const box = one.getBoundingClientRect();
    return x >= box.left && x < box.right && y >= box.top && y <= box.bottom;
  });
  if (what === 'resize') {
    const minutes = snap(minutesOf(entry) + (delta.y / HOUR) * 60, step);
    return { day: entry.day, from: null, minutes: Math.max(step, minutes), what };
  }
  const day = column?.dataset['day'];
  if (!column || !day) return null;
  const grid = column.querySelector<HTMLElement>('[data-grid]');
  const top = grid?.getBoundingClientRect().top ?? 0;
  const head = columns?.querySelector<HTMLElement>(`[data-head="${day}"]`)?.getBoundingClientRect();
  const overHead = head ? y <= head.bottom : y < top;
  if (overHead) return { day, from: null, minutes: minutesOf(entry), what };
  const grip =
    entry.kind === 'task' || entry.allDay ? 8 : pointer.clientY - (active.rect.current.initial?.top ?? pointer.clientY);
  const from = snap(((y - grip - top) / HOUR) * 60, step);
  return { day, from: Math.min(1440 - step, Math.max(0, from)), minutes: minutesOf(entry), what };
}
