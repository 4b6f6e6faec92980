import type { DayInfo, Me } from '@corvun/contract';
import { addDays, numberedGaps, type NumberedGap } from '@corvun/core';
import { useMemo, type KeyboardEvent } from 'react';
import { put } from './moves';
import { entryKey, usePlanning, type Placing } from './planning';
import { lengthOf } from './targets';
import { minuteOn } from './grid';
import type { Card } from './tray';

const NINE = 9 * 60;

interface Placement {
  /** The gaps that fit what is being placed, by number. */
  gaps: readonly NumberedGap[];
  take: (gap: NumberedGap) => void;
  /** Begins with cards, at the first gap that fits. */
  begin: (cards: readonly Card[]) => void;
  /** Heard before any entry or card hears it. */
  onKeyDownCapture: (event: KeyboardEvent) => void;
}

/** Puts cards and entries somewhere by keys: arrows, Shift with ↑ ↓ for the length, a number for a gap, 0 for no time, Enter. */
export function usePlacingKeys(
  me: Me,
  days: readonly DayInfo[],
  now: number,
  dragged: Placing | null,
  turn: (by: number) => void,
): Placement {
  const { placing, place } = usePlanning();
  const { snap } = me.settings;
  const wanted = placing?.what === 'cards' ? placing : dragged?.what === 'cards' ? dragged : placing;
  const length = placing ? placing.target.minutes : wanted ? lengthOf(wanted) : 0;
  const gapsFor = (minutes: number) =>
    numberedGaps(
      days.flatMap((day) => day.gaps.map((gap) => ({ start: Date.parse(gap.start), end: Date.parse(gap.end) }))),
      minutes,
      now,
    );
  const gaps = useMemo(() => (wanted && length ? gapsFor(length) : []), [days, wanted, length, now]);
  const targetIn = (gap: NumberedGap, minutes: number) => {
    const iso = new Date(gap.slot.start).toISOString();
    const day =
      days.find((one) => minuteOn(iso, one.day, me.zone) < 1440 && minuteOn(iso, one.day, me.zone) > 0)?.day ??
      days[0]?.day ??
      '';
    return { day, from: minuteOn(iso, day, me.zone), minutes };
  };
  const finish = (target: NonNullable<typeof placing>['target']) => {
    if (!placing) return;
    place(null);
    if (placing.what !== 'cards') usePlanning.setState({ focus: entryKey(placing.entry) });
    void put(placing, target, me, days);
  };
  const onKeyDownCapture = (event: KeyboardEvent) => {
    if (!placing || event.ctrlKey || event.metaKey || event.altKey) return;
    const { target } = placing;
    const gap = gaps.find((one) => String(one.number) === event.key);
    const by = { ArrowUp: -snap, ArrowDown: snap }[event.key] ?? 0;
    const across = { ArrowLeft: -1, ArrowRight: 1 }[event.key] ?? 0;
    if (gap) finish(targetIn(gap, target.minutes));
    else if (event.key === '0') finish({ ...target, from: null });
    else if (event.key === 'Enter') finish(target);
    else if (event.key === 'Escape') place(null);
    else if (by && event.shiftKey) place({ ...placing, target: { ...target, minutes: Math.max(snap, target.minutes + by) } });
    else if (by && target.from !== null)
      place({ ...placing, target: { ...target, from: Math.min(1440 - snap, Math.max(0, target.from + by)) } });
    else if (across) {
      const day = addDays(target.day, across);
      if (!days.some((one) => one.day === day)) turn(across);
      place({ ...placing, target: { ...target, day } });
    } else if (event.key !== 'Tab') return;
    event.preventDefault();
    event.stopPropagation();
  };
  return {
    gaps,
    take: (gap) => finish(targetIn(gap, length)),
    begin: (cards) => {
      const minutes = cards.reduce((sum, card) => sum + card.minutes, 0);
      const [first] = gapsFor(minutes);
      const target = first ? targetIn(first, minutes) : { day: days[0]?.day ?? '', from: NINE, minutes };
      place({ what: 'cards', cards, target });
    },
    onKeyDownCapture,
  };
}
