import type { DayPlanInfo, PassKind, PassState } from '@corvun/contract';

/**
 * Which pass it is time for: the day is opened until it is time to close it; null where none is.
 * @param now wall-clock time, `HH:MM`
 */
export function passDue({ running, today }: PassState, closeAt: string | null, now: string): PassKind | null {
  if (running || isClosed(today)) return null;
  if (closeAt !== null && now >= closeAt) return 'close-day';
  return today.opened === null ? 'open-day' : null;
}

/** Whether the day is closed, and was not opened again. */
export const isClosed = ({ opened, closed }: DayPlanInfo): boolean =>
  closed !== null && (opened === null || Date.parse(opened) <= Date.parse(closed));
