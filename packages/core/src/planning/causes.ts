import type { Interval } from '../time/intervals';
import { isAtRisk, safeStarts, type Demand, type SafeStart } from './safeStart';

/** Work that puts other deadlines at risk. */
export interface Cause {
  id: string;
  /** Minutes it would have to give up so that the others are safe. */
  gives: number;
  /** The others: safe without it. */
  spares: string[];
}

/** A deadline as it is told: with what it causes, and without what it is safe. */
type Told = Pick<SafeStart, 'lateMinutes' | 'slackMinutes'> & { cause: object | null; sparedBy: string | null };

/** Whether a deadline is called at risk: whatever causes most of it, and what is not safe without those. */
export const isAtRiskItself = (one: Told): boolean => one.cause !== null || (isAtRisk(one) && one.sparedBy === null);

/** So many causes are named, and so many of the largest works are looked at for each. */
const MOST_CAUSES = 3;
const LOOKED_AT = 12;
/** One other deadline is a conflict of two, and nobody's fault. */
const LEAST_SPARED = 2;
/** Minutes in which it is reckoned what a cause would have to give. */
const STEP = 15;

const riskyOf = (free: readonly Interval[], demands: readonly Demand[]): Set<string> =>
  new Set(safeStarts(free, demands).flatMap((one) => (isAtRisk(one) ? one.id : [])));

/**
 * The few works for which most of the others are at risk, the worst first: each with those that are safe without it and the
 * causes before it.
 * @param free free working time from now on
 */
export function causesOf(free: readonly Interval[], demands: readonly Demand[]): Cause[] {
  const causes: Cause[] = [];
  let left = [...demands];
  let risky = riskyOf(free, left);
  while (causes.length < MOST_CAUSES && risky.size > LEAST_SPARED - 1) {
    const last = Math.max(...left.filter(({ id }) => risky.has(id)).map(({ deadline }) => deadline));
    const large = left
      .filter(({ deadline }) => deadline <= last)
      .sort((a, b) => b.minutes - a.minutes || (a.id < b.id ? -1 : 1))
      .slice(0, LOOKED_AT);
    let best: { cause: Demand; others: Demand[]; still: Set<string>; spares: string[] } | null = null;
    for (const cause of large) {
      const others = left.filter((one) => one !== cause);
      const still = riskyOf(free, others);
      const spares = others.flatMap(({ id }) => (risky.has(id) && !still.has(id) ? id : []));
      if (spares.length > Math.max(best?.spares.length ?? 0, LEAST_SPARED - 1)) best = { cause, others, still, spares };
    }
    if (!best) break;
    const { cause, others, still, spares } = best;
    causes.push({ id: cause.id, gives: leastOf(free, others, cause, spares), spares });
    [left, risky] = [others, still];
  }
  return causes;
}

/** The fewest minutes less of a cause with which the others are safe. */
function leastOf(free: readonly Interval[], others: readonly Demand[], cause: Demand, spares: readonly string[]): number {
  const safe = (less: number) => {
    const risky = riskyOf(free, [...others, { ...cause, minutes: cause.minutes - less }]);
    return spares.every((id) => !risky.has(id));
  };
  let [low, high] = [0, Math.ceil(cause.minutes / STEP)];
  while (low < high) {
    const middle = Math.floor((low + high) / 2);
    if (safe(Math.min(cause.minutes, middle * STEP))) high = middle;
    else low = middle + 1;
  }
  return Math.min(cause.minutes, low * STEP);
}
