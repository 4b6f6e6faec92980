/** A value that two places can both keep. */
export type Value = string | number | boolean | null;
export type Fields = Readonly<Record<string, Value>>;

/** One field that both places changed, each to something else. */
export interface Conflict {
  field: string;
  base: Value;
  here: Value;
  there: Value;
}

export interface Merged {
  /** What this place has to change. */
  toHere: Record<string, Value>;
  /** What the other place has to change. */
  toThere: Record<string, Value>;
  /** The new last common state: of fields in conflict the old one. */
  base: Record<string, Value>;
  conflicts: Conflict[];
}

/**
 * The last common state, once what was on its way to the other place is seen there. Without it, a change taken back here
 * while it was being written there would look as if the other place had made it.
 * @param sending what was last sent and not yet seen there
 * @returns the common state to merge against, and what is still on its way
 */
export function seenThere(base: Fields, sending: Fields, there: Fields): { base: Fields; sending: Fields } {
  const arrived = Object.entries(sending).filter(([field, value]) => field in there && there[field] === value);
  const names = new Set(arrived.map(([field]) => field));
  return {
    base: { ...base, ...Object.fromEntries(arrived) },
    sending: Object.fromEntries(Object.entries(sending).filter(([field]) => !names.has(field))),
  };
}

/**
 * Merges two states of one thing field by field against the last state both had in common.
 * Whoever changed a field alone is followed; equal changes agree; a field changed differently on both sides is
 * left alone on both and given back as a conflict. A field that `there` does not have is left out.
 */
export function merge(base: Fields, here: Fields, there: Fields): Merged {
  const merged: Merged = { toHere: {}, toThere: {}, base: { ...base }, conflicts: [] };
  for (const field of Object.keys(there)) {
    const was = base[field] ?? null;
    const ours = here[field] ?? null;
    const theirs = there[field] ?? null;
    if (ours === theirs) merged.base[field] = ours;
    else if (ours === was) {
      merged.toHere[field] = theirs;
      merged.base[field] = theirs;
    } else if (theirs === was) {
      merged.toThere[field] = ours;
    } else {
      merged.conflicts.push({ field, base: was, here: ours, there: theirs });
    }
  }
  return merged;
}
