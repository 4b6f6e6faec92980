/** The columns of a row. */
export type Content = { readonly [column: string]: unknown };

/**
 * One row before and after. A new row has no before and one taken away no after, and the other side is whole; where both
 * are there, they hold only the columns that differ.
 */
export interface Step {
  readonly kind: string;
  readonly id: string;
  readonly before: Content | null;
  readonly after: Content | null;
}

/** Columns that count changes; every write moves them, and none is taken back. */
export const COUNTERS: readonly string[] = ['version', 'changed'];

/** Whether two values of a column are the same; nothing and null are. */
export const same = (a: unknown, b: unknown): boolean => a === b || JSON.stringify(a ?? null) === JSON.stringify(b ?? null);

/** The step from one state of a row to the next; null where nothing but counters differs. */
export function stepBetween(kind: string, id: string, before: Content | null, after: Content | null): Step | null {
  if (!before || !after) return before || after ? { kind, id, before, after } : null;
  const columns = Object.keys(after).filter((column) => !COUNTERS.includes(column) && !same(before[column], after[column]));
  if (!columns.length) return null;
  return { kind, id, before: pick(before, columns), after: pick(after, columns) };
}

const pick = (content: Content, columns: readonly string[]): Content =>
  Object.fromEntries(columns.map((column) => [column, content[column] ?? null]));

/** The steps that lead back, in the order in which they are taken. */
export const stepsBack = (steps: readonly Step[]): Step[] =>
  steps.map(({ kind, id, before, after }) => ({ kind, id, before: after, after: before })).reverse();

/**
 * Whether a step can be taken from the present state of its row: the columns it changes are as they were. Others may have
 * changed since, and a row that it takes away may have, too.
 */
export function stepFits(present: Content | null, { before, after }: Step): boolean {
  if (!before || !present) return before === null && present === null;
  return !after || Object.keys(before).every((column) => same(present[column], before[column]));
}

/** The row after a step; what the step does not name stays. */
export function afterStep(present: Content | null, { after }: Step): Content | null {
  return after === null ? null : { ...present, ...after };
}

/** Steps on the same row made one, in their order: what was before the first, and what is after the last. */
export function condensed(steps: readonly Step[]): Step[] {
  const rows = new Map<string, Step>();
  for (const step of steps) {
    const key = `${step.kind} ${step.id}`;
    const earlier = rows.get(key);
    if (!earlier) rows.set(key, step);
    else {
      const one = joined(earlier, step);
      if (one) rows.set(key, one);
      else rows.delete(key);
    }
  }
  return [...rows.values()];
}

function joined(first: Step, second: Step): Step | null {
  const { kind, id } = first;
  if (first.before === null) return stepBetween(kind, id, null, second.after && { ...first.after, ...second.after });
  if (second.after === null) return { kind, id, before: { ...second.before, ...first.before }, after: null };
  // Taken away and put back: the whole row stands on both sides.
  if (first.after === null) return stepBetween(kind, id, first.before, second.after);
  return stepBetween(kind, id, { ...second.before, ...first.before }, { ...first.after, ...second.after });
}
