import type { Content, Step } from '@corvun/core';

/** Brings a row, or what changed of one, from the shape before into the next. */
export type Reshape = (kind: string, content: Content) => Content;

/**
 * What was renamed or became something else since the log began, oldest first: the first leads from shape 1 to 2. Who
 * changes the columns of a kind adds one here, else what was done before cannot be taken back any more.
 */
export const RESHAPES: readonly Reshape[] = [];

/** The shape in which entries are written now. */
export const SHAPE = RESHAPES.length + 1;

/** Steps as they were written, in the shape of today. */
export function reshaped(steps: readonly Step[], shape: number, all: readonly Reshape[] = RESHAPES): Step[] {
  const later = all.slice(shape - 1);
  const one = (kind: string, content: Content | null) =>
    content && later.reduce<Content>((row, reshape) => reshape(kind, row), content);
  return later.length
    ? steps.map(({ kind, id, before, after }) => ({ kind, id, before: one(kind, before), after: one(kind, after) }))
    : [...steps];
}

/** A reshaping that gives a column of a kind another name. */
export const renamed =
  (kind: string, from: string, to: string): Reshape =>
  (of, content) => {
    if (of !== kind || !(from in content)) return content;
    const { [from]: value, ...rest } = content;
    return { ...rest, [to]: value };
  };
