import type { AgendaEntry, TimerInfo } from '@corvun/contract';
import { runningAt, sayMinutes, sayTime, timedOf, type Running, type TimedEntry } from '@corvun/core';

/** An entry of the day as something that runs or comes. */
export type Standing = TimedEntry<AgendaEntry>;

/** What one is at: a meeting, else what the timer runs on, else what the time is set aside for. */
export interface At {
  running: Running<Standing>;
  /** The meeting one is in. */
  event: Standing | null;
  /** The task one is at. */
  taskId: string | null;
  /** Its time, or that of no task: quiet, a break. */
  block: Standing | null;
}

export function at(entries: readonly AgendaEntry[], timer: Pick<TimerInfo, 'taskId'> | null, now: number): At {
  const running = runningAt(timedOf(entries), now);
  const all = running.now ? [running.now, ...running.also] : [];
  const event = running.now?.kind === 'event' ? running.now : null;
  const blocks = all.filter((one) => one.kind === 'block');
  const timed = timer ? blocks.find((one) => one.entry.taskId === timer.taskId) : undefined;
  const block = timer ? (timed ?? null) : (blocks.find((one) => one.entry.taskId !== null) ?? blocks[0] ?? null);
  return { running, event, taskId: timer?.taskId ?? block?.entry.taskId ?? null, block };
}

/** How long there is until something comes, or the day ends; null: nothing ends it. */
export function untilNext(next: Standing | null, working: readonly { end: string }[], now: number): number | null {
  const end = Date.parse(working.at(-1)?.end ?? '');
  const limits = [next ? (next.leave ?? next.start) : NaN, end].filter((limit) => limit > now);
  return limits.length ? Math.floor((Math.min(...limits) - now) / 60_000) : null;
}

/** What comes after: a gap, and what ends it. */
export function sayAfter({ gap, next }: Running<Standing>, zone: string): string {
  if (!next || gap === null) return 'nothing after it today';
  const name = next.entry.title;
  const when = next.leave === null ? '' : `, for which you get up at ${sayTime(next.leave, zone)}`;
  return gap ? `then a gap of ${sayMinutes(gap)} before ${name}${when}` : `then ${name} at once${when}`;
}

/** Minutes and seconds of a countdown, never below nothing. */
export function countdown(until: number, now: number): string {
  const seconds = Math.max(0, Math.ceil((until - now) / 1000));
  const [hours, minutes] = [Math.floor(seconds / 3600), Math.floor((seconds % 3600) / 60)];
  const pad = (number: number) => String(number).padStart(2, '0');
  return `${hours ? `${hours}:${pad(minutes)}` : minutes}:${pad(seconds % 60)}`;
}
