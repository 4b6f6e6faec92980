import type { StreamChange } from '@corvun/contract';
import { KINDS, isKind } from './kinds';

/** Ids of one kind that are told one by one; where more changed, the whole kind did. */
const MOST_IDS = 200;

/** What windows are told of steps: ids by kind; none stand for all of the kind. */
export function told(steps: readonly { kind: string; id: string }[]): StreamChange[] {
  const byKind = new Map<string, Set<string>>();
  for (const { kind, id } of steps)
    if (isKind(kind) && KINDS[kind].told) byKind.set(kind, (byKind.get(kind) ?? new Set()).add(id));
  return [...byKind].map(([kind, ids]) => ({ kind, ids: ids.size > MOST_IDS ? [] : [...ids] }) as StreamChange);
}
