import { Injectable } from '@nestjs/common';
import type { UndoAnswer } from '@corvun/contract';
import { stepsBack, stepFits, afterStep, type Step } from '@corvun/core';
import type { ObjectLiteral } from 'typeorm';
import { Clock } from '../base/clock';
import { Refusal } from '../base/errors';
import { Writes } from '../base/writes';
import { Entry } from './entry.entity';
import { Kernel, byUser } from './kernel.service';
import { KINDS, isKind, type Kind } from './kinds';
import { reshaped } from './shapes';
import { target, type Work } from './work';

type To = 'undone' | 'done';

/** Takes doings back, and does them again. */
@Injectable()
export class Turns {
  constructor(
    private readonly kernel: Kernel,
    private readonly writes: Writes,
    private readonly clock: Clock,
  ) {}

  /** Takes the last doing of a user back, exactly. @throws Refusal when there is none, or when it was changed since */
  undo(userId: string): Promise<UndoAnswer> {
    return this.turn(userId, 'undone');
  }

  /** Does the last undone doing again. */
  redo(userId: string): Promise<UndoAnswer> {
    return this.turn(userId, 'done');
  }

  private async turn(userId: string, to: To): Promise<UndoAnswer> {
    const by = byUser({ id: userId });
    let turned: Entry | undefined;
    try {
      const { entry, changes, revision } = await this.writes.write(async (manager) => {
        const entry = await manager.findOne(Entry, {
          where: { actorId: userId, state: to === 'undone' ? 'done' : 'undone' },
          order: { revision: to === 'undone' ? 'DESC' : 'ASC' },
        });
        if (!entry) throw nothing(to);
        turned = entry;
        const work = this.kernel.unit(manager, { ...by, owner: entry.ownerId });
        const steps = reshaped(to === 'undone' ? stepsBack(entry.changes) : entry.changes, entry.shape);
        for (const step of steps) if (!(await this.take(work, step))) throw new Stuck();
        await this.kernel.followAll(work, steps, by);
        const changes = [...steps, ...work.changes()];
        await manager.update(Entry, { revision: entry.revision }, { state: to });
        // The turn itself stands in the log, too: windows that were away learn from it what changed.
        const revision = await this.kernel.logTurn(manager, { ...by, owner: entry.ownerId }, changes, this.clock.now());
        return { entry, changes, revision };
      });
      this.kernel.tell({ ...by, owner: entry.ownerId }, revision, changes);
      const { id, sentence, incomingIds } = entry;
      return { decision: id, sentence, undone: to === 'undone', incoming: incomingIds };
    } catch (problem) {
      const isNeeded = problem instanceof Refusal && problem.code === 'still-needed';
      if (!turned || !(problem instanceof Stuck || isNeeded)) throw problem;
      const { revision, sentence } = turned;
      // A doing that can no longer be turned must not stand in the way of those before it.
      await this.writes.write((manager) => manager.update(Entry, { revision }, { state: 'lost' }));
      throw changedSince(sentence, to);
    }
  }

  /** Takes one step; false when its row was changed since. */
  private async take({ manager, ownerId }: Work, step: Step): Promise<boolean> {
    const { kind, id, before, after } = step;
    if (!isKind(kind)) return false;
    const present: ObjectLiteral | null = await manager.findOneBy(target(kind), { id, ownerId });
    if (KINDS[kind].undo === 'held-back' && !isHeld(present, before)) {
      // What went out cannot be called back, and what goes out again is noted anew by the followers.
      if (present === null && after && before === null) await manager.insert(target(kind), after);
      return true;
    }
    if (!stepFits(present, step)) return false;
    await this.write(manager, kind, ownerId, present, step);
    return true;
  }

  private async write(
    manager: Work['manager'],
    kind: Kind,
    ownerId: string,
    present: ObjectLiteral | null,
    step: Step,
  ): Promise<void> {
    const { id, after } = step;
    if (!after) await manager.delete(target(kind), { id, ownerId });
    else if (!present) await manager.insert(target(kind), afterStep(null, step) as ObjectLiteral);
    else
      await manager.update(
        target(kind),
        { id, ownerId },
        { ...after, version: (present['version'] as number) + 1, changed: this.clock.now() },
      );
  }
}

/** Whether a step on something that goes out concerns what still waits: a new entry that is taken back. */
const isHeld = (present: ObjectLiteral | null, before: unknown): boolean =>
  present !== null && present['state'] === 'waiting' && before !== null;

const nothing = (to: To) =>
  new Refusal(
    to === 'undone' ? 'nothing-to-undo' : 'nothing-to-redo',
    to === 'undone' ? 'There is nothing left to take back.' : 'There is nothing to do again.',
  );

const changedSince = (sentence: string, to: To) =>
  new Refusal(
    'changed-since',
    `${sentence}: this was changed since by something else, so it cannot be ${to === 'undone' ? 'taken back' : 'done again'} and stays as it is. Once more goes on to the one before.`,
  );

/** A doing that was changed since by something else. */
class Stuck extends Error {}
