import type { AgendaEntry, DayInfo, Me } from '@corvun/contract';
import { sayDay, saySpan } from '@corvun/core';
import type { ReactNode } from 'react';
import { createPortal } from 'react-dom';
import { usePrinting } from '../../parts/usePrinting';

interface PrintedProps {
  me: Me;
  title: string;
  days: readonly DayInfo[];
  /** Seven days beside each other, and several weeks below each other. */
  weeks: boolean;
  /** The dialog of the browser was closed. */
  over: () => void;
}

/** Entries of a day that have room where four weeks stand on a page. */
const MOST = 9;

/** The days that are shown, for one page of paper. */
export function PrintedPlan({ me, title, days, weeks, over }: PrintedProps): ReactNode {
  usePrinting(over);
  const across = weeks ? Math.max(1, Math.round(days.length / 4)) : days.length;
  return createPortal(
    <div className={`printed printed-plan ${weeks ? 'printed-weeks' : days.length === 1 ? 'printed-day' : ''}`}>
      <style>{`@page { size: A4 ${days.length === 1 ? 'portrait' : 'landscape'}; margin: 12mm }`}</style>
      <h1>{title}</h1>
      <div className="days" style={{ gridTemplateColumns: `repeat(${across}, minmax(0, 1fr))` }}>
        {days.map((day) => (
          <section key={day.day}>
            <h2>
              {sayDay(day.day, '')} {day.off && <small>{day.off}</small>}
            </h2>
            <ul>
              {day.entries.slice(0, weeks ? MOST : undefined).map((entry) => (
                <Line key={`${entry.kind}${entry.id}${entry.start}`} entry={entry} zone={me.zone} />
              ))}
              {weeks && day.entries.length > MOST && <li>and {day.entries.length - MOST} more</li>}
            </ul>
          </section>
        ))}
      </div>
    </div>,
    document.body,
  );
}

function Line({ entry, zone }: { entry: AgendaEntry; zone: string }): ReactNode {
  const timed = !entry.allDay && entry.kind !== 'task' && entry.start && entry.end;
  return (
    <li>
      {entry.kind !== 'event' && entry.taskId && <span className="box">{entry.status === 'COMPLETED' ? '☒' : '☐'}</span>}
      <span>
        {timed && <b>{saySpan(Date.parse(entry.start ?? ''), Date.parse(entry.end ?? ''), zone)} </b>}
        {entry.title}
        {entry.showAs === 'tentative' && '?'}
        {entry.location && <small>{entry.location}</small>}
      </span>
    </li>
  );
}
