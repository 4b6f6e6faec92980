import { Injectable } from '@nestjs/common';
import type { StreamChange, UndoAnswer } from '@corvun/contract';
import type { Destination } from '@corvun/core';
import type { EntityManager, EntityTarget, ObjectLiteral } from 'typeorm';
import { Clock } from '../base/clock';
import { Refusal, notFound } from '../base/errors';
import { newId } from '../base/ids';
import type { Row } from '../base/row';
import { Writes } from '../base/writes';
import { Block } from '../blocks/block.entity';
import { Calendar } from '../calendars/calendar.entity';
import { EventRow } from '../events/event.entity';
import { Incoming } from '../incoming/incoming.entity';
import { List } from '../lists/list.entity';
import { Note } from '../notes/note.entity';
import { PersonRow } from '../people/person.entity';
import { OutboxEntry } from '../sources/outbox.entity';
import { Counterpart } from '../sources/source.entity';
import { StreamService } from '../stream/stream.service';
import { Tag } from '../tags/tag.entity';
import { Task } from '../tasks/task.entity';
import { Decision, type Content, type RowChange } from './decision.entity';

/** What can be written with undo, under the names the stream uses. */
export const JOURNALED = {
  incoming: Incoming,
  task: Task,
  block: Block,
  event: EventRow,
  list: List,
  tag: Tag,
  calendar: Calendar,
  person: PersonRow,
  counterpart: Counterpart,
  outbox: OutboxEntry,
  note: Note,
} as const;
export type Kind = keyof typeof JOURNALED;
type RowOf<K extends Kind> = InstanceType<(typeof JOURNALED)[K]>;
type Fresh<K extends Kind> = Omit<RowOf<K>, keyof Row> & { id?: string };

/** Rows of one INSERT: SQLite takes 32,766 values, and no table has a hundred columns. */
const MOST_IN_ONE = 300;

/** One unit of work of one user: writes rows and remembers how they were. */
export class Work {
  readonly changes: RowChange[] = [];

  constructor(
    readonly manager: EntityManager,
    readonly ownerId: string,
    readonly now: number,
    private readonly part: <T>(work: () => Promise<T>) => Promise<T>,
  ) {}

  /**
   * Does something that may fail without taking the rest of this unit with it: what it wrote until then is taken back.
   * @throws what `work` throws
   */
  async attempt<T>(work: () => Promise<T>): Promise<T> {
    const before = this.changes.length;
    try {
      return await this.part(work);
    } catch (problem) {
      this.changes.length = before;
      throw problem;
    }
  }

  async find<K extends Kind>(kind: K, id: string, what: string): Promise<RowOf<K>> {
    const row = await this.manager.findOneBy(target(kind), { id, ownerId: this.ownerId });
    if (!row) throw notFound(what);
    return row as RowOf<K>;
  }

  async insert<K extends Kind>(kind: K, values: Fresh<K>): Promise<RowOf<K>> {
    const row = this.fresh(kind, values);
    await this.insertAll(kind, [row]);
    return row;
  }

  /** A new row that is not written yet; `insertAll` writes it. */
  fresh<K extends Kind>(_kind: K, values: Fresh<K>): RowOf<K> {
    const row = { id: newId(), ...values, ownerId: this.ownerId, version: 1, created: this.now, changed: this.now };
    return row as unknown as RowOf<K>;
  }

  /** Writes new rows, many with one statement. */
  async insertAll<K extends Kind>(kind: K, rows: readonly RowOf<K>[]): Promise<void> {
    for (let from = 0; from < rows.length; from += MOST_IN_ONE) {
      const some = rows.slice(from, from + MOST_IN_ONE).map((row) => ({ ...row }));
      await this.manager.insert(target(kind), some);
    }
    for (const row of rows) this.changes.push({ kind, id: row.id, before: null, after: { ...row } });
  }

