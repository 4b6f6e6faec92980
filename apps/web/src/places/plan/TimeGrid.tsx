import type { CalendarInfo, DayInfo, ListInfo, Me } from '@corvun/contract';
import { dayOf, instantOf, sayClock, sayDay, sayHour, sayMinutes, sayTime, wallOf } from '@corvun/core';
import { useEffect, useRef, type ReactNode, type Ref } from 'react';
import { cityOf } from '../settings/zones';
import { LoadBar } from '../../parts/LoadBar';
import { HOUR, clockText, layOut, minuteOn } from './grid';
import type { Dragged, Target } from './moves';
import { LooseTask, Slip } from './Slip';

const EARLY = 7.5;
/** Width of the hours of a further zone, in pixels. */
const ZONE = 46;

interface GridProps {
  ref: Ref<HTMLDivElement>;
  me: Me;
  now: number;
  days: DayInfo[];
  calendars: CalendarInfo[];
  lists: ListInfo[];
  dragged: Dragged | null;
  target: Target | null;
}

/** One column a day: its load, what has no time, and the hours. */
export function TimeGrid({ ref, me, now, days, calendars, lists, dragged, target }: GridProps): ReactNode {
  const scroller = useRef<HTMLDivElement>(null);
  const today = dayOf(now, me.zone);
  useEffect(() => {
    scroller.current?.scrollTo({ top: EARLY * HOUR });
  }, []);
  const { zones } = me.settings;
  const columns = { gridTemplateColumns: `${54 + zones.length * ZONE}px repeat(${days.length}, minmax(0, 1fr))` };
  const allDay = days.some((day) => day.entries.some((entry) => entry.allDay && entry.kind === 'event'));
  return (
    <div ref={scroller} className="min-h-0 flex-1 overflow-y-auto" tabIndex={-1}>
      <div ref={ref} className="relative">
        <div className="sticky top-0 z-10 grid border-b border-ink bg-paper" style={columns}>
          <div className="flex flex-col items-end justify-between px-2 py-2 text-xs text-soft max-md:px-1">
            <span className="flex w-full justify-end pt-4">
              {zones.map((zone) => (
                <span
                  key={zone}
                  style={{ width: ZONE }}
                  className="mr-auto truncate text-left"
                  title={`${cityOf(zone)}: its hours`}
                >
                  {cityOf(zone)}
                </span>
              ))}
              load
            </span>
            <span className="whitespace-nowrap">no time</span>
          </div>
          {days.map((day) => (
            <section
              key={day.day}
              data-head={day.day}
              aria-label={`${sayDay(day.day, today)}, without a time`}
              className={`min-w-0 border-l border-rule px-[10px] pt-[6px] pb-1 ${day.load.over > 0 ? 'bg-amber-wash' : ''}`}
            >
              <header className="flex items-baseline justify-between gap-2">
                <h2 className={`shrink-0 font-head text-[16px] font-semibold ${day.day === today ? 'text-teal' : ''}`}>
                  {sayDay(day.day, today)}
                </h2>
                <span className={`min-w-0 truncate text-xs ${day.load.over ? 'text-amber' : 'text-soft'}`}>
                  {[
                    day.off,
                    day.load.over
                      ? `${sayMinutes(day.load.over)} too much`
                      : day.load.capacity && `${sayMinutes(day.load.left)} left`,
                  ]
                    .filter(Boolean)
                    .join(', ')}
                </span>
              </header>
              <LoadBar load={day.load} wide="full" />
              <ul
                className={`mt-1 max-h-[98px] overflow-y-auto border-t border-rule pt-1 ${allDay ? 'min-h-[46px]' : 'min-h-[44px]'}`}
              >
                {day.entries
                  .filter((entry) => entry.allDay)
                  .map((entry) => (
                    <LooseTask
                      key={entry.kind + entry.id}
                      me={me}
                      today={today}
                      entry={entry}
                      calendars={calendars}
                      lists={lists}
                    />
                  ))}
                {target && target.day === day.day && target.from === null && target.what === 'move' && (
                  <li className="h-[22px] border border-dashed border-teal px-1 text-xs text-teal">no time</li>
                )}
              </ul>
            </section>
          ))}
        </div>
        <div className="grid" style={columns}>
          <div className="relative" style={{ height: 24 * HOUR }} aria-hidden="true">
            {zones.map((zone, at) => (
              <ZoneHours key={zone} zone={zone} day={days[0]?.day ?? today} own={me.zone} left={at * ZONE} />
            ))}
            {Array.from({ length: 23 }, (_, at) => (
              <span key={at} className="absolute right-2 -translate-y-1/2 text-xs text-soft" style={{ top: (at + 1) * HOUR }}>
                {sayHour(at + 1)}
              </span>
            ))}
          </div>
          {days.map((day) => (
            <DayColumn
              key={day.day}
              me={me}
              now={now}
              day={day}
              calendars={calendars}
              lists={lists}
              dragged={dragged}
              target={target?.day === day.day ? target : null}
            />
          ))}
        </div>
      </div>
    </div>
  );
}

