import type { Me } from '@corvun/contract';
import { dayOf, sayNext, sayTime } from '@corvun/core';
import type { ReactNode } from 'react';
import { startTimer, useNowState } from '../../data/doing';
import { useDays } from '../../data/queries';
import { KEYS, keyName } from '../../keys';
import { Key } from '../../parts/signs';
import { Failed, Waiting } from '../../parts/states';
import { useKeys } from '../../parts/useKeys';
import { useNow } from '../../parts/useNow';
import { AsksLine } from './AsksLine';
import { Attending } from './Attending';
import { Doing } from './Doing';
import { HeadsDown } from './HeadsDown';
import { Idle } from './Idle';
import { LooseEnds } from './LooseEnds';
import { OutsideLine } from './OutsideLine';
import { PresenceLine } from './PresenceLine';
import { QuietLine } from './QuietLine';
import { RestOfDay } from './RestOfDay';
import { at as standAt } from './standing';

/** Days that are asked for; the band asks for the same. */
const AHEAD = 14;

/** What is happening, what is next, and doing it. */
export function NowPlace({ me }: { me: Me }): ReactNode {
  const now = useNow(5000);
  const today = dayOf(now, me.zone);
  const days = useDays(today, AHEAD);
  const state = useNowState(true);
  const paused = state.data?.paused ?? null;
  useKeys(paused && !state.data?.headsDown ? { [KEYS.now.measure]: () => void startTimer(paused.taskId) } : {});
  const problem = days.error ?? state.error;
  if (problem && !(days.data && state.data))
    return <Failed problem={problem} retry={() => void Promise.all([days.refetch(), state.refetch()])} />;
  const day = days.data?.find((one) => one.day === today);
  if (!state.data || !day) return <Waiting what="Looking what runs" />;
  const at = standAt(day.entries, state.data.timer, now);
  const { headsDown, loose } = state.data;
  if (headsDown) return <HeadsDown me={me} alone={headsDown} next={at.running.next} paused={paused !== null} />;
  const common = { me, now, state: state.data, at };
  const { next } = at.running;
  return (
    <div className="flex h-full flex-col max-md:overflow-y-auto">
      <div className="flex min-h-0 flex-1 max-md:flex-none max-md:flex-col">
        <div className="min-w-0 flex-1 overflow-y-auto bg-card px-10 pt-9 pb-8 max-md:overflow-visible max-md:px-4 max-md:pt-5">
          {paused && (
            <p className="mb-5 flex flex-wrap items-center gap-x-3 border-l-2 border-amber bg-amber-wash px-3 py-1">
              “{paused.title}” was left at {sayTime(Date.parse(paused.at), me.zone)} for something that came up.
              <button
                type="button"
                className="flex min-h-7 items-center gap-[6px] font-semibold hover:text-teal"
                onClick={() => void startTimer(paused.taskId)}
              >
                <Key>{keyName(KEYS.now.measure)}</Key> Back to it
              </button>
            </p>
          )}
          {at.event ? (
            <Attending {...common} event={at.event} />
          ) : at.taskId ? (
            <Doing key={at.taskId} {...common} taskId={at.taskId} />
          ) : (
            <Idle me={me} now={now} at={at} working={day.working} />
          )}
          {next && (at.event ?? at.taskId) && (
            <p className="mt-8 border-t border-rule pt-3 text-soft">Next: {sayNext(next, now, me.zone)}</p>
          )}
          <PresenceLine me={me} />
          <QuietLine me={me} now={now} />
          <OutsideLine today={today} />
          <AsksLine />
        </div>
        <div className="w-[400px] shrink-0 border-l border-rule max-lg:w-[320px] max-md:h-[420px] max-md:w-full max-md:border-t max-md:border-l-0">
          <RestOfDay me={me} now={now} day={day} />
        </div>
      </div>
      {loose.length > 0 && <LooseEnds me={me} now={now} loose={loose} />}
    </div>
  );
}
