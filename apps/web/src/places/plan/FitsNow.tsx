import type { ListInfo, Me } from '@corvun/contract';
import { dayOf, isAtRisk, sayMinutes, sayTime, wallOf, whatFits, type Fit } from '@corvun/core';
import { useEffect, useMemo, useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import { useRisks } from '../../data/planning';
import { useDays } from '../../data/queries';
import { beginTask } from '../../data/thingActions';
import { KEYS, keyName } from '../../keys';
import { Code, Key } from '../../parts/signs';
import { useOpenTask } from '../../sheets/open';
import type { Card } from './tray';

interface FitsProps {
  me: Me;
  now: number;
  lists: readonly ListInfo[];
  cards: readonly Card[];
  height: number;
}

/** Minutes that are looked at where nothing says how many there are, and the most that are. */
const USUAL = 25;
const MOST = 240;
const LEAST = 5;
const SHOWN = 9;

/** What can be done in the minutes there are, the best first; each is begun with one key. */
export function FitsNow({ me, now, lists, cards, height }: FitsProps): ReactNode {
  const list = useRef<HTMLOListElement>(null);
  const openTask = useOpenTask();
  const today = dayOf(now, me.zone);
  const days = useDays(today, 1).data;
  const risks = useRisks().data;
  const [typed, setTyped] = useState<string | null>(null);
  const gap = days?.[0]?.gaps.find(({ start, end }) => Date.parse(start) <= now && Date.parse(end) > now);
  const free = gap ? Math.floor((Date.parse(gap.end) - now) / 60_000) : 0;
  const usual = free >= LEAST ? Math.min(MOST, free) : USUAL;
  const minutes = typed === null ? usual : Number(typed);
  const wrong = !Number.isInteger(minutes) || minutes < 1 || minutes > 600;
  const { deep, parts } = me.settings.planning;
  const fits = useMemo(() => {
    const time = wallOf(now, me.zone).slice(11);
    return wrong
      ? []
      : whatFits(
          cards.map(({ task, minutes: left }) => ({ ...task, minutes: left, begun: task.status === 'IN-PROCESS' })),
          {
            minutes,
            today,
            parts,
            deep: deep.some((one) => one.slice(0, 5) <= time && time < one.slice(6)),
            atRisk: new Set((risks ?? []).filter(isAtRisk).map(({ taskId }) => taskId)),
          },
        ).slice(0, SHOWN);
  }, [cards, minutes, wrong, today, deep, parts, risks, now, me.zone]);
  useEffect(() => {
    if (wanted && fits.length) focusFits();
  }, [fits]);
  useEffect(
    () => () => {
      wanted = false;
    },
    [],
  );
  const go = (event: KeyboardEvent) => {
    const rows = [...(list.current?.querySelectorAll<HTMLElement>('[data-fit]') ?? [])];
    const at = rows.indexOf(event.target as HTMLElement);
    const by = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    const id = (event.target as HTMLElement).dataset['fit'];
    if (at < 0 || event.ctrlKey || event.metaKey || event.altKey) return;
    if (by) rows[at + by]?.focus();
    else if (event.key === KEYS.card.open && id) openTask(id);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <div id="tray-cards" role="tabpanel" aria-label="What fits now" className="overflow-y-auto px-4 pt-2 pb-3" style={{ height }}>
      <p className="flex flex-wrap items-baseline gap-x-2">
        <label htmlFor="fit-minutes">I have</label>
        <input
          id="fit-minutes"
          inputMode="numeric"
          autoComplete="off"
          className="w-12 border-b border-soft bg-transparent text-center tabular-nums"
          value={typed ?? String(usual)}
          aria-invalid={wrong}
          aria-describedby="fit-says"
          onChange={(event) => setTyped(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === 'Escape') setTyped(null);
            else if (event.key === 'Enter' || event.key === 'ArrowDown') focusFits();
            else return;
            event.preventDefault();
            event.stopPropagation();
          }}
        />
        <span>minutes</span>
        <span id="fit-says" role={wrong ? 'alert' : undefined} className={`text-xs ${wrong ? 'text-brick' : 'text-soft'}`}>
          {wrong
            ? 'Write a whole number of minutes, from 1 to 600.'
            : typed === null && gap
              ? `free until ${sayTime(Date.parse(gap.end), me.zone)}`
              : ''}
        </span>
      </p>
      {!wrong && !fits.length && (
        <p className="mt-2 text-soft">
          Nothing open fits into {sayMinutes(minutes)}. Work without a length counts as {sayMinutes(me.settings.lengths.medium)}.
        </p>
      )}
      {/* Rows are buttons; the arrow keys only go between them. */}
      <ol ref={list} aria-label={`Fits into ${minutes} min`} className="mt-2 border-b border-rule empty:hidden" onKeyDown={go}>
        {fits.map((fit, at) => (
          <Row key={fit.id} fit={fit} first={at === 0} card={cards.find(({ task }) => task.id === fit.id)} lists={lists} />
        ))}
      </ol>
    </div>
  );
}

/** Whether the focus is wanted on the best of what fits, which may not be there yet. */
let wanted = false;

/** Puts the focus on the best of what fits, as soon as it is there. */
export function focusFits(): void {
  const best = document.querySelector<HTMLElement>('[data-fit]');
  wanted = best === null;
  best?.focus();
}

function Row({
  fit,
  first,
  card,
  lists,
}: {
  fit: Fit;
  first: boolean;
  card: Card | undefined;
  lists: readonly ListInfo[];
}): ReactNode {
  if (!card) return null;
  const list = lists.find((one) => one.id === card.task.listId);
  return (
    <li className="border-t border-rule">
      <button
        type="button"
        data-fit={fit.id}
        className="group flex min-h-8 w-full items-baseline gap-2 py-1 text-left hover:bg-paper focus-visible:bg-paper"
        onClick={() => void beginTask(fit.id, fit.minutes)}
      >
        {list ? <Code code={list.code} hue={list.hue} /> : <span className="w-[25px] shrink-0" />}
        <span className={`min-w-0 truncate ${first ? 'font-semibold' : ''}`}>{card.task.title}</span>
        <span className="shrink-0 text-xs tabular-nums">{sayMinutes(fit.minutes)}</span>
        <span className="min-w-0 truncate text-xs text-soft">{fit.reasons.join(', ')}</span>
        <span
          className={`ml-auto shrink-0 pr-1 text-xs text-teal ${first ? '' : 'opacity-0 group-hover:opacity-100 group-focus:opacity-100'}`}
        >
          Begin <Key>{keyName('Enter')}</Key>
        </span>
      </button>
    </li>
  );
}
