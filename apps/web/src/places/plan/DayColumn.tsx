import type { CalendarInfo, DayInfo, ListInfo, Me, TaskInfo } from '@corvun/contract';
import { dayOf, sayDay, sayTime, type NumberedGap } from '@corvun/core';
import { useMemo, useState, type PointerEvent, type ReactNode } from 'react';
import { Key } from '../../parts/signs';
import { useSaid } from '../../state/said';
import { AskFirst, leave } from './AskFirst';
import { Asks } from './Asks';
import { SitesOf } from './SitesOf';
import { layOut, minuteOn, sayShadow, shadowOf, snap, useHour } from './grid';
import { Ghosts } from './Ghosts';
import { Held, Outline } from './Held';
import { instantAt } from './moves';
import { NewEntry } from './NewEntry';
import type { Target } from './planning';
import { usePlanning, type Placing } from './planning';
import { calendarAt, type Side } from './sides';
import { Slip } from './Slip';
import type { Making } from './useMaking';
import { turnOffered } from './useOffering';
import { useSlots } from './useSlots';

export interface ColumnProps {
  me: Me;
  now: number;
  days: readonly DayInfo[];
  calendars: CalendarInfo[];
  lists: ListInfo[];
  /** What is put somewhere just now, by dragging or by keys, and where it stands. */
  placing: Placing | null;
  target: Target | null;
  /** The gaps it fits into, by number, while it is being put somewhere. */
  gaps: readonly NumberedGap[];
  take: (gap: NumberedGap) => void;
  making: Making;
  /** Deadlines of a day whose work stands elsewhere. */
  dues: (day: DayInfo) => readonly TaskInfo[];
  /** Goes on or back. */
  turn: (by: number) => void;
  /** Whether one day shows its calendars side by side. */
  beside: boolean;
}

