import { dayOf, daysBetween, type Day, type Zone } from '../time/zones';

/** How far a project is: its steps are the tasks on its list. */
export interface ProjectProgress {
  done: number;
  open: number;
  /** Of tasks that say how long they take, or what they took. */
  minutesDone: number;
  minutesLeft: number;
  /** When one of them was done last. */
  lastDone: string | null;
  /** The first that can be done now: it waits for nobody and for no day. */
  next: { id: string; title: string } | null;
}

/** Days after which a project in which nothing was done is stalled. */
export const STALLED = 14;

/** Why a project does not move, in a sentence; empty where it does, or where nothing is left of it. */
export function sayStalled({ open, next, lastDone }: ProjectProgress, begun: string, today: Day, zone: Zone): string {
  if (!open) return '';
  if (!next) return 'It has no step that can be done now.';
  const since = dayOf(Date.parse(lastDone ?? begun), zone);
  const days = daysBetween(since, today);
  if (days < STALLED) return '';
  return `Nothing was done for ${days < 60 ? `${days} days` : `${Math.floor(days / 30)} months`}.`;
}

/** What share of a project is done, 0 to 1: by minutes where they are known, else by steps. */
export function shareDone({ done, open, minutesDone, minutesLeft }: ProjectProgress): number {
  const minutes = minutesDone + minutesLeft;
  if (minutes > 0) return minutesDone / minutes;
  return done + open > 0 ? done / (done + open) : 0;
}
