import type { DayInfo, Me, TaskFull } from '@corvun/contract';
import { bestSlots, dayOf, minutesBetween, numberedGaps, parseIso, sayDay, sayMinutes, saySpan, sayTime } from '@corvun/core';
import type { UseQueryResult } from '@tanstack/react-query';
import { useEffect, useRef, type ReactNode } from 'react';
import { addBlock, removeBlock } from '../data/thingActions';
import { KEYS, keyName } from '../keys';
import { gapsOf } from '../parts/gaps';
import { Key } from '../parts/signs';
import { Failed, Waiting } from '../parts/states';
import { useOpenEvent } from './open';

type Free = Pick<UseQueryResult<DayInfo[]>, 'data' | 'error' | 'refetch'>;

interface PlacedProps {
  me: Me;
  task: TaskFull;
  /** The days in which time is offered. */
  free: Free;
  today: string;
  now: number;
  choosing: boolean;
  setChoosing: (on: boolean) => void;
}

/** The time that is set aside for a task: what is placed and what is not, as a strip, and where more of it could go. */
export function Placed({ me, task, free, today, now, choosing, setChoosing }: PlacedProps): ReactNode {
  const openEvent = useOpenEvent();
  const blocks = task.allBlocks.map((block) => ({
    ...block,
    minutes: minutesBetween(Date.parse(block.start), Date.parse(block.end)),
  }));
  const placed = blocks.reduce((sum, block) => sum + block.minutes, 0);
  const whole = Math.max(task.estimate ?? 0, placed);
  const left = Math.max(0, whole - placed);
  const open = task.status !== 'COMPLETED' && task.status !== 'CANCELLED';
  return (
    <section aria-labelledby="placed-head" className="mt-4 border-t border-rule pt-3">
      <h3 id="placed-head" className="flex items-baseline gap-3 font-head font-semibold">
        {placed
          ? task.estimate
            ? `${sayMinutes(placed)} of ${sayMinutes(whole)} placed`
            : `${sayMinutes(placed)} placed`
          : task.beside.length
            ? 'Done beside an event'
            : 'No time set aside'}
        {open && (
          <button
            type="button"
            id="give-time"
            aria-expanded={choosing}
            className="font-sans text-xs font-normal text-teal underline underline-offset-2"
            onClick={() => setChoosing(!choosing)}
          >
            {placed ? 'give it more time' : 'give it time'} <Key>{keyName(KEYS.sheet.time)}</Key>
          </button>
        )}
      </h3>
      {whole > 0 && placed > 0 && (
        <div className="mt-1 flex h-[15px] gap-1 border-b border-ink" aria-hidden="true">
          {blocks.map((block) => (
            <span
              key={block.id}
              className="border border-b-0 border-plum bg-plum-wash"
              style={{ width: `${(block.minutes / whole) * 100}%` }}
            />
          ))}
          {left > 0 && (
            <span className="border border-b-0 border-dashed border-soft" style={{ width: `${(left / whole) * 100}%` }} />
          )}
        </div>
      )}
      {task.beside.map((one) => (
        <p key={one.id} className="text-xs">
          Done {one.at === 'prep' ? 'before' : 'after'}{' '}
          <button
            type="button"
            className="min-h-6 underline underline-offset-2 hover:text-teal"
            onClick={() => openEvent(one.id, one.occurrence)}
          >
            {one.title}
          </button>
        </p>
      ))}
      {blocks.length > 0 && (
        <ul className="mt-1 text-xs">
          {blocks.map((block) => {
            const [start, end] = [Date.parse(block.start), Date.parse(block.end)];
            const when = `${sayDay(dayOf(start, me.zone), today)}, ${saySpan(start, end, me.zone)}`;
            return (
              <li key={block.id} className="flex gap-3 py-[1px]">
                <span className={end < now ? 'text-soft' : ''}>
                  {when}
                  {end < now && ', over'}
                </span>
                <button
                  type="button"
                  className="ml-auto text-soft underline underline-offset-2 hover:text-ink"
                  aria-label={`give it back: the time on ${when}`}
                  onClick={() => void removeBlock(block.id)}
                >
                  give it back
                </button>
              </li>
            );
          })}
        </ul>
      )}
      {choosing && open && !free.data && <NotKnown free={free} />}
      {choosing && open && free.data && (
        <GiveTime
          me={me}
          task={task}
          days={free.data}
          today={today}
          now={now}
          minutes={left || (task.estimate ?? me.settings.lengths[task.concentration])}
          close={() => setChoosing(false)}
        />
      )}
    </section>
  );
}