/** The hours of a day and what stands in them. */
export function DayColumn({
  me,
  now,
  day,
  days,
  calendars,
  lists,
  placing,
  target,
  gaps,
  take,
  making,
  side,
}: ColumnProps & { day: DayInfo; side?: Side }): ReactNode {
  const today = dayOf(now, me.zone);
  const hour = useHour();
  const at = (minutes: number) => (minutes / 60) * hour;
  const [drawn, setDrawn] = useState<{ from: number; to: number } | null>(null);
  const asked = usePlanning((state) => state.asked);
  const offering = usePlanning((state) => state.offering);
  const offered = (offering?.starts ?? []).filter((start) => dayOf(start, me.zone) === day.day);
  const said = usePlanning((state) => (making.at && state.said?.day === day.day ? state.said : null));
  const off = outsideHours(day, me.zone);
  const laidOut = useMemo(() => layOut(day.entries, day.day, me.zone), [day, me.zone]);
  const slot = useSlots(day.day, laidOut);
  const stretch = (start: string, end: string) => {
    const [from, to] = [minuteOn(start, day.day, me.zone), minuteOn(end, day.day, me.zone)];
    return { top: at(from), height: at(to - from) };
  };
  const { snap: step } = me.settings;
  const minuteAt = (event: { clientY: number; currentTarget: Element }) =>
    ((event.clientY - event.currentTarget.getBoundingClientRect().top) / hour) * 60;
  const into = side?.calendar && side.calendar.origin !== 'feed' ? { calendarId: side.calendar.id } : {};
  const begin = (event: PointerEvent<HTMLDivElement>) => {
    // A finger scrolls; it makes something with a double tap.
    if (event.button !== 0 || event.pointerType === 'touch') return;
    if (side?.calendar?.origin === 'feed')
      return useSaid.getState().say(`“${side.name}” comes from outside: nothing can be made in it here`, 'none');
    const from = Math.floor(minuteAt(event) / step) * step;
    if (offering) return turnOffered(Date.parse(instantAt(day.day, from, me.zone)));
    setDrawn({ from, to: from });
    event.currentTarget.setPointerCapture(event.pointerId);
  };
  const draw = (event: PointerEvent<HTMLDivElement>) => {
    const to = Math.min(1440, Math.max(0, snap(minuteAt(event), step)));
    if (drawn && to !== drawn.to) setDrawn({ ...drawn, to });
  };
  const end = () => {
    setDrawn(null);
    if (!drawn || Math.abs(drawn.to - drawn.from) < step) return;
    making.begin({ ...into, day: day.day, from: Math.min(drawn.from, drawn.to), minutes: Math.abs(drawn.to - drawn.from) });
  };
  /** Whether something would stand in this column of its day. */
  const here = (one: Target | null | undefined, what: Placing | null): one is Target & { from: number } =>
    one?.day === day.day && one.from !== null && (!side || calendarAt(one, what) === (side.calendar?.id ?? null));
  const made = here(making.at, null) ? making.at : null;
  const held = asked && here(asked.target, { what: 'move', entry: asked.entry }) ? asked : null;
  const shown = here(target, placing) && placing && placing.what !== 'resize' ? target : null;
  const whole = days.find((one) => one.day === day.day) ?? day;
  const gapsHere = !side || calendarAt({}, placing) === (side.calendar?.id ?? null) ? gaps : [];
  const standsAt = (gap: NumberedGap) =>
    shown !== null && shown.from === minuteOn(new Date(gap.slot.start).toISOString(), day.day, me.zone);
  const itself = placing && placing.what !== 'cards' ? placing.entry : null;
  return (
    <section
      data-day={day.day}
      data-calendar={into.calendarId}
      aria-label={side ? `${side.name}, ${sayDay(day.day, today)}` : sayDay(day.day, today)}
      className="relative border-l border-rule"
    >
      {/* Drawing is for a pointer; N makes the same by keys. */}
      <div
        data-grid
        role="presentation"
        className="absolute inset-0"
        style={{ background: `repeating-linear-gradient(180deg, var(--rule) 0 1px, transparent 1px ${hour}px)` }}
        onPointerDown={begin}
        onPointerMove={draw}
        onPointerUp={end}
        onPointerCancel={() => setDrawn(null)}
        onDoubleClick={(event) =>
          !offering &&
          side?.calendar?.origin !== 'feed' &&
          making.begin({
            ...into,
            day: day.day,
            from: Math.floor(minuteAt(event) / step) * step,
            minutes: me.settings.lengths.medium,
          })
        }
      />
      {off.map(([from, to]) => (
        <div
          key={from}
          className="outside-hours pointer-events-none absolute inset-x-0"
          style={{ top: at(from), height: at(to - from) }}
        />
      ))}
      {day.unseen.map(({ start, end: until }) => (
        <p
          key={start}
          className="taken-unseen pointer-events-none absolute inset-x-0 overflow-hidden px-1 text-xs text-soft"
          style={stretch(start, until)}
        >
          taken, not shown
        </p>
      ))}
      {laidOut.map((laid) => (
        <Slip
          key={slot(laid)}
          me={me}
          now={now}
          day={day.day}
          laid={laid}
          today={today}
          calendars={calendars}
          lists={lists}
          resizedTo={
            target && placing?.what === 'resize' && placing.entry.id === laid.entry.id && placing.entry.start === laid.entry.start
              ? target.minutes
              : null
          }
        />
      ))}
      {(side?.calendar ? [] : offered).map((start) => (
        <Outline
          key={start}
          from={minuteOn(new Date(start).toISOString(), day.day, me.zone)}
          minutes={offering?.minutes ?? 0}
          says="offered"
        />
      ))}
      {!side?.calendar && <Ghosts me={me} day={day.day} />}
      {gapsHere
        .filter((gap) => !standsAt(gap))
        .map((gap) => (
          <button
            key={gap.number}
            type="button"
            tabIndex={-1}
            data-gap={gap.number}
            className="absolute right-1 z-[6] flex items-center gap-1 border border-teal bg-card px-1 text-xs"
            style={{ top: at(minuteOn(new Date(gap.slot.start).toISOString(), day.day, me.zone)) + 2 }}
            onClick={() => take(gap)}
          >
            <Key>{gap.number}</Key> {sayTime(gap.slot.start, me.zone)}
          </button>
        ))}
      {drawn && Math.abs(drawn.to - drawn.from) >= step && (
        <Outline from={Math.min(drawn.from, drawn.to)} minutes={Math.abs(drawn.to - drawn.from)} />
      )}
      {shown && shown.from !== null && (
        <Outline
          from={shown.from}
          minutes={shown.minutes}
          says={[
            placing?.what === 'cards' ? titleOf(placing) : '',
            sayShadow(shadowOf(whole, shown.from, shown.minutes, me.zone, itself)),
          ]
            .filter(Boolean)
            .join(' · ')}
        />
      )}
      {here(said, null) && (said.from !== made?.from || said.minutes !== made?.minutes) && (
        <Outline from={said.from} minutes={said.minutes} />
      )}
      {made && (
        <Held from={made.from} minutes={made.minutes} label="Something new" close={making.end}>
          <NewEntry
            me={me}
            now={now}
            making={making}
            at={made}
            calendars={calendars}
            days={days}
            first={side && !side.calendar ? 'task' : 'event'}
          />
        </Held>
      )}
      {held?.target && held.target.from !== null && (
        <Held
          from={held.target.from}
          minutes={held.target.minutes}
          label={held.sites ? 'Sites held back' : 'Before it is done'}
          close={() => leave(held.entry)}
        >
          {held.sites ? <SitesOf me={me} entry={held.entry} /> : <AskFirst me={me} asked={held} />}
        </Held>
      )}
      {!side?.calendar && <Asks today={today} day={day.day} />}
      {day.day === today && (
        <div
          className="pointer-events-none absolute inset-x-0 z-[1] h-[2px] bg-brick"
          style={{ top: at(minuteOn(new Date(now).toISOString(), day.day, me.zone)) }}
        >
          {!side?.calendar && <span className="sr-only">Now {sayTime(now, me.zone)}</span>}
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

/** What the cards are that are put somewhere. */
function titleOf({ cards }: Placing & { what: 'cards' }): string {
  const [first] = cards;
  return `${first?.task.title ?? ''}${cards.length > 1 ? ` and ${cards.length - 1} more` : ''}`;
}