  /** @param version the version the change was made on; another one is refused with the present row */
  async update<K extends Kind>(kind: K, row: RowOf<K>, patch: Partial<RowOf<K>>, version?: number): Promise<RowOf<K>> {
    if (version !== undefined && version !== row.version) {
      throw new Refusal(
        409,
        'changed-meanwhile',
        'This was changed meanwhile in another place. The present state is shown; make your change again.',
        { present: { ...row } },
      );
    }
    // A validated body carries its absent fields as undefined; they must not wipe the row's.
    const said = Object.fromEntries(Object.entries(patch).filter(([, value]) => value !== undefined)) as Partial<RowOf<K>>;
    const after = { ...row, ...said, version: row.version + 1, changed: this.now };
    await this.manager.update(target(kind), { id: row.id, ownerId: this.ownerId }, after);
    this.changes.push({ kind, id: row.id, before: { ...row }, after: { ...after } });
    return after;
  }

  async remove<K extends Kind>(kind: K, row: RowOf<K>): Promise<void> {
    await this.manager.delete(target(kind), { id: row.id, ownerId: this.ownerId });
    this.changes.push({ kind, id: row.id, before: { ...row }, after: null });
  }
}

const target = (kind: string): EntityTarget<ObjectLiteral> => JOURNALED[kind as Kind];

export interface Doing {
  action: Decision['action'];
  destination?: Destination;
  incomingIds?: string[];
}

/** Sees what a user's doing, undo or redo changed, in the same transaction: what has to go back to a source is noted there. */
export type Follower = (work: Work, changes: readonly RowChange[]) => Promise<void>;

/** Runs what users do: one transaction each, remembered for undo, told to the open windows. */
@Injectable()
export class Journal {
  private readonly followers: Follower[] = [];

  constructor(
    private readonly writes: Writes,
    private readonly clock: Clock,
    private readonly stream: StreamService,
  ) {}

  private unit(manager: EntityManager, ownerId: string, now: number): Work {
    return new Work(manager, ownerId, now, (work) => this.writes.part(work));
  }

  /** Adds someone who sees every change that users make. */
  follow(follower: Follower): void {
    this.followers.push(follower);
  }

  /** Writes what a source brings or took: one transaction, told to the open windows, not a doing of the user's. */
  async quietly<T>(ownerId: string, work: (work: Work) => Promise<T>, more: StreamChange[] = []): Promise<T> {
    const { result, changes } = await this.writes.write(async (manager) => {
      const unit = this.unit(manager, ownerId, this.clock.now());
      return { result: await work(unit), changes: unit.changes };
    });
    if (changes.length || more.length) this.tell(ownerId, changes, more);
    return result;
  }

  /**
   * @param work gives the sentence that says what was done, and what the caller wants back
   * @returns that, with the decision's id
   */
  async run<T>(
    ownerId: string,
    doing: Doing,
    work: (work: Work) => Promise<{ sentence: string; result: T }>,
    at = this.clock.now(),
  ): Promise<{ decision: string; sentence: string; result: T }> {
    const done = await this.writes.write(async (manager) => {
      const unit = this.unit(manager, ownerId, at);
      const { sentence, result } = await work(unit);
      const own = [...unit.changes];
      for (const follower of this.followers) await follower(unit, own);
      const id = newId();
      await manager.update(Decision, { ownerId, state: 'undone' }, { state: 'lost' });
      const seq = ((await manager.maximum(Decision, 'seq', { ownerId })) ?? 0) + 1;
      await manager.insert(Decision, {
        id,
        ownerId,
        version: 1,
        created: unit.now,
        changed: unit.now,
        seq,
        action: doing.action,
        destination: doing.destination ?? null,
        sentence,
        at: unit.now,
        incomingIds: doing.incomingIds ?? [],
        changes: unit.changes as object[],
        state: 'done',
      });
      return { decision: id, sentence, result, changes: unit.changes };
    });
    this.tell(ownerId, done.changes);
    return { decision: done.decision, sentence: done.sentence, result: done.result };
  }

  /** Takes the last doing back, exactly. @throws Refusal when there is none, or when it was changed since */
  undo(ownerId: string): Promise<UndoAnswer> {
    return this.turn(ownerId, 'undone');
  }

  /** Does the last undone doing again. */
  redo(ownerId: string): Promise<UndoAnswer> {
    return this.turn(ownerId, 'done');
  }

