import type { Instant } from '../time/zones';

/** What is not finished: its time is over, missed, waited for, begun, or done without saying how long it took. */
export type LooseEndKind = 'over' | 'reminder' | 'waiting' | 'begun' | 'took';

export interface LooseEnd {
  kind: LooseEndKind;
  /** The task, or the reminder. */
  id: string;
  taskId: string | null;
  title: string;
  at: Instant;
  /** Minutes that are left of it, or that were planned; null where nothing says. */
  minutes: number | null;
  /** On whom it waits; empty where it waits on nobody. */
  who: string;
}

const ORDER: readonly LooseEndKind[] = ['over', 'reminder', 'waiting', 'begun', 'took'];

/**
 * Loose ends, each task once: in the order in which they want something, the latest of a kind first.
 * @param busyWith ids of the tasks that are worked on just now, or have time to come
 */
export function looseEndsOf(found: readonly LooseEnd[], busyWith: ReadonlySet<string>): LooseEnd[] {
  const seen = new Set<string>();
  return [...found]
    .sort((a, b) => ORDER.indexOf(a.kind) - ORDER.indexOf(b.kind) || b.at - a.at || (a.id < b.id ? -1 : 1))
    .filter(({ kind, id, taskId }) => {
      // What is worked on, or will be, is no loose end; what is done or waits for somebody has no time to come that counts.
      if (taskId !== null && busyWith.has(taskId) && (kind === 'begun' || kind === 'over')) return false;
      const key = taskId ?? id;
      return seen.has(key) ? false : Boolean(seen.add(key));
    });
}
