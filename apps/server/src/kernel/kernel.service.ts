import { Injectable } from '@nestjs/common';
import type { Changed, StreamChange } from '@corvun/contract';
import type { Step } from '@corvun/core';
import type { EntityManager } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { Clock } from '../base/clock';
import { newId } from '../base/ids';
import { Writes } from '../base/writes';
import { StreamService } from '../stream/stream.service';
import { noteChanged } from './changed';
import { Entry, type ActorKind } from './entry.entity';
import { SHAPE } from './shapes';
import { told } from './told';
import { Work, type Said } from './work';

export interface Actor {
  kind: ActorKind;
  /** The user, source, rule or guest; null for Corvun itself. */
  id: string | null;
}

/** On whose behalf something is written: by whom, on whose things, and who is told besides their owner. */
export interface By {
  actor: Actor;
  owner: string;
  audience?: readonly string[];
  /** When it was done, for history brought in from elsewhere; now when absent. */
  at?: number;
}

/** The user, on things of their own. */
export const byUser = ({ id }: Pick<User, 'id'>): By => ({ actor: { kind: 'user', id }, owner: id });
/** What a connected source brings, or a file (no id). */
export const bySource = (owner: string, id: string | null = null): By => ({ actor: { kind: 'source', id }, owner });
/** Corvun itself. */
export const bySystem = (owner: string): By => ({ actor: { kind: 'system', id: null }, owner });

export interface Done<T> {
  result: T;
  /** The entry's id; empty when nothing changed. */
  decision: string;
  sentence: string;
}

/** Reads what a transaction changed and writes what follows from it, in the same transaction. */
export interface Follower {
  name: string;
  /** Whose doings it follows. Who writes by itself must not follow itself: that would go on for ever. */
  actors: readonly ActorKind[];
  follow(work: Work, changes: readonly Step[], by: By): Promise<void>;
}

/** How often followers may follow each other in one transaction; more is a circle. */
const MOST_ROUNDS = 8;

/** The one way to write: one transaction, logged, followed by whoever has to act on it, told to the open windows. */
@Injectable()
export class Kernel {
  private readonly followers: Follower[] = [];

  constructor(
    private readonly writes: Writes,
    private readonly clock: Clock,
    private readonly stream: StreamService,
  ) {}

  /** Adds someone who acts on what others change. */
  follow(follower: Follower): void {
    this.followers.push(follower);
  }

  /**
   * Writes in a transaction of its own; what `work` throws takes everything back. Where it says what was done, a user can
   * take it back; everything else is logged, too, and stays. Resolves when it is on disk.
   */
  async transact<T>(by: By, work: (work: Work) => Promise<T>): Promise<Done<T>> {
    const { result, unit, changes, revision, decision } = await this.writes.write(async (manager) => {
      const unit = this.unit(manager, by);
      const result = await work(unit);
      await this.followAll(unit, unit.changes(), by);
      const changes = unit.changes();
      const entry = changes.length ? await this.log(manager, by, unit, changes) : null;
      return { result, unit, changes, revision: entry?.revision ?? null, decision: entry?.id ?? '' };
    });
    this.tell(by, revision, changes, unit.toTell());
    return { result, decision, sentence: unit.said?.sentence ?? '' };
  }

  /** A unit of work inside a transaction that is open already. */
  unit(manager: EntityManager, by: By): Work {
    return new Work(manager, by.owner, by.at ?? this.clock.now(), (work) => this.writes.part(work));
  }

  /** Lets followers act on changes, and on what other followers did about them. */
  async followAll(unit: Work, changes: readonly Step[], by: By): Promise<void> {
    const own = this.followers.filter(({ actors }) => actors.includes(by.actor.kind));
    let pending = own.map((follower) => ({ follower, changes }));
    for (let round = 0; pending.some((one) => one.changes.length); round += 1) {
      if (round === MOST_ROUNDS) throw new Error(`These follow each other in a circle: ${own.map((one) => one.name).join(', ')}`);
      const wrote: { follower: Follower; changes: Step[] }[] = [];
      for (const { follower, changes: seen } of pending) {
        if (!seen.length) continue;
        const before = unit.mark();
        await follower.follow(unit, seen, by);
        wrote.push({ follower, changes: unit.since(before) });
      }
      pending = own.map((follower) => ({
        follower,
        changes: wrote.flatMap((one) => (one.follower === follower ? [] : one.changes)),
      }));
    }
  }

  private async log(manager: EntityManager, by: By, unit: Work, changes: readonly Step[]): Promise<Entry> {
    const { said } = unit;
    const { kind, id } = by.actor;
    const undoable = said !== null && kind === 'user' && id !== null;
    if (undoable) await manager.query(`UPDATE "entry" SET "state" = 'lost' WHERE "actorId" = ? AND "state" = 'undone'`, [id]);
    return this.insertEntry(manager, by, unit.now, {
      ...said,
      // What is never taken back needs no copy of rows: they are there, or come again from where they came.
      changes: undoable ? [...changes] : changes.map(withoutRows),
      state: undoable ? 'done' : 'final',
    });
  }

  /** Notes that a doing was taken back or done again. Gives its number. */
  async logTurn(manager: EntityManager, by: By, changes: readonly Step[], at: number): Promise<number> {
    return (await this.insertEntry(manager, by, at, { changes: changes.map(withoutRows), state: 'final' })).revision;
  }

  private async insertEntry(
    manager: EntityManager,
    { actor, owner }: By,
    at: number,
    more: Pick<Entry, 'changes' | 'state'> & Partial<Said>,
  ): Promise<Entry> {
    const { action = null, destination = null, sentence = '', incomingIds = [], changes, state } = more;
    const said = { action, destination, sentence, incomingIds, changes, state };
    const entry = { id: newId(), ownerId: owner, actor: actor.kind, actorId: actor.id, at, shape: SHAPE, ...said };
    const { identifiers } = await manager.insert(Entry, entry as object);
    return { ...entry, revision: Number(identifiers[0]?.['revision']) };
  }

  /** Tells what was committed: the windows of the owner and of the audience, and whoever asked for it. */
  tell(by: By, revision: number | null, steps: readonly Step[], more: readonly StreamChange[] = []): void {
    const logged: Changed | null = revision === null ? null : { revision, changes: told(steps) };
    if (logged) noteChanged(logged);
    for (const reader of new Set([by.owner, ...(by.audience ?? [])])) {
      if (logged) this.stream.tell(reader, logged);
      if (more.length) this.stream.tell(reader, { revision: null, changes: [...more] });
    }
  }
}

const withoutRows = ({ kind, id, before, after }: Step): Step => ({
  kind,
  id,
  before: before && (after ? before : {}),
  after: after && (before ? after : {}),
});
