import { Injectable } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import type { LedgerPart } from '@corvun/contract';
import type { Interval, LedgerBy, LedgerItem, LedgerTook } from '@corvun/core';
import { DataSource } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { AgendaService, isNeeded, type Taken } from '../agenda/agenda.service';
import { blockTitle } from '../blocks/blocks.service';
import { othersAt } from '../events/guests';
import type { Task } from '../tasks/task.entity';

/** A stretch that is counted, and what it is. */
export interface LedgerThing extends LedgerItem {
  kind: LedgerPart['kind'];
  id: string;
  occurrence: string | null;
  taskId: string | null;
  title: string;
}

/** Everything that is counted in a window. */
export interface LedgerThings {
  things: LedgerThing[];
  took: LedgerTook[];
  /** Time that is kept beside events. */
  kept: Interval[];
  quiet: Interval[];
}

type Work = Pick<Task, 'listId' | 'billable' | 'assignedTo' | 'waitingOn'> & { tags: readonly string[] };

interface SpentRow extends Omit<Work, 'tags' | 'billable'> {
  id: string;
  taskId: string;
  startAt: number;
  endAt: number;
  title: string;
  tags: string;
  billable: number;
}

const WORK = `t."listId", t."tags", t."billable", t."assignedTo", t."waitingOn"`;
/** What is kept beside meetings belongs to the pauses where it is one. */
const BESIDE = { prep: 'prep', travel: 'travel', 'follow-up': 'follow-up', pause: 'break' } as const;

/** What the ledger counts: events that take time, what one set aside, and what was spent. */
@Injectable()
export class LedgerReads {
  constructor(
    @InjectDataSource() private readonly source: DataSource,
    private readonly agenda: AgendaService,
  ) {}

  async within(user: User, window: Interval, by: LedgerBy): Promise<LedgerThings> {
    const [taken, spent, took] = await Promise.all([
      this.agenda.taken(user, window),
      this.spent(user, window),
      this.took(user, window, by),
    ]);
    const events = promisedOf(taken, user, by);
    const blocks = plannedOf(taken, by);
    const beside = taken.around
      .filter(({ cause, start, end }) => cause && end > start)
      .map(({ start, end, buffer: { kind, of } }): LedgerThing => ({
        ...{ what: 'planned', kind: 'beside', start, end, id: of.id, occurrence: of.occurrence, taskId: null },
        title: events.find(({ id, occurrence }) => id === of.id && occurrence === of.occurrence)?.title ?? '',
        keys: by === 'kind' ? [BESIDE[kind]] : by === 'calendar' ? [of.calendarId] : [],
      }));
    const kindOf = kindsOf(blocks);
    return {
      things: [
        ...events,
        ...blocks.map(({ thing }) => thing),
        ...beside,
        ...spent.map((row): LedgerThing => {
          const work = { ...row, tags: tagsOf(row.tags), billable: Boolean(row.billable) };
          return {
            ...{ what: 'spent', kind: 'time', start: row.startAt, end: row.endAt, id: row.id, occurrence: null },
            ...{ taskId: row.taskId, title: row.title },
            keys: by === 'kind' ? [kindOf(row.taskId, row.startAt, row.endAt)] : keysOfWork(work, by),
          };
        }),
      ],
      took,
      kept: beside,
      quiet: blocks.filter(({ kind }) => kind === 'quiet').map(({ thing }) => thing),
    };
  }

  private spent(user: User, { start, end }: Interval): Promise<SpentRow[]> {
    return this.source.query<SpentRow[]>(SPENT, [user.id, end, start]);
  }

  private async took(user: User, { start, end }: Interval, by: LedgerBy): Promise<LedgerTook[]> {
    const rows = await this.source.query<(Omit<SpentRow, 'id'> & { estimate: number; spent: number })[]>(
      `SELECT t."estimate", t."spent", ${WORK} FROM "task" t
       WHERE t."ownerId" = ? AND t."completed" >= ? AND t."completed" < ? AND t."status" = 'COMPLETED' AND t."estimate" > 0 AND t."spent" > 0`,
      [user.id, start, end],
    );
    return rows.map(({ estimate, spent, tags, billable, ...work }) => ({
      ...{ estimate, spent },
      keys: by === 'kind' ? ['work'] : keysOfWork({ ...work, tags: tagsOf(tags), billable: Boolean(billable) }, by),
    }));
  }
}

/** Time that was spent in a window, with what it was spent on; what runs is not in it. */
export const SPENT = `SELECT e."id", e."taskId", e."startAt", e."endAt", t."title", ${WORK}
  FROM "time_entry" e JOIN "task" t ON t."id" = e."taskId"
  WHERE e."ownerId" = ? AND e."startAt" < ? AND e."endAt" > ? ORDER BY e."startAt", e."id"`;

const parsed = new Map<string, readonly string[]>();
const MOST_PARSED = 2000;

/** Most tasks have the tags of others. */
function tagsOf(text: string): readonly string[] {
  let tags = parsed.get(text);
  if (!tags) {
    if (parsed.size > MOST_PARSED) parsed.clear();
    tags = JSON.parse(text) as string[];
    parsed.set(text, tags);
  }
  return tags;
}

function keysOfWork({ listId, tags, billable, assignedTo, waitingOn }: Work, by: LedgerBy): readonly string[] {
  switch (by) {
    case 'list':
      return listId === null ? [] : [listId];
    case 'tag':
      return tags;
    case 'person':
      return [assignedTo ?? waitingOn ?? ''].filter(Boolean);
    case 'billable':
      return [billable ? 'yes' : 'no'];
    default:
      return [];
  }
}

function promisedOf({ agenda }: Taken, user: User, by: LedgerBy): LedgerThing[] {
  return agenda.events
    .filter(({ cause, part, start, end }) => cause && !part.allDay && end > start)
    .map(({ start, end, part, cause }) => ({
      ...{ what: 'promised', kind: 'event' as const, start, end },
      ...{ id: part.id, occurrence: cause?.occurrence ?? null, taskId: null, title: part.title },
      keys:
        by === 'kind'
          ? ['meeting']
          : by === 'calendar'
            ? [part.calendarId]
            : by === 'person'
              ? othersAt(part, user).map(({ name }) => name)
              : [],
    }));
}

function plannedOf({ agenda, tasks }: Taken, by: LedgerBy): { thing: LedgerThing; kind: string }[] {
  return agenda.blocks
    .filter(({ block }) => isNeeded(block, tasks))
    .map(({ start, end, block }) => {
      const task = tasks.get(block.taskId ?? '');
      return {
        kind: block.kind,
        thing: {
          ...{ what: 'planned', kind: 'block', start, end, id: block.id, occurrence: null, taskId: block.taskId },
          title: blockTitle(block, task),
          keys: by === 'kind' ? [block.kind] : task ? keysOfWork(task, by) : [],
        },
      };
    });
}

/** For what time of a task was, by the time that was set aside for it. */
function kindsOf(blocks: readonly { thing: LedgerThing; kind: string }[]) {
  const ofTask = new Map<string, { thing: LedgerThing; kind: string }[]>();
  for (const one of blocks) {
    const { taskId } = one.thing;
    if (taskId !== null) ofTask.set(taskId, [...(ofTask.get(taskId) ?? []), one]);
  }
  return (taskId: string, start: number, end: number): string =>
    ofTask.get(taskId)?.find(({ thing }) => thing.start < end && thing.end > start)?.kind ?? 'work';
}
