import type { DayInfo, Me } from '@corvun/contract';
import { numberedGaps, type NumberedGap } from '@corvun/core';
import { KEYS } from '../../keys';
import { useKeys } from '../../parts/useKeys';
import { usePlanning } from './planning';

const NONE: readonly NumberedGap[] = [];
const MINUTE = 60_000;

/** Marks a time to be offered, or unmarks it. Two that would overlap are not both offered. */
export function turnOffered(start: number): void {
  const { offering } = usePlanning.getState();
  if (!offering) return;
  const { minutes, starts } = offering;
  const others = starts.filter((one) => Math.abs(one - start) >= minutes * MINUTE);
  usePlanning.setState({
    offering: { minutes, starts: starts.includes(start) ? others : [...others, start].sort((a, b) => a - b) },
  });
}

/** Begins to mark times. */
export const beginOffering = (minutes: number): void =>
  usePlanning.setState({ offering: { minutes: Math.max(30, minutes), starts: [] }, placing: null });

/** While times are marked: the gaps they fit into, each by its number as well as by a click. */
export function useOffering(me: Me, days: readonly DayInfo[], now: number): readonly NumberedGap[] {
  const offering = usePlanning((state) => state.offering);
  const gaps = offering
    ? numberedGaps(
        days.flatMap((day) => day.gaps.map((gap) => ({ start: Date.parse(gap.start), end: Date.parse(gap.end) }))),
        offering.minutes,
        now,
      )
    : NONE;
  const stop = () => usePlanning.setState({ offering: null });
  useKeys(
    offering
      ? {
          ...Object.fromEntries(gaps.map(({ number, slot }) => [String(number), () => turnOffered(slot.start)])),
          Escape: stop,
          [KEYS.plan.offer]: stop,
        }
      : { [KEYS.plan.offer]: () => beginOffering(me.settings.lengths.medium) },
  );
  return gaps;
}
