import { COUNTERS, condensed, stepBetween, type Destination, type Step } from '@corvun/core';
import type { EntityManager, EntityTarget, ObjectLiteral } from 'typeorm';
import { Breath } from '../base/breath';
import { Refusal, notFound } from '../base/errors';
import { newId } from '../base/ids';
import type { Row } from '../base/row';
import type { Action } from './entry.entity';
import { insertRows } from './insert-rows';
import { KINDS, settled, type Kind, type RowOf } from './kinds';

type Fresh<K extends Kind> = Omit<RowOf<K>, keyof Row> & { id?: string };

/** Rows named in one statement. */
const MOST_IN_ONE = 300;

/** What was done, as an annotation of the transaction: it can be taken back, and people read it. */
export interface Said {
  action: Action;
  sentence: string;
  destination?: Destination | undefined;
  incomingIds?: string[] | undefined;
}

/** What windows are told of besides rows: states that are looked up again and that nobody takes back. */
export type Told = 'source' | 'outbox' | 'import' | 'data' | 'mailWay';

export const target = (kind: Kind): EntityTarget<ObjectLiteral> => KINDS[kind].entity;

/** One unit of work on the things of one owner: writes rows and keeps how they were. */
export class Work {
  private readonly steps: Step[] = [];
  private readonly told = new Map<Told, Set<string>>();
  private annotation: Said | null = null;
  /** A long unit lets others read what is committed between two of its statements. */
  private readonly breath = new Breath();

  constructor(
    readonly manager: EntityManager,
    readonly ownerId: string,
    readonly now: number,
    private readonly part: <T>(work: () => Promise<T>) => Promise<T>,
  ) {}

  /** Says what was done; without this nobody is told, and it cannot be taken back. */
  say(said: Said): void {
    this.annotation = said;
  }

  /** Tells the open windows that the state of something changed that is not in the log. */
  tell(kind: Told, ...ids: string[]): void {
    const known = this.told.get(kind) ?? new Set();
    for (const id of ids) known.add(id);
    this.told.set(kind, known);
  }

  get said(): Said | null {
    return this.annotation;
  }

  /** What changed until now, one step for each row. */
  changes(): Step[] {
    return condensed(this.steps);
  }

  /** How far it came; see `since`. */
  mark(): number {
    return this.steps.length;
  }

  /** What changed since a mark. */
  since(mark: number): Step[] {
    return condensed(this.steps.slice(mark));
  }

  /** The kinds to tell, with ids; no ids mean all of the kind. */
  toTell(): { kind: Told; ids: string[] }[] {
    return [...this.told].map(([kind, ids]) => ({ kind, ids: [...ids] }));
  }

  /**
   * Does something that may fail without taking the rest of this unit with it: what it wrote until then is taken back.
   * @throws what `work` throws
   */
  async attempt<T>(work: () => Promise<T>): Promise<T> {
    const before = this.steps.length;
    try {
      return await this.part(work);
    } catch (problem) {
      this.steps.length = before;
      throw problem;
    }
  }

  /** @throws Refusal 404 in the words of its kind */
  async find<K extends Kind>(kind: K, id: string): Promise<RowOf<K>> {
    const row = await this.manager.findOneBy(target(kind), { id, ownerId: this.ownerId });
    if (!row) throw notFound(KINDS[kind].words);
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
      const some = rows.slice(from, from + MOST_IN_ONE);
      for (const row of some) Object.assign(row, await this.settled(kind, row));
      await insertRows(this.manager, target(kind), some);
      for (const row of some) this.steps.push({ kind, id: row.id, before: null, after: { ...row } });
      await this.breath.take();
    }
  }

  /** What the kind of a row does not let stand in it. */
  private async settled<K extends Kind>(kind: K, row: RowOf<K>): Promise<Partial<RowOf<K>>> {
    return (await settled(kind, this.manager, row)) as Partial<RowOf<K>>;
  }

  /** @param version the version the change was made on; another one is refused with the present row */
  async update<K extends Kind>(kind: K, row: RowOf<K>, patch: Partial<RowOf<K>>, version?: number): Promise<RowOf<K>> {
    if (version !== undefined && version !== row.version) {
      throw new Refusal(
        'changed-meanwhile',
        'This was changed meanwhile in another place. The present state is shown; make your change again.',
        { present: { ...row } },
      );
    }
    // A validated body carries its absent fields as undefined; they must not wipe the row's.
    const said = Object.fromEntries(Object.entries(patch).filter(([, value]) => value !== undefined)) as Partial<RowOf<K>>;
    const whole = { ...row, ...said };
    const after = { ...whole, ...(await this.settled(kind, whole)), version: row.version + 1, changed: this.now };
    const step = stepBetween(kind, row.id, { ...row }, { ...after });
    const columns = [...Object.keys(step?.after ?? {}), ...COUNTERS] as (keyof RowOf<K>)[];
    await this.manager.update(
      target(kind),
      { id: row.id, ownerId: this.ownerId },
      Object.fromEntries(columns.map((column) => [column, after[column]])),
    );
    if (step) this.steps.push(step);
    await this.breath.take();
    return after;
  }

  async remove<K extends Kind>(kind: K, row: RowOf<K>): Promise<void> {
    await this.removeAll(kind, [row]);
  }

  /** Takes rows away, many with one statement. */
  async removeAll<K extends Kind>(kind: K, rows: readonly RowOf<K>[]): Promise<void> {
    const { driver } = this.manager.connection;
    const table = driver.escape(this.manager.connection.getMetadata(target(kind)).tablePath);
    for (let from = 0; from < rows.length; from += MOST_IN_ONE) {
      const some = rows.slice(from, from + MOST_IN_ONE);
      // By their ids, whatever statistics say: an index on owners would walk over everything that one has.
      await this.manager.query(`DELETE FROM ${table} WHERE +"ownerId" = ? AND "id" IN (${some.map(() => '?').join(', ')})`, [
        this.ownerId,
        ...some.map(({ id }) => id),
      ]);
      for (const row of some) this.steps.push({ kind, id: row.id, before: { ...row }, after: null });
      await this.breath.take();
    }
  }
}
