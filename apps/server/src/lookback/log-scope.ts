import type { Interval, LogEntry } from '@corvun/core';

/** Which part of the log is read. */
export interface Scope {
  window: Interval;
  /** Only these, by the table they are in; null: everything in the window. */
  found: ReadonlyMap<string, readonly string[]> | null;
  now: number;
}

/** Something of a day. */
export interface OnDay {
  day: string;
  entry: LogEntry;
}

/** Whether a table is read at all, and by which ids. @returns null: it is not; an empty condition: all of it */
export function among({ found }: Scope, table: string): { ids?: readonly string[] } | null {
  if (!found) return {};
  const ids = found.get(table) ?? [];
  return ids.length ? { ids } : null;
}
