import { Injectable } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import { Memory, type Destination, type Past, type Priority } from '@corvun/core';
import { DataSource } from 'typeorm';
import { StreamService } from '../stream/stream.service';

const CHUNK = 500;

interface DecidedRow {
  id: string;
  sender: string;
  subject: string;
  kind: string;
  bulk: number;
  asks: number | null;
  state: 'waiting' | 'decided';
  outcome: Destination | 'joined' | null;
  list: string | null;
  tags: string | null;
  spent: number | null;
  priority: Priority | null;
  ahead: number | null;
}

const COLUMNS = `i.id, i.senderAddress AS sender, i.subject, i.kind, i.bulk, json_array_length(i.facts, '$.asks') AS asks,
  i.state, i.outcome, l.name AS list, t.tags, t.spent, t.priority,
  CASE WHEN i.outcome IN ('day', 'time') THEN julianday(t.plannedDay) - julianday(date(i.decided / 1000, 'unixepoch')) END AS ahead`;
const FROM = `FROM incoming i LEFT JOIN list l ON l.id = i.outcomeListId
  LEFT JOIN task t ON t.id = (SELECT id FROM task WHERE incomingId = i.id AND parentId IS NULL ORDER BY created LIMIT 1)`;

interface Held {
  memory: Memory;
  /** Things that changed since the memory was last asked. */
  changed: Set<string>;
}

/** What each user decided, kept in memory for proposals; made from the database when first asked for, and kept in step. */
@Injectable()
export class Memories {
  private readonly held = new Map<string, Promise<Held>>();

  constructor(
    @InjectDataSource() private readonly source: DataSource,
    stream: StreamService,
  ) {
    stream.all().subscribe(({ ownerId, changes }) => {
      const held = this.held.get(ownerId);
      if (!held) return;
      const ids = changes.filter((one) => one.kind === 'incoming' || one.kind === 'task');
      if (ids.some((one) => !one.ids.length)) return this.forget(ownerId);
      void held.then(({ changed }) => ids.forEach((one) => one.ids.forEach((id) => changed.add(`${one.kind} ${id}`))));
    });
  }

  /** The memory of a user, with everything that was decided or taken back until now. */
  async of(ownerId: string): Promise<Memory> {
    let held = this.held.get(ownerId);
    if (!held) {
      held = this.load(ownerId);
      this.held.set(ownerId, held);
      held.catch(() => this.held.delete(ownerId));
    }
    const { memory, changed } = await held;
    if (changed.size) await this.bringUpToDate(ownerId, memory, changed);
    return memory;
  }

  /** Made anew when it is next asked for. */
  forget(ownerId: string): void {
    this.held.delete(ownerId);
  }

  private async load(ownerId: string): Promise<Held> {
    const memory = new Memory();
    const rows = await this.source.query<DecidedRow[]>(
      `SELECT ${COLUMNS} ${FROM} WHERE i.ownerId = ? AND i.state = 'decided' ORDER BY i.decided, i.id`,
      [ownerId],
    );
    for (const row of rows) take(memory, row);
    return { memory, changed: new Set() };
  }

  private async bringUpToDate(ownerId: string, memory: Memory, changed: Set<string>): Promise<void> {
    const names = [...changed];
    changed.clear();
    const of = (kind: string) => names.filter((one) => one.startsWith(`${kind} `)).map((one) => one.slice(kind.length + 1));
    const [things, tasks] = [of('incoming'), of('task')];
    const rows: DecidedRow[] = [];
    const holes = (ids: string[]) => ids.map(() => '?').join(',');
    for (let at = 0; at < Math.max(things.length, tasks.length); at += CHUNK) {
      const [some, others] = [things.slice(at, at + CHUNK), tasks.slice(at, at + CHUNK)];
      rows.push(
        ...(await this.source.query<DecidedRow[]>(
          `SELECT ${COLUMNS} ${FROM} WHERE i.ownerId = ? AND (i.id IN (${holes(some)})
            OR i.id IN (SELECT incomingId FROM task WHERE id IN (${holes(others)}))) ORDER BY i.decided, i.id`,
          [ownerId, ...some, ...others],
        )),
      );
    }
    for (const row of rows) take(memory, row);
  }
}

function take(memory: Memory, row: DecidedRow): void {
  if (row.state !== 'decided' || !row.outcome || row.outcome === 'joined') return memory.forget(row.id);
  const past: Past = {
    id: row.id,
    traits: { sender: row.sender, kind: row.kind, bulk: row.bulk === 1, asks: row.asks ?? 0, subject: row.subject },
    to: row.outcome,
    list: row.list,
    tags: row.tags ? (JSON.parse(row.tags) as string[]) : [],
    priority: row.priority ?? 'normal',
    minutes: row.spent ? row.spent : null,
    ahead: row.ahead,
  };
  return memory.learn(past);
}
