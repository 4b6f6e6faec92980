/** Numbers from 0 to 1, the same in the same order for a seed (mulberry32), so that the same problem has the same plan. */
export function randomFrom(seed: number): Random {
  let state = seed;
  const next = () => {
    state = (state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
  };
  const upTo = (count: number) => Math.floor(next() * count);
  return { next, upTo, once: (chance) => next() < chance, oneOf: (all) => all[upTo(all.length)] };
}

export interface Random {
  /** From 0 to 1, without 1. */
  next: () => number;
  /** A whole number from 0, without the count. */
  upTo: (count: number) => number;
  /** True that often: 1 is always. */
  once: (chance: number) => boolean;
  oneOf: <T>(all: readonly T[]) => T | undefined;
}