/** The hours of another zone beside one's own, as they are on the first of the days shown. */
function ZoneHours({ zone, own, day, left }: { zone: string; own: string; day: string; left: number }): ReactNode {
  const midnight = instantOf(`${day}T00:00`, own);
  return Array.from({ length: 23 }, (_, at) => {
    const wall = wallOf(midnight + (at + 1) * 3_600_000, zone);
    const clock = wall.slice(11);
    return (
      <span key={at} className="absolute -translate-y-1/2 pl-1 text-xs text-soft" style={{ top: (at + 1) * HOUR, left }}>
        {clock.endsWith(':00') ? sayHour(Number(clock.slice(0, 2))) : sayClock(clock)}
      </span>
    );
  });
}

function DayColumn({
  me,
  now,
  day,
  calendars,
  lists,
  dragged,
  target,
}: Omit<GridProps, 'ref' | 'days'> & { day: DayInfo }): ReactNode {
  const today = dayOf(now, me.zone);
  const off = outsideHours(day, me.zone);
  const at = (minutes: number) => (minutes / 60) * HOUR;
  const stretch = (start: string, end: string) => {
    const [from, to] = [minuteOn(start, day.day, me.zone), minuteOn(end, day.day, me.zone)];
    return { top: at(from), height: at(to - from) };
  };
  return (
    <section data-day={day.day} aria-label={sayDay(day.day, today)} className="relative border-l border-rule">
      <div data-grid className="absolute inset-0 bg-[repeating-linear-gradient(180deg,var(--rule)_0_1px,transparent_1px_44px)]" />
      {off.map(([from, to]) => (
        <div key={from} className="outside-hours absolute inset-x-0" style={{ top: at(from), height: at(to - from) }} />
      ))}
      {day.unseen.map(({ start, end }) => (
        <p
          key={start}
          className="taken-unseen absolute inset-x-0 overflow-hidden px-1 text-xs text-soft"
          style={stretch(start, end)}
        >
          taken, not shown
        </p>
      ))}
      {layOut(day.entries, day.day, me.zone).map((laid) => (
        <Slip
          key={laid.entry.id + laid.entry.start}
          me={me}
          laid={laid}
          today={today}
          calendars={calendars}
          lists={lists}
          resizedTo={
            target && dragged?.what === 'resize' && dragged.entry.id === laid.entry.id && dragged.entry.start === laid.entry.start
              ? target.minutes
              : null
          }
        />
      ))}
      {target && target.from !== null && (
        <div
          className="pointer-events-none absolute right-2 left-1 z-[5] border border-dashed border-teal bg-teal-wash/80 px-1 text-xs text-teal"
          style={{ top: at(target.from), height: at(target.minutes) }}
        >
          {clockText(target.from)} – {clockText(target.from + target.minutes)}
        </div>
      )}
      {day.day === today && (
        <div
          className="pointer-events-none absolute inset-x-0 z-[1] h-[2px] bg-brick"
          style={{ top: at(minuteOn(new Date(now).toISOString(), day.day, me.zone)) }}
        >
          <span className="sr-only">Now {sayTime(now, me.zone)}</span>
        </div>
      )}
    </section>
  );
}

/** Stretches of the day outside working hours, in minutes after midnight. */
function outsideHours(day: DayInfo, zone: string): [number, number][] {
  const off: [number, number][] = [];
  let from = 0;
  for (const span of day.working) {
    off.push([from, minuteOn(span.start, day.day, zone)]);
    from = minuteOn(span.end, day.day, zone);
  }
  off.push([from, 1440]);
  return off.filter(([start, end]) => end > start);
}
