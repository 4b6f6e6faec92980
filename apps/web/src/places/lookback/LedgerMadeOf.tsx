import type { LedgerPart, LedgerPartsQuery, Me } from '@corvun/contract';
import { count, dayOf, sayDay, sayMinutes, saySpan } from '@corvun/core';
import { useEffect, useRef, type ReactNode } from 'react';
import { useLedgerParts } from '../../data/lookback';
import { Failed, Waiting } from '../../parts/states';
import { useOpenEvent, useOpenTask } from '../../sheets/open';

export type Picked = LedgerPartsQuery & { title: string };

interface MadeOfProps {
  me: Me;
  today: string;
  picked: Picked;
  close: () => void;
}

/** What a figure is made of, each with its way back. */
export function LedgerMadeOf({ me, today, picked: { title, ...query }, close }: MadeOfProps): ReactNode {
  const parts = useLedgerParts(query);
  const heading = useRef<HTMLHeadingElement>(null);
  useEffect(() => heading.current?.focus(), []);
  return (
    <div
      role="group"
      aria-label={title}
      onKeyDown={(event) => {
        if (event.key !== 'Escape' || event.defaultPrevented) return;
        event.stopPropagation();
        close();
      }}
    >
      <div className="flex items-baseline gap-3 border-b border-rule pb-1">
        <h3 ref={heading} tabIndex={-1} className="min-w-0 flex-1 font-head font-semibold">
          {title}
        </h3>
        <button type="button" className="min-h-6 text-xs text-soft underline underline-offset-2 hover:text-ink" onClick={close}>
          back to the numbers
        </button>
      </div>
      {parts.error && !parts.data ? (
        <Failed problem={parts.error} retry={() => void parts.refetch()} />
      ) : !parts.data ? (
        <div className="h-24">
          <Waiting what="Looking what it is made of" />
        </div>
      ) : (
        <>
          <ul aria-label={title} className="max-h-[300px] overflow-y-auto">
            {parts.data.parts.map((part) => (
              <Part key={`${part.kind} ${part.id} ${part.start}`} me={me} today={today} part={part} />
            ))}
          </ul>
          <p className="flex justify-between border-t border-ink py-[6px] font-semibold">
            <span>
              In all
              {parts.data.more > 0 && <span className="font-normal text-soft">, with {count(parts.data.more, 'more')}</span>}
            </span>
            <span>{sayMinutes(parts.data.minutes)}</span>
          </p>
        </>
      )}
    </div>
  );
}

function Part({ me, today, part }: { me: Me; today: string; part: LedgerPart }): ReactNode {
  const [openTask, openEvent] = [useOpenTask(), useOpenEvent()];
  const { kind, id, taskId, occurrence, title, minutes } = part;
  const [start, end] = [Date.parse(part.start), Date.parse(part.end)];
  const open = taskId ? () => openTask(taskId) : kind === 'block' ? null : () => openEvent(id, occurrence);
  const name = kind === 'beside' ? `Beside “${title}”` : title;
  return (
    <li className="flex items-baseline gap-3 border-b border-rule py-[5px]">
      <span className="w-[104px] shrink-0 text-xs text-soft">
        {sayDay(dayOf(start, me.zone), today)}
        <br />
        {saySpan(start, end, me.zone)}
      </span>
      {open ? (
        <button type="button" className="min-h-6 min-w-0 flex-1 text-left underline-offset-2 hover:underline" onClick={open}>
          {name}
        </button>
      ) : (
        <span className="min-w-0 flex-1">{name}</span>
      )}
      <span className="shrink-0">{sayMinutes(minutes)}</span>
    </li>
  );
}
