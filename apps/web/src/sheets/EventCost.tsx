import type { EventFull, Me, YesCostQuery } from '@corvun/contract';
import { wallOf } from '@corvun/core';
import { useState, type ReactNode } from 'react';
import { REPLIES, movesOf, useYesCost } from '../cost/cost';
import { YesCost } from '../cost/YesCost';
import { decide } from '../data/actions';
import { changeEvent } from '../data/calendarActions';

/** Whether an answer is waited for. */
const isAsked = (event: EventFull): boolean =>
  event.guest &&
  event.origin !== null &&
  event.status !== 'CANCELLED' &&
  event.guests.some(({ you, partstat }) => you && partstat === 'NEEDS-ACTION');

/** What is asked for what it costs and what belongs to it; null for what is over or takes no time. */
export function costOf(event: EventFull, now: number): YesCostQuery | null {
  const takes = !event.allDay && event.showAs !== 'free' && event.status !== 'CANCELLED';
  const ahead = event.allDay || Date.parse(event.end) > now;
  if (!ahead || (!isAsked(event) && !takes)) return null;
  return { event: event.id, ...(event.occurrence ? { occurrence: event.occurrence } : {}) };
}

interface CostProps {
  me: Me;
  event: EventFull;
  today: string;
  now: number;
}

/** An invitation that is not answered yet: what a yes costs, and the answer. Of one's own event: what it stands on. */
export function EventCost({ me, event, today, now }: CostProps): ReactNode {
  const [busy, setBusy] = useState(false);
  const asks = isAsked(event);
  const { data: cost } = useYesCost(costOf(event, now));
  const own = !event.guest && event.fixed === null;
  if (!cost || (!asks && (!own || !cost.overlaps.some(({ movable }) => movable)))) return null;
  const moves = movesOf(cost);
  const once = async (send: () => Promise<unknown>) => {
    setBusy(true);
    await send();
    setBusy(false);
  };
  const answer = (more: object) => void once(() => decide({ to: 'answer', incoming: [event.origin?.id ?? ''], ...more }));
  return (
    <div className="mt-4 border border-rule bg-card">
      <YesCost
        me={me}
        today={today}
        cost={cost}
        name={asks ? 'What a yes costs' : 'What it stands on'}
        {...(asks ? { propose: (start: string) => answer({ start: wallOf(Date.parse(start), me.zone) }) } : {})}
      />
      <div role="group" aria-label={asks ? 'Answer' : 'Own time'} className="flex flex-wrap gap-2 px-3 pb-3">
        {moves.length > 0 && (
          <button
            type="button"
            disabled={busy}
            className="bg-teal px-3 py-1 font-semibold text-on-teal"
            onClick={() =>
              asks ? answer({ reply: 'yes', moves }) : void once(() => changeEvent(event.id, { moves, version: event.version }))
            }
          >
            {asks ? 'Yes, and move' : 'Move'} {moves.length === 1 ? 'it' : 'them'}
          </button>
        )}
        {asks &&
          REPLIES.map(([reply, name]) => (
            <button
              key={reply}
              type="button"
              disabled={busy}
              className="border border-ink px-3 py-1 hover:bg-teal-wash"
              onClick={() => answer({ reply })}
            >
              {name}
            </button>
          ))}
      </div>
    </div>
  );
}
