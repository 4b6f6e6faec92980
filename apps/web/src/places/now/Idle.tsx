import type { FittingTask, ListInfo, Me, NowState } from '@corvun/contract';
import { dayOf, sayMinutes, sayTime } from '@corvun/core';
import { useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import { useFits } from '../../data/doing';
import { useLists } from '../../data/queries';
import { beginTask } from '../../data/thingActions';
import { KEYS, keyName } from '../../keys';
import { Code, Key } from '../../parts/signs';
import { useKeys } from '../../parts/useKeys';
import { useOpenTask } from '../../sheets/open';
import { CameUp } from './CameUp';
import { Deeds } from './Deeds';
import { sayNext, untilNext, type At } from './standing';

const MOST = 240;
const USUAL = 25;

interface IdleProps {
  me: Me;
  now: number;
  state: NowState;
  at: At;
  working: readonly { start: string; end: string }[];
}

/** Nothing runs: how long there is, until what, and what fits into it, the best first. */
export function Idle({ me, now, at: { running, block }, working }: IdleProps): ReactNode {
  const { next } = running;
  const lists = useLists().data ?? [];
  const list = useRef<HTMLOListElement>(null);
  const openTask = useOpenTask();
  const [typed, setTyped] = useState<string | null>(null);
  const [came, setCame] = useState(false);
  const free = untilNext(next, working, now);
  const usual = free === null ? USUAL : Math.min(MOST, free);
  const minutes = typed === null ? usual : /^\d{1,3}$/.test(typed.trim()) ? Number(typed) : 0;
  const wrong = minutes < 1 || minutes > 600;
  const fits = useFits(wrong ? 0 : minutes);
  const end = working.at(-1)?.end;
  const before = working[0] && now < Date.parse(working[0].start);
  const until =
    next && dayOf(next.start, me.zone) === dayOf(now, me.zone)
      ? `until ${sayTime(next.leave ?? next.start, me.zone)}`
      : end && Date.parse(end) > now
        ? `until the day ends at ${sayTime(Date.parse(end), me.zone)}`
        : '';
  const focusFirst = () => list.current?.querySelector<HTMLElement>('[data-fit]')?.focus();
  useKeys({ [KEYS.now.fits]: focusFirst });
  const go = (event: KeyboardEvent) => {
    const rows = [...(list.current?.querySelectorAll<HTMLElement>('[data-fit]') ?? [])];
    const row = rows.indexOf(event.target as HTMLElement);
    const by = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    const id = (event.target as HTMLElement).dataset['fit'];
    if (row < 0 || event.ctrlKey || event.metaKey || event.altKey) return;
    if (by) rows[row + by]?.focus();
    else if (event.key === KEYS.now.open && id) openTask(id);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
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
        <input
          id="now-minutes"
          inputMode="numeric"
          autoComplete="off"
          className="w-[3ch] border-b-2 border-soft bg-transparent text-center tabular-nums"
          value={typed ?? String(usual)}
          aria-invalid={wrong}
          aria-describedby="now-minutes-wrong"
          onChange={(event) => setTyped(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === 'Escape') setTyped(null);
            else if (event.key === 'Enter' || event.key === 'ArrowDown') focusFirst();
            else return;
            event.preventDefault();
            event.stopPropagation();
          }}
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
            {fits.data.length
              ? `What fits into ${sayMinutes(minutes)}, the best first`
              : `Nothing open fits into ${sayMinutes(minutes)}.`}
            {fits.data.length > 0 && <Key>{keyName(KEYS.now.fits)}</Key>}
          </p>
          {/* Rows are buttons; the arrow keys only go between them. */}
          <ol
            ref={list}
            aria-label={`Fits into ${minutes} min`}
            className="mt-1 border-b border-rule empty:hidden"
            onKeyDown={go}
          >
            {fits.data.map((fit, place) => (
              <Row key={fit.taskId} fit={fit} first={place === 0} lists={lists} />
            ))}
          </ol>
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

function Row({ fit, first, lists }: { fit: FittingTask; first: boolean; lists: readonly ListInfo[] }): ReactNode {
  const list = lists.find(({ id }) => id === fit.listId);
  return (
    <li className="border-t border-rule">
      <button
        type="button"
        data-fit={fit.taskId}
        className="group flex min-h-9 w-full items-baseline gap-2 py-[6px] text-left hover:bg-paper focus-visible:bg-paper"
        onClick={() => void beginTask(fit.taskId, fit.minutes)}
      >
        {list ? <Code code={list.code} hue={list.hue} /> : <span className="w-[25px] shrink-0" />}
        <span className={`min-w-0 truncate ${first ? 'font-semibold' : ''}`}>{fit.title}</span>
        <span className="shrink-0 text-xs tabular-nums">{sayMinutes(fit.minutes)}</span>
        <span className="min-w-0 truncate text-xs text-soft max-md:hidden">{fit.reasons.join(', ')}</span>
        <span
          className={`ml-auto shrink-0 pr-1 text-xs text-teal ${first ? '' : 'opacity-0 group-hover:opacity-100 group-focus:opacity-100'}`}
        >
          Begin <Key>{keyName('Enter')}</Key>
        </span>
      </button>
    </li>
  );
}
