import type { DayInfo } from '@corvun/contract';
import { dayOf, instantOf, sayClock, sayDay, sayHour, sayMinutes, wallOf } from '@corvun/core';
import { useEffect, useLayoutEffect, useRef, type ReactNode, type Ref } from 'react';
import { stillFree } from '../../parts/gaps';
import { LoadBar } from '../../parts/LoadBar';
import { cityOf } from '../settings/zones';
import { Asking } from './Asking';
import { DayColumn, type ColumnProps } from './DayColumn';
import { hourNow, useHour } from './grid';
import { DueLine } from './DueLine';
import { Ahead } from './Ahead';
import { LooseTask } from './LooseTask';
import { Code } from '../../parts/signs';
import { sidesOf, type Side } from './sides';
import { useGestures } from './useGestures';

const EARLY = 7.5;
/** Width of the hours of a further zone, in pixels. */
const ZONE = 46;

type GridProps = ColumnProps & {
  ref: Ref<HTMLDivElement>;
  days: DayInfo[];
  /** The hour that stands at the upper edge at first. */
  from?: number;
};

/** Least width of a calendar beside others, in pixels. */
const SIDE = 116;

/** One column a day: its load, what has no time, and the hours. */
export function TimeGrid({ ref, from = EARLY, ...props }: GridProps): ReactNode {
  const { me, now, days, beside } = props;
  const scroller = useRef<HTMLDivElement>(null);
  const today = dayOf(now, me.zone);
  const hour = useHour();
  const first = useRef(from);
  const before = useRef(hour);
  useEffect(() => {
    scroller.current?.scrollTo({ top: Math.max(0, first.current) * hourNow() });
  }, []);
  // What stood at the upper edge stays there when hours get taller or lower.
  useLayoutEffect(() => {
    const element = scroller.current;
    if (element && before.current !== hour) element.scrollTop *= hour / before.current;
    before.current = hour;
  }, [hour]);
  useGestures(scroller, props.turn);
  const { zones } = me.settings;
  const [only] = days;
  const sides = beside && only && days.length === 1 ? sidesOf(only, props.calendars) : null;
  const columns = {
    gridTemplateColumns: `${54 + zones.length * ZONE}px repeat(${sides?.length ?? days.length}, minmax(${sides ? SIDE : 0}px, 1fr))`,
  };
  const gapsOn = (day: DayInfo) => props.gaps.filter((gap) => dayOf(gap.slot.start, me.zone) === day.day);
  return (
    <div ref={scroller} className="min-h-0 flex-1 overflow-auto" tabIndex={-1}>
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
          {days.map((day, at) => (
            <DayHead key={at} {...props} day={day} today={today} across={sides?.length ?? 1} />
          ))}
          {sides?.map((side) => (
            <SideHead key={side.key} side={side} />
          ))}
        </div>
        <div className="grid" style={columns}>
          <div className="relative" style={{ height: 24 * hour }} aria-hidden="true">
            {zones.map((zone, at) => (
              <ZoneHours key={zone} zone={zone} day={days[0]?.day ?? today} own={me.zone} left={at * ZONE} />
            ))}
            {Array.from({ length: 23 }, (_, at) => (
              <span key={at} className="absolute right-2 -translate-y-1/2 text-xs text-soft" style={{ top: (at + 1) * hour }}>
                {sayHour(at + 1)}
              </span>
            ))}
          </div>
          {sides
            ? sides.map((side) => <DayColumn key={side.key} {...props} day={side.day} side={side} gaps={gapsOn(side.day)} />)
            : days.map((day, at) => <DayColumn key={at} {...props} day={day} gaps={gapsOn(day)} />)}
        </div>
      </div>
    </div>
  );
}

/** What a day is called, its load, and what stands on it without a time. */
function DayHead({
  me,
  now,
  day,
  days,
  today,
  calendars,
  lists,
  placing,
  target,
  making,
  dues,
  across,
}: ColumnProps & { day: DayInfo; today: string; across: number }): ReactNode {
  const allDay = days.some((one) => one.entries.some((entry) => entry.allDay && entry.kind === 'event'));
  return (
    <section
      data-head={day.day}
      style={{ gridColumn: `span ${across}` }}
      aria-label={`${sayDay(day.day, today)}, without a time`}
      className={`min-w-0 border-l border-rule px-[10px] pt-[6px] pb-1 ${day.load.over > 0 ? 'bg-amber-wash' : ''}`}
    >
      <header className="flex flex-wrap items-baseline justify-between gap-x-2">
        <h2 className={`shrink-0 font-head text-[16px] font-semibold ${day.day === today ? 'text-teal' : ''}`}>
          {sayDay(day.day, today)}
        </h2>
        <span className={`min-w-0 truncate text-xs ${day.load.over ? 'text-amber' : 'text-soft'}`}>
          {[
            day.off,
            day.load.over
              ? `${sayMinutes(day.load.over)} too much`
              : day.load.capacity && `${sayMinutes(stillFree(day, now))} left`,
          ]
            .filter(Boolean)
            .join(', ')}
        </span>
      </header>
      <LoadBar load={day.load} wide="full" />
      {/* A double click makes something of the whole day; N makes the same by keys. */}
      <ul
        className={`mt-1 max-h-[98px] overflow-y-auto border-t border-rule pt-1 ${allDay ? 'min-h-[46px]' : 'min-h-[44px]'}`}
        onDoubleClick={(event) =>
          event.target === event.currentTarget && making.begin({ day: day.day, from: null, minutes: 1440 })
        }
      >
        {dues(day).map((task) => (
          <DueLine key={task.id} task={task} today={today} lists={lists} />
        ))}
        {day.entries
          .filter((entry) => entry.allDay)
          .map((entry) => (
            <LooseTask
              key={entry.kind + entry.id}
              me={me}
              now={now}
              today={today}
              entry={entry}
              calendars={calendars}
              lists={lists}
            />
          ))}
        <Ahead day={day.day} today={today} lists={lists} />
        {placing && target?.day === day.day && target.from === null && (
          <li className="h-[22px] border border-dashed border-teal px-1 text-xs text-teal">no time</li>
        )}
      </ul>
      <Asking day={day} whole={false} me={me} now={now} days={days} calendars={calendars} making={making} />
    </section>
  );
}

/** What stands in the column below. */
const SideHead = ({ side: { name, calendar } }: { side: Side }): ReactNode => (
  <h3
    className={`flex min-w-0 items-center gap-[6px] border-t border-l border-rule px-[10px] py-1 text-xs font-semibold ${calendar ? '' : 'col-start-2'}`}
  >
    {calendar && <Code code={calendar.code} hue={calendar.hue} />}
    <span className="truncate">{name}</span>
  </h3>
);

/** The hours of another zone beside one's own, as they are on the first of the days shown. */
function ZoneHours({ zone, own, day, left }: { zone: string; own: string; day: string; left: number }): ReactNode {
  const hour = useHour();
  const midnight = instantOf(`${day}T00:00`, own);
  return Array.from({ length: 23 }, (_, at) => {
    const wall = wallOf(midnight + (at + 1) * 3_600_000, zone);
    const clock = wall.slice(11);
    return (
      <span key={at} className="absolute -translate-y-1/2 pl-1 text-xs text-soft" style={{ top: (at + 1) * hour, left }}>
        {clock.endsWith(':00') ? sayHour(Number(clock.slice(0, 2))) : sayClock(clock)}
      </span>
    );
  });
}
