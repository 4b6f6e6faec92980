import type { DeadlineRisk, Me, RiskMends } from '@corvun/contract';
import { count, dayOf, sayDay, sayMinutes, sayMoment, sayTime } from '@corvun/core';
import type { ReactNode } from 'react';
import { changeTask } from '../../data/thingActions';
import { useLetters } from '../../sheets/drafts';
import { useHandOver, useOpenTask } from '../../sheets/open';
import { moveAfter } from './moves';

interface RiskProps {
  risk: DeadlineRisk;
  me: Me;
  today: string;
  /** Something was opened from it. */
  close: () => void;
}

/** A deadline at risk: why, and what would mend it. */
export function RiskLine({ risk: one, me, today, close }: RiskProps): ReactNode {
  const open = useOpenTask();
  return (
    <li>
      <button
        type="button"
        className="text-left font-semibold underline underline-offset-2"
        onClick={() => {
          close();
          open(one.taskId);
        }}
      >
        {one.title}
      </button>
      <p className="text-xs text-soft">
        {one.fixed ? 'fixed' : 'flexible'}, due {sayMoment(one.deadline, today)}; {sayMinutes(one.minutes)} of work left
      </p>
      <p className="text-xs text-amber">{sayRisk(one, me, today)}</p>
      {one.cause && (
        <p className="text-xs">
          {count(one.cause.spares.length, 'other deadline')} would be safe if it gave {sayMinutes(one.cause.gives)}: do so much
          less of it, or give it more time.
        </p>
      )}
      {one.mends && <Mending risk={one} mends={one.mends} me={me} today={today} close={close} />}
    </li>
  );
}

interface MendingProps extends RiskProps {
  mends: RiskMends;
}

/** What would let it fit, each with one press. */
function Mending({ risk, mends, me, today, close }: MendingProps): ReactNode {
  const open = useOpenTask();
  const handOver = useHandOver();
  const { shorten, later, moves } = mends;
  const until =
    later === null ? null : `${sayDay(dayOf(Date.parse(later), me.zone), today)} ${sayTime(Date.parse(later), me.zone)}`;
  const left = risk.minutes - shorten;
  const ask = (by: string) => {
    close();
    useLetters
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
      <li>
        <button
          type="button"
          className={mend}
          onClick={() => {
            close();
            handOver(risk.taskId);
          }}
        >
          Hand it over …
        </button>
      </li>
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

export function sayRisk({ lastSafeStart, lateMinutes }: DeadlineRisk, { zone }: Me, today: string): string {
  if (lastSafeStart === null) return `${sayMinutes(lateMinutes)} too little time`;
  const at = Date.parse(lastSafeStart);
  const day = dayOf(at, zone);
  return `start by ${day === today ? '' : `${sayDay(day, today)} `}${sayTime(at, zone)}`;
}
