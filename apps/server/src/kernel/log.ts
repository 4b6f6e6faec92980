import { stepBetween, type Step } from '@corvun/core';
import { Entry } from './entry.entity';
import type { Content, Owned } from './kind';

type Side = Record<string, unknown> | null;

const eachSide = (steps: unknown, map: (side: Side) => Side): Step[] =>
  (steps as Step[]).map((step) => ({ ...step, before: map(step.before), after: map(step.after) }));

function withoutOwner(side: Side): Side {
  if (side === null) return null;
  const { ownerId: _ownerId, ...rest } = side;
  return rest;
}

/** Only whole rows name their owner; what changed of one does not. */
const whole = ({ before, after }: Step) => before === null || after === null;

/** What was done goes along, numbered anew where it is read in; what was written by anyone else stays. */
export const log: Owned = {
  entity: Entry,
  exported: { name: 'log', order: 'revision' },
  only: { actor: 'user' },
  out: ({ revision: _revision, actorId: _actorId, ...row }) => ({ ...row, changes: eachSide(row['changes'], withoutOwner) }),
  in: (row: Content, ownerId) => ({
    // The log of the version before had no actors, no shapes, and whole rows on both sides.
    actor: 'user',
    shape: 1,
    ...row,
    actorId: ownerId,
    changes: (row['changes'] as Step[]).flatMap((step) =>
      whole(step)
        ? eachSide([step], (side) => side && { ...side, ownerId })
        : (stepBetween(step.kind, step.id, step.before, step.after) ?? []),
    ),
  }),
};
