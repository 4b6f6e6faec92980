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
import { PersonRow } from '../people/person.entity';
import { StreamService } from '../stream/stream.service';
import { Tag } from '../tags/tag.entity';
import { Task } from '../tasks/task.entity';
import { Decision, type RowChange } from './decision.entity';

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
} as const;
export type Kind = keyof typeof JOURNALED;
type RowOf<K extends Kind> = InstanceType<(typeof JOURNALED)[K]>;
type Fresh<K extends Kind> = Omit<RowOf<K>, keyof Row> & { id?: string };

/** One unit of work of one user: writes rows and remembers how they were. */
export class Work {
  readonly changes: RowChange[] = [];

  constructor(
    readonly manager: EntityManager,
    readonly ownerId: string,
    readonly now: number,
  ) {}

  async find<K extends Kind>(kind: K, id: string, what: string): Promise<RowOf<K>> {
    const row = await this.manager.findOneBy(target(kind), { id, ownerId: this.ownerId });
    if (!row) throw notFound(what);
    return row as RowOf<K>;
  }

  async insert<K extends Kind>(kind: K, values: Fresh<K>): Promise<RowOf<K>> {
    const row = { id: newId(), ...values, ownerId: this.ownerId, version: 1, created: this.now, changed: this.now };
    await this.manager.insert(target(kind), row);
    this.changes.push({ kind, id: row.id, before: null, after: { ...row } });
    return row as unknown as RowOf<K>;
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

/** Runs what users do: one transaction each, remembered for undo, told to the open windows. */
@Injectable()
export class Journal {
  constructor(
    private readonly writes: Writes,
    private readonly clock: Clock,
    private readonly stream: StreamService,
  ) {}

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
      const unit = new Work(manager, ownerId, at);
      const { sentence, result } = await work(unit);
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
    const turned = await this.writes.write(async (manager) => {
      const from = to === 'undone' ? 'done' : 'undone';
      const decision = await manager.findOne(Decision, {
        where: { ownerId, state: from },
        order: { seq: to === 'undone' ? 'DESC' : 'ASC' },
      });
      if (!decision)
        throw new Refusal(
          409,
          to === 'undone' ? 'nothing-to-undo' : 'nothing-to-redo',
          to === 'undone' ? 'There is nothing left to take back.' : 'There is nothing to do again.',
        );
      const steps = decision.changes.map((step) =>
        to === 'undone' ? { ...step, before: step.after, after: step.before } : step,
      );
      if (to === 'undone') steps.reverse();
      for (const step of steps) await this.apply(manager, ownerId, step);
      await manager.update(
        Decision,
        { id: decision.id },
        { state: to, version: decision.version + 1, changed: this.clock.now() },
      );
      return decision;
    });
    this.tell(ownerId, turned.changes);
    return { decision: turned.id, sentence: turned.sentence, undone: to === 'undone', incoming: turned.incomingIds };
  }

  private async apply(manager: EntityManager, ownerId: string, { kind, id, before, after }: RowChange): Promise<void> {
    const present = await manager.findOneBy(target(kind), { id, ownerId });
    if (!sameContent(present, before)) {
      throw new Refusal(
        409,
        'changed-since',
        'This was changed since by something else, so it cannot be taken back. Nothing was changed.',
      );
    }
    if (!after) await manager.delete(target(kind), { id, ownerId });
    else if (!present) await manager.insert(target(kind), after);
    else
      await manager.update(
        target(kind),
        { id, ownerId },
        { ...after, version: (present['version'] as number) + 1, changed: this.clock.now() },
      );
  }

  private tell(ownerId: string, changes: RowChange[]): void {
    const byKind = new Map<string, Set<string>>();
    for (const { kind, id } of changes) byKind.set(kind, (byKind.get(kind) ?? new Set()).add(id));
    const told = [...byKind].map(([kind, ids]) => ({ kind, ids: [...ids] }) as StreamChange);
    this.stream.tell(ownerId, [...told, { kind: 'decision', ids: [] }]);
  }
}

/** Whether two rows say the same, apart from the counters that every write moves. */
function sameContent(a: ObjectLiteral | null, b: Record<string, unknown> | null): boolean {
  const content = (row: ObjectLiteral | null) => {
    if (!row) return 'null';
    const { version: _version, changed: _changed, ...rest } = row;
    return JSON.stringify(Object.entries(rest).sort(([x], [y]) => (x < y ? -1 : 1)));
  };
  return content(a) === content(b);
}
