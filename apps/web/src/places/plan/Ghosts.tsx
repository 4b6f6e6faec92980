import type { Me } from '@corvun/contract';
import { saySpan, sayTime } from '@corvun/core';
import type { ReactNode } from 'react';
import { minuteOn, useHour } from './grid';
import { nameOf, turn, useProposing } from './proposing';

/** What is lower has smaller letters: it must not reach into the next one. */
const LEAST = 16;
/** What is lower still says its name only when it is pointed at, and in the list below. */
const NO_LINE = 12;
/** Height in which two lines fit, in pixels. */
const TWO_LINES = 34;

/** What a plan would set aside on a day. A press leaves it out; the bar below does the same by keys. */
export function Ghosts({ me, day }: { me: Me; day: string }): ReactNode {
  const { answer, not } = useProposing();
  const hour = useHour();
  return (answer?.blocks ?? [])
    .filter(({ start }) => start.startsWith(day))
    .map((one) => {
      const [from, to] = [minuteOn(one.start, day, me.zone), minuteOn(one.end, day, me.zone)];
      const out = not.has(nameOf(one));
      const height = ((to - from) / 60) * hour - 1;
      const times = saySpan(Date.parse(one.start), Date.parse(one.end), me.zone);
      return (
        <button
          key={nameOf(one)}
          type="button"
          tabIndex={-1}
          data-ghost={one.taskId}
          aria-pressed={!out}
          className={`absolute right-2 left-1 z-[5] flex flex-col overflow-hidden border-[1.4px] border-dashed px-[6px] text-left ${height < LEAST ? 'text-[10px] leading-none' : 'text-xs leading-[15px]'} ${height < TWO_LINES ? 'justify-center' : ''} ${out ? 'border-soft bg-card/70 text-soft line-through' : 'border-plum bg-card text-ink'}`}
          style={{ top: (from / 60) * hour, height }}
          title={height < NO_LINE ? `${one.title}, ${times}` : undefined}
          onClick={() => turn(nameOf(one))}
        >
          <b className={`w-full truncate font-semibold ${height < NO_LINE ? 'sr-only' : ''}`}>{one.title}</b>
          <span className={`w-full truncate ${height < TWO_LINES ? 'sr-only' : ''}`}>
            {times}
            {one.was && ` · from ${sayTime(Date.parse(one.was.start), me.zone)}`}
            {one.late && <span className="text-amber"> · after it is due</span>}
          </span>
        </button>
      );
    });
}
