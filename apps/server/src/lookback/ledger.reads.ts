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
  /** Times in which a site that is held back was looked at all the same. */
  graces: Interval[];
}

type Work = Pick<Task, 'listId' | 'billable' | 'assignedTo' | 'waitingOn'> & { tags: readonly string[] };

interface TaskRow extends Omit<Work, 'tags' | 'billable'> {
  id: string;
  title: string;
  tags: string;
  billable: number;
}

/** There may be tens of thousands: each is no more than it has to be. */
type Spent = [id: string, start: number, end: number, taskId: string];

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
    const [taken, spent, tasks, took, graces] = await Promise.all([
      this.agenda.taken(user, window),
      this.spent(user, window),
      this.spentOn(user, window, by),
      this.took(user, window, by),
      this.source.query<Interval[]>(
        `SELECT "startAt" AS "start", "endAt" AS "end" FROM "grace" WHERE "ownerId" = ? AND "startAt" < ? AND "endAt" > ?`,
        [user.id, window.end, window.start],
      ),
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
        ...spent.map(([id, start, end, taskId]): LedgerThing => {
          const task = tasks.get(taskId);
          const keys = by === 'kind' ? [kindOf(taskId, start, end)] : (task?.keys ?? []);
          return { what: 'spent', kind: 'time', start, end, id, occurrence: null, taskId, title: task?.title ?? '', keys };
        }),
      ],
      took,
      kept: beside,
      quiet: blocks.filter(({ kind }) => kind === 'quiet').map(({ thing }) => thing),
      graces,
    };
  }

  /** What was spent; what runs is not in it. There may be tens of thousands: they come as one text, a row each would take longer than all the rest. */
  private async spent(user: User, { start, end }: Interval): Promise<Spent[]> {
    const [row] = await this.source.query<{ all: string }[]>(
      `SELECT json_group_array(json_array("id", "startAt", "endAt", "taskId")) AS "all" FROM (
         SELECT "id", "startAt", "endAt", "taskId" FROM "time_entry"
         WHERE "ownerId" = ? AND "startAt" < ? AND "endAt" > ? ORDER BY "startAt", "id")`,
      [user.id, end, start],
    );
    return JSON.parse(row?.all ?? '[]') as Spent[];
  }

  /** The tasks that time was spent on, with what it counts under. */
  private async spentOn(user: User, { start, end }: Interval, by: LedgerBy) {
    const rows = await this.source.query<TaskRow[]>(
      `SELECT t."id", t."title", ${WORK} FROM "task" t WHERE t."id" IN (
         SELECT DISTINCT "taskId" FROM "time_entry" WHERE "ownerId" = ? AND "startAt" < ? AND "endAt" > ?)`,
      [user.id, end, start],
    );
    return new Map(
      rows.map(({ id, title, tags, billable, ...work }) => {
        const own = { ...work, tags: JSON.parse(tags) as string[], billable: Boolean(billable) };
        return [id, { title, keys: keysOfWork(own, by) }];
      }),
    );
  }

  private async took(user: User, { start, end }: Interval, by: LedgerBy): Promise<LedgerTook[]> {
    const rows = await this.source.query<(TaskRow & { estimate: number; spent: number })[]>(
      `SELECT t."estimate", t."spent", ${WORK} FROM "task" t
       WHERE t."ownerId" = ? AND t."completed" >= ? AND t."completed" < ? AND t."status" = 'COMPLETED' AND t."estimate" > 0 AND t."spent" > 0`,
      [user.id, start, end],
    );
    return rows.map(({ estimate, spent, tags, billable, ...work }) => ({
      ...{ estimate, spent },
      keys:
        by === 'kind' ? ['work'] : keysOfWork({ ...work, tags: JSON.parse(tags) as string[], billable: Boolean(billable) }, by),
    }));
  }
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
