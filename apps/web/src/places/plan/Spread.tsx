import type { AgendaEntry, DayInfo } from '@corvun/contract';
import { count, dayOf, sayDay, sayMinutes } from '@corvun/core';
import { useRef, type KeyboardEvent, type ReactNode, type Ref } from 'react';
import { stillFree } from '../../parts/gaps';
import { LoadBar } from '../../parts/LoadBar';
import { Asking } from './Asking';
import type { ColumnProps } from './DayColumn';
import { DueLine } from './DueLine';
import { Ahead } from './Ahead';
import { LooseTask } from './LooseTask';
import { putInOrder } from './moves';
import { useGestures } from './useGestures';

type SpreadProps = ColumnProps & { ref: Ref<HTMLDivElement>; days: DayInfo[] };

/** The days as columns of work, without their hours: what has a time in order of it, then the rest in the order one gives it. */
export function Spread({ ref, ...props }: SpreadProps): ReactNode {
  const { me, now, days } = props;
  const scroller = useRef<HTMLDivElement>(null);
  const today = dayOf(now, me.zone);
  useGestures(scroller, props.turn);
  return (
    <div ref={scroller} className="relative min-h-0 flex-1 overflow-auto" tabIndex={-1}>
      <div ref={ref} className="grid min-h-full" style={{ gridTemplateColumns: `repeat(${days.length}, minmax(150px, 1fr))` }}>
        {days.map((day) => (
          <Column key={day.day} {...props} day={day} today={today} />
        ))}
      </div>
    </div>
  );
}

const isWork = (entry: AgendaEntry) => entry.kind === 'task' || (entry.kind === 'block' && entry.taskId !== null);

function Column({ day, today, ...props }: ColumnProps & { day: DayInfo; today: string }): ReactNode {
  const { me, now, calendars, lists, target, placing, dues } = props;
  const work = day.entries.filter(isWork);
  const loose = work.filter((entry) => entry.kind === 'task');
  const meetings = day.entries.filter((entry) => entry.kind === 'event' && !entry.allDay && entry.showAs !== 'free');
  const over = placing !== null && target?.day === day.day;
  /** Alt with ↑ ↓ changes the order by keys. */
  const order = (event: KeyboardEvent, entry: AgendaEntry) => {
    const by = { ArrowUp: -1, ArrowDown: 1 }[event.key];
    if (!by || !event.altKey || entry.kind !== 'task') return;
    event.preventDefault();
    event.stopPropagation();
    const ids = loose.map((one) => one.id);
    const at = ids.indexOf(entry.id);
    const to = at + by;
    if (to < 0 || to >= ids.length) return;
    ids.splice(at, 1);
    ids.splice(to, 0, entry.id);
    void putInOrder(day.day, ids);
  };
  const item = (entry: AgendaEntry, before: boolean) => (
    <LooseTask
      key={`${entry.kind}${entry.id}${entry.start}`}
      me={me}
      now={now}
      today={today}
      entry={entry}
      calendars={calendars}
      lists={lists}
      tall
      before={before}
      onKeyDownCapture={(event) => order(event, entry)}
    />
  );
  const own = dues(day);
  return (
    <section
      data-spread={day.day}
      aria-label={sayDay(day.day, today)}
      className={`min-w-0 border-l border-rule px-3 pt-2 pb-6 first:border-l-0 ${over ? 'bg-teal-wash' : day.load.over > 0 ? 'bg-amber-wash' : day.working.length ? '' : 'outside-hours'}`}
    >
      <header className="sticky top-0">
        <h2
          className={`flex items-baseline justify-between font-head text-[16px] font-semibold ${day.day === today ? 'text-teal' : ''}`}
        >
          {sayDay(day.day, today)}
          <span className={`truncate font-sans text-xs font-normal ${day.load.over ? 'text-amber' : 'text-soft'}`}>
            {day.off ??
              (day.load.over
                ? `${sayMinutes(day.load.over)} too much`
                : day.load.capacity
                  ? `${sayMinutes(stillFree(day, now))} left`
                  : '')}
          </span>
        </h2>
        <LoadBar load={day.load} wide="full" />
      </header>
      <p className="mt-1 min-h-4 text-xs text-soft">
        {meetings.length > 0 && `${count(meetings.length, 'meeting')}, ${sayMinutes(day.load.meetings)}`}
      </p>
      <ul className="mt-1 border-t border-rule">
        {own.map((task) => (
          <DueLine key={task.id} task={task} today={today} lists={lists} />
        ))}
        {work.filter((entry) => entry.kind === 'block').map((entry) => item(entry, false))}
        {loose.map((entry) => item(entry, over && target.before === entry.id))}
        <Ahead day={day.day} today={today} lists={lists} />
        {over && (target.before ?? null) === null && (
          <li className="h-[26px] border border-dashed border-teal px-1 text-xs text-teal">here</li>
        )}
        {!work.length && !own.length && !over && <li className="py-1 text-xs text-soft">no work</li>}
      </ul>
      <Asking day={day} {...props} />
    </section>
  );
}
