import type { ListInfo, Me } from '@corvun/contract';
import { dayOf, isAtRiskItself, sayMinutes, sayTime, wallOf, whatFits } from '@corvun/core';
import { useEffect, useMemo, useState, type ReactNode } from 'react';
import { useRisks } from '../../data/planning';
import { useDays } from '../../data/queries';
import { KEYS } from '../../keys';
import { FitList, MinutesField, focusBest } from '../../parts/FitList';
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
            atRisk: new Set((risks ?? []).filter(isAtRiskItself).map(({ taskId }) => taskId)),
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
  const rows = fits.flatMap(({ id, minutes: own, reasons }) => {
    const task = cards.find((one) => one.task.id === id)?.task;
    return task ? [{ id, title: task.title, listId: task.listId, minutes: own, reasons }] : [];
  });
  return (
    <div id="tray-cards" role="tabpanel" aria-label="What fits now" className="overflow-y-auto px-4 pt-2 pb-3" style={{ height }}>
      <p className="flex flex-wrap items-baseline gap-x-2">
        <label htmlFor="fit-minutes">I have</label>
        <MinutesField
          id="fit-minutes"
          className="w-12"
          value={typed ?? String(usual)}
          wrong={wrong}
          says="fit-says"
          set={setTyped}
          go={focusFits}
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
      <FitList fits={rows} minutes={minutes} lists={lists} openKey={KEYS.card.open} />
    </div>
  );
}

/** Whether the focus is wanted on the best of what fits, which may not be there yet. */
let wanted = false;

/** Puts the focus on the best of what fits, as soon as it is there. */
export function focusFits(): void {
  wanted = !focusBest();
}
