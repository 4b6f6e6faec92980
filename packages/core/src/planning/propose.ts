import { MOST_TASKS, planStretch, type Plan, type PlanInput, type PlanTask } from './plan';
import { changesOf, problemOf, type PlanChanges, type Stretch } from './stretch';

/** A plan for a stretch of days, as what it changes. */
export interface Proposed extends PlanChanges, Pick<Plan, 'cost' | 'unplaced'> {
  /** How many tasks were not looked at, because there are more than a plan can hold. */
  further: number;
}

/**
 * Works out a plan for a stretch of days. Pauses and a share of each day are left free, unless something would lose the time
 * that it has for that.
 * @param most how many tasks are looked at
 */
export function propose(stretch: Stretch, most = MOST_TASKS): Proposed {
  const { proposed, lost } = solved(stretch, most);
  if (!lost) return proposed;
  const tight = solved({ ...stretch, rules: { ...stretch.rules, share: 100, pauses: false } }, most);
  return tight.lost < lost ? tight.proposed : proposed;
}

/** A plan, and how many that have time now would have none. */
function solved(stretch: Stretch, most: number): { proposed: Proposed; lost: number } {
  const { input, movable } = problemOf(stretch);
  const { cost, unplaced, blocks } = planStretch(mostPressing(input, most));
  const had = new Set(movable.map(({ taskId }) => taskId));
  return {
    proposed: { ...changesOf({ blocks }, movable), cost, unplaced, further: Math.max(0, input.tasks.length - most) },
    lost: unplaced.filter(({ task }) => had.has(task)).length,
  };
}

const RANK = { high: 0, normal: 1, low: 2 };

/** What is due first, and of that what matters most: more than a plan can hold is not looked at. */
export function mostPressing(input: PlanInput, most: number): PlanInput {
  if (input.tasks.length <= most) return input;
  const due = ({ deadline }: PlanTask) => deadline ?? Infinity;
  const order = (a: PlanTask, b: PlanTask) =>
    (due(a) === due(b) ? 0 : due(a) - due(b)) || RANK[a.priority] - RANK[b.priority] || (a.id < b.id ? -1 : 1);
  const tasks = [...input.tasks].sort(order).slice(0, most);
  const kept = new Set(tasks.map(({ id }) => id));
  return { ...input, tasks: tasks.map((task) => ({ ...task, after: task.after.filter((id) => kept.has(id)) })) };
}
