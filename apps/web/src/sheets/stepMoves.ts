import type { TaskInfo } from '@corvun/contract';
import { changeTask } from '../data/thingActions';

type Move = (() => void) | null;

/** Where a step can go; null where it cannot. */
export interface Moves {
  up: Move;
  down: Move;
  /** Becomes a step of the one above. */
  in: Move;
  /** Becomes a step of the task again. */
  out: Move;
  own: () => void;
}

/** @param steps all of a task in their order, each followed by its own */
export function moves(taskId: string, steps: readonly TaskInfo[], step: TaskInfo): Moves {
  const siblings = steps.filter((one) => one.parentId === step.parentId);
  const at = siblings.indexOf(step);
  const above = siblings[at - 1];
  const below = siblings[at + 1];
  const hasOwn = steps.some((one) => one.parentId === step.id);
  const lastOf = (parent: string) => steps.filter((one) => one.parentId === parent && one.id !== step.id).at(-1)?.id ?? null;
  const put = (place: Parameters<typeof changeTask>[1]) => () => void changeTask(step.id, place);
  return {
    up: above ? put({ after: siblings[at - 2]?.id ?? null }) : null,
    down: below ? put({ after: below.id }) : null,
    in: step.parentId === taskId && above && !hasOwn ? put({ parent: above.id, after: lastOf(above.id) }) : null,
    out: step.parentId && step.parentId !== taskId ? put({ parent: taskId, after: step.parentId }) : null,
    own: put({ parent: null }),
  };
}
