import type { DeadlineRisk, Me, RiskMends } from '@corvun/contract';
import { count, dayOf, isAtRisk, sayDay, sayMinutes, sayMoment, sayTime } from '@corvun/core';
import { Popover } from 'radix-ui';
import { useState, type ReactNode } from 'react';
import { useRisks } from '../../data/planning';
import { changeTask } from '../../data/thingActions';
import { useWritten } from '../../sheets/drafts';
import { useOpenTask } from '../../sheets/open';
import { moveAfter } from './moves';

/** Deadlines that are at risk while something can still be done about them. */
export function AtRisk({ me, today }: { me: Me; today: string }): ReactNode {
  const risks = (useRisks().data ?? []).filter(isAtRisk);
  const [shown, setShown] = useState(false);
  const open = useOpenTask();
  const [first] = risks;
  if (!first) return null;
  return (
    <Popover.Root open={shown} onOpenChange={setShown}>
      <Popover.Trigger className="flex min-h-6 min-w-0 items-baseline gap-1 text-left text-amber hover:underline max-md:order-last max-md:w-full">
        <span className={`peg shrink-0 ${first.fixed ? 'peg-fixed' : ''}`} aria-hidden="true" />
        <span className="truncate">
          {count(risks.length, 'deadline')} at risk
          <span className="max-[1500px]:sr-only">
            : {first.title}, {sayRisk(first, me, today)}
          </span>
        </span>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label="Deadlines at risk"
          align="end"
          sideOffset={4}
          collisionPadding={8}
          className="z-50 max-h-[60vh] w-[380px] overflow-y-auto border border-ink bg-card p-3 shadow-lg max-md:w-[calc(100vw-16px)]"
        >
          <ul className="flex flex-col gap-2">
            {risks.map((one) => (
              <li key={one.taskId}>
                <button
                  type="button"
                  className="text-left font-semibold underline underline-offset-2"
                  onClick={() => {
                    setShown(false);
                    open(one.taskId);
                  }}
                >
                  {one.title}
                </button>
                <p className="text-xs text-soft">
                  {one.fixed ? 'fixed' : 'flexible'}, due {sayMoment(one.deadline, today)}; {sayMinutes(one.minutes)} of work left
                </p>
                <p className="text-xs text-amber">{sayRisk(one, me, today)}</p>
                {one.mends && <Mending risk={one} mends={one.mends} me={me} today={today} close={() => setShown(false)} />}
              </li>
            ))}
          </ul>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

interface MendingProps {
  risk: DeadlineRisk;
  mends: RiskMends;
  me: Me;
  today: string;
  close: () => void;
}

/** What would let it fit, each with one press. */
function Mending({ risk, mends, me, today, close }: MendingProps): ReactNode {
  const open = useOpenTask();
  const { shorten, later, moves } = mends;
  const until =
    later === null ? null : `${sayDay(dayOf(Date.parse(later), me.zone), today)} ${sayTime(Date.parse(later), me.zone)}`;
  const left = risk.minutes - shorten;
  const ask = (by: string) => {
    close();
    useWritten
      .getState()
      .write(
        `reply-${risk.incomingId}`,
        `“${risk.title}” does not fit before ${sayMoment(risk.deadline, today)}. Could I have until ${by}?`,
      );
    open(risk.taskId);
  };
  return (
    <ul className="mt-1 flex flex-wrap gap-[6px] text-xs">
      {left > 0 && (
        <li>
          <button type="button" className={mend} onClick={() => void changeTask(risk.taskId, { estimate: risk.spent + left })}>
            Take {sayMinutes(shorten)} off it
          </button>
        </li>
      )}
      {moves.map((one) => (
        <li key={one.block}>
          <button type="button" className={mend} onClick={() => void moveAfter(one, risk.deadline.slice(0, 10), me)}>
            Move “{one.title}”, {sayDay(dayOf(Date.parse(one.start), me.zone), today)} {sayTime(Date.parse(one.start), me.zone)}
          </button>
        </li>
      ))}
      {until !== null && risk.incomingId !== null && (
        <li>
          <button type="button" className={mend} onClick={() => ask(until)}>
            Ask for time until {until}
          </button>
        </li>
      )}
    </ul>
  );
}

const mend = 'min-h-6 border border-ink px-2 text-left hover:bg-paper';

function sayRisk({ lastSafeStart, lateMinutes }: DeadlineRisk, { zone }: Me, today: string): string {
  if (lastSafeStart === null) return `${sayMinutes(lateMinutes)} too little time`;
  const at = Date.parse(lastSafeStart);
  const day = dayOf(at, zone);
  return `start by ${day === today ? '' : `${sayDay(day, today)} `}${sayTime(at, zone)}`;
}
