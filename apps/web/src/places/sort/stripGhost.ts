import type { DayInfo, Me } from '@corvun/contract';
import { instantOf, type Day, type Instant, type NumberedGap } from '@corvun/core';

/** Hours that the strip shows. */
export const FROM = 8;
export const TO = 18;
/** Minutes around the beginning of a gap in which that is meant. */
const NEAR = 10;

/** Where something that is dragged over the strip would stand. */
export interface Ghost {
  day: Day;
  start: Instant;
  end: Instant;
  /** What stands there already; empty where it is free. */
  over: string[];
}

interface Pointed {
  day: DayInfo;
  /** How far across the day the pointer is, from 0 to 1. */
  share: number;
  minutes: number;
  gaps: readonly NumberedGap[];
  me: Me;
}

/** The time that is pointed at, as Plan snaps to it; the beginning of a gap where that is near. */
export function ghostAt({ day, share, minutes, gaps, me }: Pointed): Ghost {
  const { snap } = me.settings;
  const wanted = FROM * 60 + share * (TO - FROM) * 60;
  const minute = Math.min(TO * 60 - snap, Math.max(FROM * 60, Math.floor(wanted / snap) * snap));
  const wall = `${String(Math.floor(minute / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`;
  const pointed = instantOf(`${day.day}T${wall}`, me.zone);
  const near = gaps.find(({ slot }) => Math.abs(slot.start - pointed) <= NEAR * 60_000);
  const start = near?.slot.start ?? pointed;
  const end = start + minutes * 60_000;
  const over = day.entries.filter(
    (entry) =>
      entry.start !== null &&
      entry.end !== null &&
      !entry.allDay &&
      entry.kind !== 'task' &&
      entry.showAs !== 'free' &&
      Date.parse(entry.start) < end &&
      start < Date.parse(entry.end),
  );
  return { day: day.day, start, end, over: over.map(({ title }) => title) };
}
