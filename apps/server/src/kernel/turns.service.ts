import { Injectable } from '@nestjs/common';
import type { UndoAnswer } from '@corvun/contract';
import { stepsBack, stepFits, afterStep, type Step } from '@corvun/core';
import { Between, type EntityManager, type ObjectLiteral } from 'typeorm';
import { Clock } from '../base/clock';
import { isTwice } from '../base/database-problem';
import { Refusal } from '../base/errors';
import { Writes } from '../base/writes';
import { Entry } from './entry.entity';
import { Kernel, byUser, type By } from './kernel.service';
import { KINDS, isKind, settled, type Kind } from './kinds';
import { reshaped } from './shapes';
import { target, type Work } from './work';

type To = 'undone' | 'done';

interface Turned {
  changes: Step[];
  revision: number;
  /** What went out and stays so, as words. */
  out: string[];
}

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
      const { entry, changes, revision, out } = await this.writes.write(async (manager) => {
        const entry = await manager.findOne(Entry, {
          where: { actorId: userId, state: to === 'undone' ? 'done' : 'undone' },
          order: { revision: to === 'undone' ? 'DESC' : 'ASC' },
        });
        if (!entry) throw nothing(to);
        turned = entry;
        return { entry, ...(await this.turnOne(manager, by, entry, to)) };
      });
      this.kernel.tell({ ...by, owner: entry.ownerId }, revision, changes);
      const { id, sentence, incomingIds } = entry;
      const said = [sentence, ...out].join('; ');
      return { decision: id, sentence: said, undone: to === 'undone', incoming: incomingIds };
    } catch (problem) {
      if (!turned || !isStuck(problem)) throw problem;
      const { revision, sentence } = turned;
      // A doing that can no longer be turned must not stand in the way of those before it.
      await this.writes.write((manager) => manager.update(Entry, { revision }, { state: 'lost' }));
      throw changedSince(sentence, to);
    }
  }

  /**
   * Takes everything back that a user did in a stretch of time, in one transaction, the latest first. What was changed since
   * by something else stays.
   * @returns how many were taken back, and how many stay
   */
  async undoWithin(userId: string, from: number, to: number | null): Promise<{ back: number; stays: number }> {
    const by = byUser({ id: userId });
    const { turned, stays } = await this.writes.write(async (manager) => {
      const entries = await manager.find(Entry, {
        where: { actorId: userId, state: 'done', at: Between(from, to ?? Number.MAX_SAFE_INTEGER) },
        order: { revision: 'DESC' },
      });
      const turned: { entry: Entry; revision: number; changes: Step[] }[] = [];
      let stays = 0;
      for (const entry of entries) {
        const part = this.writes.part(() => this.turnOne(manager, by, entry, 'undone'));
        const done = await part.catch((problem: unknown) => {
          if (isStuck(problem)) return null;
          throw problem;
        });
        if (done) turned.push({ entry, ...done });
        else stays += 1;
      }
      return { turned, stays };
    });
    for (const { entry, revision, changes } of turned) this.kernel.tell({ ...by, owner: entry.ownerId }, revision, changes);
    return { back: turned.length, stays };
  }

  /** @throws Stuck where one of its rows was changed since */
  private async turnOne(manager: EntityManager, by: By, entry: Entry, to: To): Promise<Turned> {
    const owned = { ...by, owner: entry.ownerId };
    const work = this.kernel.unit(manager, owned);
    const steps = reshaped(to === 'undone' ? stepsBack(entry.changes) : entry.changes, entry.shape);
    const out = new Set<string>();
    for (const step of steps) out.add(await this.gone(work, step));
    for (const step of steps) if (!(await this.take(work, step))) throw new Stuck();
    await this.kernel.followAll(work, steps, by);
    const changes = [...steps, ...work.changes()];
    await manager.update(Entry, { revision: entry.revision }, { state: to });
    // The turn itself stands in the log, too: windows that were away learn from it what changed.
    const revision = await this.kernel.logTurn(manager, owned, changes, this.clock.now());
    return { changes, revision, out: [...out].filter(Boolean) };
  }

  /** What a step would take back and cannot, because it went out, as words. */
  private async gone({ manager, ownerId }: Work, { kind, id, after }: Step): Promise<string> {
    if (after || !isKind(kind) || !KINDS[kind].lasting) return '';
    const present: ObjectLiteral | null = await manager.findOneBy(target(kind), { id, ownerId });
    const isOut = present && (present['state'] === 'sent' || KINDS[kind].begun?.(present));
    return isOut ? KINDS[kind].lasting(present) : '';
  }

  /** Takes one step; false when its row was changed since. */
  private async take({ manager, ownerId }: Work, step: Step): Promise<boolean> {
    const { kind, id, before, after } = step;
    if (!isKind(kind)) return false;
    const present: ObjectLiteral | null = await manager.findOneBy(target(kind), { id, ownerId });
    if (KINDS[kind].undo === 'held-back' && !isHeld(kind, present, before)) {
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
    else {
      const put = await settled(kind, manager, { ...present, ...after });
      const counters = { version: (present['version'] as number) + 1, changed: this.clock.now() };
      await manager.update(target(kind), { id, ownerId }, { ...after, ...put, ...counters });
    }
  }
}

/** Whether a step on something that goes out concerns what still waits: a new entry that is taken back. */
const isHeld = (kind: Kind, present: ObjectLiteral | null, before: unknown): boolean =>
  present !== null && present['state'] === 'waiting' && before !== null && !KINDS[kind].begun?.(present);

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

/** Whether a doing cannot be turned any more because of what came after it. */
const isStuck = (problem: unknown): boolean =>
  problem instanceof Stuck || isTwice(problem) || (problem instanceof Refusal && problem.code === 'still-needed');