/** What is free is not known yet, or could not be asked for. */
function NotKnown({ free }: { free: Free }): ReactNode {
  return (
    <div className="mt-2 min-h-9 border border-teal bg-card p-2">
      {free.error ? (
        <Failed problem={free.error} retry={() => void free.refetch()} />
      ) : (
        <Waiting what="Looking for what is free" />
      )}
    </div>
  );
}

interface GiveTimeProps extends Omit<PlacedProps, 'free' | 'choosing' | 'setChoosing'> {
  days: readonly DayInfo[];
  minutes: number;
  close: () => void;
}

/** Where its time could go: the best three with their reasons, and the gaps that fit, by number. */
function GiveTime({ me, task, days, today, now, minutes: wanted, close }: GiveTimeProps): ReactNode {
  const frame = useRef<HTMLDivElement>(null);
  const gaps = gapsOf(days);
  // What fits nowhere whole is offered in parts.
  const longest = Math.max(0, ...gaps.map((gap) => minutesBetween(Math.max(now, gap.start), gap.end)));
  const minutes = Math.min(wanted, Math.max(5, Math.floor(longest / 5) * 5));
  const deadline = task.deadline ? parseIso(task.deadline.length > 10 ? task.deadline : `${task.deadline}T23:59`, me.zone) : null;
  const best = bestSlots(gaps, {
    ...{ minutes, concentration: task.concentration, deadline, now, zone: me.zone },
    deep: me.settings.planning.deep,
  });
  const numbered = numberedGaps(gaps, minutes, now);
  useEffect(() => frame.current?.querySelector('button')?.focus(), []);
  const take = (start: number) => {
    void addBlock(task.id, new Date(start).toISOString(), minutes);
    close();
    document.getElementById('give-time')?.focus();
  };
  const say = (start: number) => `${sayDay(dayOf(start, me.zone), today)}, ${sayTime(start, me.zone)}`;
  return (
    <div
      ref={frame}
      role="group"
      aria-label="Where its time could go"
      className="mt-2 border border-teal bg-card p-2"
      onKeyDown={(event) => {
        const gap = numbered.find((one) => String(one.number) === event.key);
        if (gap) take(gap.slot.start);
        else if (event.key === 'Escape') {
          close();
          document.getElementById('give-time')?.focus();
        } else return;
        event.preventDefault();
        event.stopPropagation();
      }}
    >
      {best.length === 0 && <p className="text-xs">No gap of the next two weeks is free.</p>}
      {minutes < wanted && best.length > 0 && (
        <p className="mb-1 text-xs text-soft">
          No gap is {sayMinutes(wanted)} long; these take {sayMinutes(minutes)} of it.
        </p>
      )}
      <ul>
        {best.map(({ slot, reasons }) => (
          <li key={slot.start}>
            <button
              type="button"
              className="flex w-full flex-wrap items-baseline gap-x-3 px-1 py-1 text-left hover:bg-teal-wash focus-visible:bg-teal-wash"
              onClick={() => take(slot.start)}
            >
              <b className="font-semibold">{say(slot.start)}</b>
              <span className="text-xs text-soft">{reasons.join(', ')}</span>
            </button>
          </li>
        ))}
      </ul>
      {numbered.length > 0 && (
        <ul className="mt-1 flex flex-wrap gap-1 border-t border-rule pt-2" aria-label="Gaps that fit">
          {numbered.map(({ number, slot }) => (
            <li key={number}>
              <button
                type="button"
                className="flex items-center gap-1 border border-rule px-2 py-[1px] text-xs hover:border-ink"
                onClick={() => take(slot.start)}
              >
                <Key>{number}</Key> {say(slot.start)}
              </button>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
