import { same } from '@corvun/core';
import { Refusal } from '../base/errors';
import type { Row } from '../base/row';

/**
 * Whether a change meets another one that was made meanwhile. Two that change different fields do not meet.
 * @param present the row as it is now
 * @param version the one that the change was made on
 * @param was how the columns that change were then; without it every change made meanwhile meets this one
 * @throws Refusal 409 with the present row and a sentence for each field
 */
export function unmet<T extends Row>(
  present: T,
  patch: Partial<T>,
  version: number,
  was: Readonly<Record<string, unknown>> | undefined,
): void {
  if (version === present.version) return;
  const columns = Object.entries(patch)
    .filter(([column, value]) => value !== undefined && !same(present[column as keyof T], value))
    .map(([column]) => column)
    .filter((column) => !was || !(column in was) || !same(present[column as keyof T], was[column]));
  if (!columns.length && was) return;
  throw new Refusal(
    'changed-meanwhile',
    'This was changed meanwhile in another place. The present state is shown; make your change again.',
    {
      present: { ...present },
      ...(was ? { fields: Object.fromEntries(columns.map((one) => [one, 'Changed meanwhile in another place.'])) } : {}),
    },
  );
}
