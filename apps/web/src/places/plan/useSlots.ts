import { useState } from 'react';
import type { Laid } from './grid';

interface Slots {
  day: string;
  of: ReadonlyMap<string, number>;
}

const nameOf = ({ entry }: Laid) => entry.id + entry.start;

/**
 * What each entry of a column is drawn in. As long as the column shows the same day an entry keeps its own; another day is
 * drawn in what is there already, which takes half the time.
 */
export function useSlots(day: string, laid: readonly Laid[]): (one: Laid) => number {
  const [slots, setSlots] = useState<Slots>(() => slotsOf({ day: '', of: new Map() }, day, laid));
  const next = slotsOf(slots, day, laid);
  if (next !== slots) setSlots(next);
  return (one) => next.of.get(nameOf(one)) ?? 0;
}

export function slotsOf(before: Slots, day: string, laid: readonly Laid[]): Slots {
  const names = laid.map(nameOf);
  if (before.day !== day) return { day, of: new Map(names.map((name, at) => [name, at])) };
  if (names.every((name) => before.of.has(name))) return before;
  const of = new Map(before.of);
  let free = Math.max(-1, ...of.values()) + 1;
  for (const name of names) if (!of.has(name)) of.set(name, free++);
  return { day, of };
}
