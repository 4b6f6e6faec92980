import type { ReminderInfo } from '@corvun/contract';
import { dayOf, instantOf, sayDay, sayMinutes, sayTime } from '@corvun/core';

/** Whether it has a sheet. */
export const opens = ({ kind, taskId }: ReminderInfo) => kind === 'event' || taskId !== null;
/** When it begins; a whole day at its midnight. */
export const startOf = ({ start }: ReminderInfo, zone: string) =>
  start.length === 10 ? instantOf(`${start}T00:00`, zone) : Date.parse(start);
/** What it says in big: how long until it, or what it is. */
export function untilOf({ why, start }: ReminderInfo, ahead: number): string {
  if (why === 'leave') return 'Time to leave';
  if (why === 'task') return 'You wanted to think of this';
  if (start.length === 10) return 'All day';
  if (ahead > 0) return `In ${sayMinutes(ahead)}`;
  return ahead > -2 ? 'Begins now' : `Began ${sayMinutes(-ahead)} ago`;
}

/** Its times, with the day where that is another one. */
export function whenOf({ start, end, why }: ReminderInfo, now: number, zone: string): string {
  const today = dayOf(now, zone);
  if (start.length === 10) return sayDay(start, today);
  const at = Date.parse(start);
  const day = dayOf(at, zone) === today ? '' : `${sayDay(dayOf(at, zone), today)}, `;
  return `${day}${sayTime(at, zone)}${why === 'task' ? '' : `–${sayTime(Date.parse(end), zone)}`}`;
}

/** Whether it can wait until a quiet time is over: what others wait for, and the way to it, cannot. */
export const heldBack = ({ kind, why }: Pick<ReminderInfo, 'kind' | 'why'>): boolean => kind !== 'event' && why !== 'leave';
