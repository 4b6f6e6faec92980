import type { DayPlanInfo, PassKind, PassState } from '@corvun/contract';
import { weekInReview, weekdayOf, type DayRules } from '@corvun/core';

/** What passes are called. */
export const PASS_NAMES: Record<PassKind, string> = {
  'open-day': 'Open the day',
  'close-day': 'Close the day',
  'week-review': 'Week review',
  'clear-decks': 'Clear the decks',
};

/**
 * Which pass it is time for: the day is opened until it is time to close it, and on the day for it the week is reviewed once;
 * null where none is.
 * @param now wall-clock time, `HH:MM`
 */
export function passDue(
  { running, today, reviewed }: PassState,
  { closeAt, reviewDay }: Pick<DayRules, 'closeAt' | 'reviewDay'>,
  now: string,
): PassKind | null {
  if (running || isClosed(today)) return null;
  if (closeAt !== null && now >= closeAt) return 'close-day';
  if (today.opened === null) return 'open-day';
  const due = reviewDay !== null && weekdayOf(today.day) === reviewDay;
  const done = reviewed !== null && weekInReview(reviewed).week === weekInReview(today.day).week;
  return due && !done ? 'week-review' : null;
}

/** Whether the day is closed, and was not opened again. */
export const isClosed = ({ opened, closed }: DayPlanInfo): boolean =>
  closed !== null && (opened === null || Date.parse(opened) <= Date.parse(closed));