  private async turn(ownerId: string, to: 'undone' | 'done'): Promise<UndoAnswer> {
    try {
      const { decision, changes } = await this.writes.write((manager) => this.turnOne(manager, ownerId, to));
      this.tell(ownerId, changes);
      const { id, sentence, incomingIds } = decision;
      return { decision: id, sentence, undone: to === 'undone', incoming: incomingIds };
    } catch (problem) {
      if (!(problem instanceof Stuck)) throw problem;
      // A doing that can no longer be turned must not stand in the way of those before it.
      await this.writes.write((manager) => manager.update(Decision, { id: problem.decision.id }, { state: 'lost' }));
      throw changedSince(problem.decision.sentence, to);
    }
  }

  private async turnOne(
    manager: EntityManager,
    ownerId: string,
    to: 'undone' | 'done',
  ): Promise<{ decision: Decision; changes: RowChange[] }> {
    const decision = await manager.findOne(Decision, {
      where: { ownerId, state: to === 'undone' ? 'done' : 'undone' },
      order: { seq: to === 'undone' ? 'DESC' : 'ASC' },
    });
    if (!decision)
      throw new Refusal(
        409,
        to === 'undone' ? 'nothing-to-undo' : 'nothing-to-redo',
        to === 'undone' ? 'There is nothing left to take back.' : 'There is nothing to do again.',
      );
    const steps = decision.changes.map((step) => (to === 'undone' ? { ...step, before: step.after, after: step.before } : step));
    if (to === 'undone') steps.reverse();
    for (const step of steps) {
      const present = await manager.findOneBy(target(step.kind), { id: step.id, ownerId });
      if (step.kind === 'outbox' && (!present || present['state'] !== 'waiting' || step.before === null)) {
        // What went out cannot be called back, and what goes out again is noted anew by the followers.
        if (present === null && step.after) await manager.insert(OutboxEntry, step.after);
        continue;
      }
      if (!fits(present, step)) throw new Stuck(decision);
      await this.apply(manager, ownerId, present, step);
    }
    const work = this.unit(manager, ownerId, this.clock.now());
    for (const follower of this.followers) await follower(work, steps);
    const changed = { state: to, version: decision.version + 1, changed: this.clock.now() };
    await manager.update(Decision, { id: decision.id }, changed);
    return { decision, changes: [...steps, ...work.changes] };
  }

  private async apply(
    manager: EntityManager,
    ownerId: string,
    present: ObjectLiteral | null,
    { kind, id, before, after }: RowChange,
  ): Promise<void> {
    if (!after) await manager.delete(target(kind), { id, ownerId });
    else if (!present) await manager.insert(target(kind), after);
    else
      await manager.update(
        target(kind),
        { id, ownerId },
        { ...onlyChanged(before, after), version: (present['version'] as number) + 1, changed: this.clock.now() },
      );
  }

  private tell(ownerId: string, changes: readonly RowChange[], more: StreamChange[] = [{ kind: 'decision', ids: [] }]): void {
    const byKind = new Map<string, Set<string>>();
    for (const { kind, id } of changes) byKind.set(kind, (byKind.get(kind) ?? new Set()).add(id));
    byKind.delete('counterpart');
    const told = [...byKind].map(([kind, ids]) => ({ kind, ids: [...ids] }) as StreamChange);
    this.stream.tell(ownerId, [...told, ...more]);
  }
}

const changedSince = (sentence: string, to: 'undone' | 'done') =>
  new Refusal(
    409,
    'changed-since',
    `${sentence}: this was changed since by something else, so it cannot be ${to === 'undone' ? 'taken back' : 'done again'} and stays as it is. Once more goes on to the one before.`,
  );

const COUNTERS = new Set(['version', 'changed']);
const same = (a: unknown, b: unknown) => JSON.stringify(a ?? null) === JSON.stringify(b ?? null);

/** The columns that a step changes: a source may have changed others since, and they stay. */
function onlyChanged(before: Content | null, after: Content): Content {
  return Object.fromEntries(
    Object.entries(after).filter(([column, value]) => !COUNTERS.has(column) && !(before && same(before[column], value))),
  );
}

/** Whether a step can be done: the columns it changes are still as they were. A row that it takes out may have changed. */
function fits(present: ObjectLiteral | null, { before, after }: RowChange): boolean {
  if (!before || !present) return before === null && present === null;
  return !after || Object.keys(onlyChanged(before, after)).every((column) => same(present[column], before[column]));
}

/** A doing that was changed since by something else. */
class Stuck extends Error {
  constructor(readonly decision: Decision) {
    super('changed since');
  }
}
