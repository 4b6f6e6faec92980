import type { Me } from '@corvun/contract';
import { dayOf, sayMinutes, sayNext, sayTime } from '@corvun/core';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { useFits } from '../../data/doing';
import { useLists } from '../../data/queries';
import { KEYS, keyName } from '../../keys';
import { FitList, MinutesField, focusBest } from '../../parts/FitList';
import { Key } from '../../parts/signs';
import { useKeys } from '../../parts/useKeys';
import { CameUp } from './CameUp';
import { Deeds } from './Deeds';
import { untilNext, type At } from './standing';

const MOST = 240;
const USUAL = 25;

interface IdleProps {
  me: Me;
  now: number;
  at: At;
  working: readonly { start: string; end: string }[];
}

/** Nothing runs: how long there is, until what, and what fits into it, the best first. */
export function Idle({ me, now, at: { running, block }, working }: IdleProps): ReactNode {
  const { next } = running;
  const lists = useLists().data ?? [];
  const [typed, setTyped] = useState<string | null>(null);
  const [came, setCame] = useState(false);
  /** Whether the focus is wanted on the best of what fits. */
  const wanted = useRef(false);
  const before = working[0] !== undefined && now < Date.parse(working[0].start);
  // Before the day begins, and where there is no end to it, one has what one takes.
  const free = before && !next ? null : untilNext(next, working, now);
  const usual = free === null ? USUAL : Math.min(MOST, free);
  const minutes = typed === null ? usual : /^\d{1,3}$/.test(typed.trim()) ? Number(typed) : 0;
  const wrong = minutes < 1 || minutes > 600;
  const fits = useFits(wrong ? 0 : minutes);
  const end = working.at(-1)?.end;
  const until =
    free === null || free > MOST
      ? ''
      : next && dayOf(next.start, me.zone) === dayOf(now, me.zone)
        ? `until ${sayTime(next.leave ?? next.start, me.zone)}`
        : end && Date.parse(end) > now
          ? `until the day ends at ${sayTime(Date.parse(end), me.zone)}`
          : '';
  // What is shown meanwhile is what fitted before.
  const fresh = fits.data !== undefined && !fits.isPlaceholderData;
  const goToBest = () => {
    wanted.current = !fresh || !focusBest();
  };
  useKeys({ [KEYS.now.fits]: goToBest });
  useEffect(() => {
    if (wanted.current && fresh) wanted.current = !focusBest();
  }, [fresh]);
  return (
    <section aria-label="What runs">
      <p className="text-xs text-soft">
        {block
          ? `${block.entry.title}, until ${sayTime(block.end, me.zone)}`
          : before
            ? 'The day has not begun'
            : 'Nothing is planned just now'}
      </p>
      <h1 className="mt-1 flex flex-wrap items-baseline gap-x-2 font-head text-lg font-bold tracking-tight">
        <label htmlFor="now-minutes">I have</label>
        <MinutesField
          id="now-minutes"
          className="w-[3ch] border-b-2"
          value={typed ?? String(usual)}
          wrong={wrong}
          says="now-minutes-wrong"
          set={setTyped}
          go={goToBest}
        />
        minutes {typed === null && until}
      </h1>
      <p id="now-minutes-wrong" role="alert" className="text-xs text-brick empty:hidden">
        {wrong && typed !== null ? 'Write a whole number of minutes, from 1 to 600.' : ''}
      </p>
      {next && <p className="mt-2 text-soft">Next: {sayNext(next, now, me.zone)}</p>}
      {fits.data && (
        <>
          <p className="mt-6 flex items-baseline gap-2 text-xs text-soft">
            {fits.data.fits.length
              ? `What fits into ${sayMinutes(fits.data.minutes)}, the best first`
              : `Nothing open fits into ${sayMinutes(fits.data.minutes)}.`}
            {fits.data.fits.length > 0 && <Key>{keyName(KEYS.now.fits)}</Key>}
          </p>
          <FitList
            atOnce={fresh}
            fits={fits.data.fits.map(({ taskId, ...fit }) => ({ ...fit, id: taskId }))}
            minutes={fits.data.minutes}
            lists={lists}
            openKey={KEYS.now.open}
          />
        </>
      )}
      <Deeds
        label="What can be done"
        deeds={[{ key: KEYS.now.cameUp, name: 'Something came up', expanded: came, run: () => setCame(true) }]}
      />
      {came && <CameUp close={() => setCame(false)} />}
    </section>
  );
}
