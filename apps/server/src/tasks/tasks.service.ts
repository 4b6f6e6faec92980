import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { TaskFileInfo, TaskFull, TaskInfo, TasksOut } from '@corvun/contract';
import { betterEstimate, comingDays, dayOf, isoInZone } from '@corvun/core';
import { In, MoreThan, Not, Repository } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { Clock } from '../base/clock';
import { Breath } from '../base/breath';
import { notFound } from '../base/errors';
import { Block } from '../blocks/block.entity';
import { TimeEntry } from '../doing/time-entry.entity';
import { timeInfo } from '../doing/time-info';
import { Incoming, StoredAttachment, attachmentInfo } from '../incoming/incoming.entity';
import { Outcomes } from '../incoming/outcomes.service';
import { List } from '../lists/list.entity';
import { TaskFile, taskFileInfo } from './task-file.entity';
import { TaskHistory } from './task-history.service';
import { ReadingPool } from '../reading/reading-pool.service';
import { settingsOf } from '../settings/settings-of';
import { Task } from './task.entity';
import { calendarFile } from '../calendars/calendar-out';
import { tasksOut } from './tasks-out';

const FINISHED_SHOWN = 14 * 86_400_000;
/** So many are looked up together. */
const FEW = 400;
const NEXT_DAYS = 5;
/** Tasks that were done last, with which another one is compared. */
const COMPARED = 1000;

/** Which tasks are asked for. */
interface Wanted {
  listId?: string | undefined;
  ids?: string[] | undefined;
}

@Injectable()
export class TasksService {
  constructor(
    @InjectRepository(Task) private readonly tasks: Repository<Task>,
    @InjectRepository(Block) private readonly blocks: Repository<Block>,
    @InjectRepository(StoredAttachment) private readonly attachments: Repository<StoredAttachment>,
    @InjectRepository(List) private readonly lists: Repository<List>,
    @InjectRepository(TaskFile) private readonly files: Repository<TaskFile>,
    @InjectRepository(TimeEntry) private readonly time: Repository<TimeEntry>,
    @InjectRepository(Incoming) private readonly incoming: Repository<Incoming>,
    private readonly outcomes: Outcomes,
    private readonly history: TaskHistory,
    private readonly clock: Clock,
    private readonly reading: ReadingPool,
  ) {}

  /** Open tasks, and those finished in the last two weeks; of one list, some by id, or of all; a page after the other. */
  async *all(user: User, { listId, ids }: Wanted = {}): AsyncGenerator<TaskInfo[]> {
    const breath = new Breath();
    const wanted = await this.wanted(user, listId, ids);
    for (let at = 0; at < wanted.length; at += FEW) {
      const some = wanted.slice(at, at + FEW);
      const rows = new Map((await this.tasks.findBy({ ownerId: user.id, id: In(some) })).map((row) => [row.id, row]));
      yield await this.infos(
        user,
        some.flatMap((id) => rows.get(id) ?? []),
      );
      await breath.take();
    }
  }

  /** Ids in their order by hand. */
  private async wanted(user: User, listId: string | undefined, ids: string[] | undefined): Promise<string[]> {
    const among = `${listId ? 'AND "listId" = ?' : ''} ${ids ? 'AND "id" IN (SELECT "value" FROM json_each(?))' : ''}`;
    const values = [...(listId ? [listId] : []), ...(ids ? [JSON.stringify(ids)] : [])];
    const rows = await this.tasks.query<{ id: string }[]>(
      `SELECT "id", "position" FROM "task" WHERE "ownerId" = ? AND "status" IN ('NEEDS-ACTION', 'IN-PROCESS') ${among}
       UNION ALL
       SELECT "id", "position" FROM "task" WHERE "ownerId" = ? AND "status" = 'COMPLETED' AND "completed" > ? ${among}
       ORDER BY "position", "id"`,
      [user.id, ...values, user.id, this.clock.now() - FINISHED_SHOWN, ...values],
    );
    return rows.map(({ id }) => id);
  }

  async one(user: User, id: string): Promise<TaskInfo[]> {
    return this.infos(user, await this.tasks.findBy({ ownerId: user.id, id }));
  }

  /** @throws Refusal 404 */
  async full(user: User, id: string): Promise<TaskFull> {
    const row = await this.tasks.findOneBy({ ownerId: user.id, id });
    if (!row) throw notFound('task with this id');
    const [children, blocks, time, parent, incoming] = await Promise.all([
      this.stepsOf(user, id),
      this.blocks.find({ where: { ownerId: user.id, taskId: id }, order: { startAt: 'ASC' } }),
      this.time.find({ where: { ownerId: user.id, taskId: id }, order: { startAt: 'ASC', id: 'ASC' } }),
      row.parentId ? this.tasks.findOneBy({ ownerId: user.id, id: row.parentId }) : null,
      row.incomingId ? this.incoming.findOneBy({ ownerId: user.id, id: row.incomingId }) : null,
    ]);
    const [info, ...steps] = await this.infos(user, [row, ...children]);
    if (!info) throw notFound('task with this id');
    const iso = (instant: number) => isoInZone(instant, user.zone);
    const ownBlocks = new Set(blocks.map((block) => block.id));
    const besides = incoming ? await this.outcomes.madeOf(user, incoming) : [];
    return {
      ...info,
      steps,
      parent: parent && { id: parent.id, title: parent.title },
      allBlocks: blocks.map((one) => ({ id: one.id, start: iso(one.startAt), end: iso(one.endAt), version: one.version })),
      time: time.map((one) => timeInfo(one, this.clock.now(), user.zone)),
      beside: await this.besideOf(user, row.id),
      nextDays: comingDays(row, dayOf(this.clock.now(), user.zone), NEXT_DAYS),
      origin: incoming && {
        id: incoming.id,
        subject: incoming.subject,
        sender: { name: incoming.senderName, address: incoming.senderAddress },
        received: iso(incoming.received),
        kind: incoming.kind,
      },
      besides: besides.filter((thing) => thing.id !== id && !ownBlocks.has(thing.id)),
      better: await this.betterOf(user, row),
      history: await this.history.of(user, id),
    };
  }

  /** Tasks in an open format, in the order of their ids; what is not there is passed over. */
  async out(user: User, ids: readonly string[], format: TasksOut['format']): Promise<string> {
    const rows = await this.tasks
      .createQueryBuilder('t')
      .where('t.ownerId = :owner AND t.id IN (SELECT value FROM json_each(:ids))', { owner: user.id, ids: JSON.stringify(ids) })
      .getMany();
    const byId = new Map(rows.map((row) => [row.id, row]));
    const names = new Map((await this.lists.findBy({ ownerId: user.id })).map(({ id, name }) => [id, name]));
    const tasks = ids.flatMap((id) => byId.get(id) ?? []);
    if (format === 'ics')
      return calendarFile(this.tasks.manager, user, { name: 'Tasks', tasks }, (all, reader) => this.reading.texts(all, reader));
    return tasksOut(format, tasks, names, user.zone, dayOf(this.clock.now(), user.zone));
  }

  private async betterOf(user: User, task: Task): Promise<TaskFull['better']> {
    if (task.status === 'COMPLETED' || task.status === 'CANCELLED') return null;
    const done = await this.tasks.find({
      where: { ownerId: user.id, status: 'COMPLETED', spent: MoreThan(0) },
      select: { title: true, listId: true, tags: true, concentration: true, estimate: true, spent: true },
      order: { completed: 'DESC' },
      take: COMPARED,
    });
    return betterEstimate(task, done);
  }

  /** The steps of a task in their order, each followed by its own. */
  private async stepsOf(user: User, parentId: string): Promise<Task[]> {
    const order = { position: 'ASC', id: 'ASC' } as const;
    const steps = await this.tasks.find({ where: { ownerId: user.id, parentId, status: Not('CANCELLED') }, order });
    const below = steps.length
      ? await this.tasks.find({
          where: { ownerId: user.id, parentId: In(steps.map((step) => step.id)), status: Not('CANCELLED') },
          order,
        })
      : [];
    return steps.flatMap((step) => [step, ...below.filter((one) => one.parentId === step.id)]);
  }

  /** What tasks carry along from the messages they came from, by task. */
  private async filesOf(user: User, rows: Task[]): Promise<Map<string, TaskFileInfo[]>> {
    const from = rows.filter((row) => row.incomingId !== null && row.attachments?.length !== 0);
    const all = from.length
      ? await this.attachments
          .createQueryBuilder('a')
          .where('a.ownerId = :owner AND a.incomingId IN (SELECT value FROM json_each(:ids))', {
            owner: user.id,
            ids: JSON.stringify(from.map((row) => row.incomingId)),
          })
          .orderBy('a.position')
          .getMany()
      : [];
    const byMessage = grouped(all, (one) => one.incomingId);
    const own = grouped(await this.ownFiles(user, rows), (one) => one.taskId);
    const carried = (row: Task) =>
      row.attachments?.length === 0
        ? []
        : (byMessage.get(row.incomingId ?? '') ?? []).filter((one) => row.attachments?.includes(one.id) ?? true);
    return new Map(
      rows.map((row) => [
        row.id,
        [...carried(row).map((one) => ({ ...attachmentInfo(one), own: false })), ...(own.get(row.id) ?? []).map(taskFileInfo)],
      ]),
    );
  }

  /** Who wrote the messages that tasks came from, and what those were, by message. */
  private async messagesOf(
    user: User,
    rows: readonly Task[],
  ): Promise<Map<string, Pick<TaskInfo, 'sender' | 'source' | 'sourceId'>>> {
    const found = await this.incoming.query<{ id: string; sender: string; source: string; sourceId: string | null }[]>(
      `SELECT "id", COALESCE(NULLIF("senderName", ''), "senderAddress") AS "sender", "kind" AS "source", "sourceId" FROM "incoming"
       WHERE "ownerId" = ? AND "id" IN (SELECT "value" FROM json_each(?))`,
      [user.id, JSON.stringify(rows.flatMap((row) => row.incomingId ?? []))],
    );
    return new Map(
      found.map(({ id, sender, source, sourceId }) => [
        id,
        source === 'typed' ? { sender: '', source: '', sourceId: null } : { sender, source, sourceId },
      ]),
    );
  }

  private besideOf(user: User, id: string): Promise<TaskFull['beside']> {
    return this.blocks.query<TaskFull['beside']>(
      `SELECT e."id", NULLIF(e."recurrenceId", '') AS "occurrence", e."title", json_extract(t."value", '$.at') AS "at"
       FROM "event" e, json_each(e."buffers", '$.tasks') t
       WHERE e."ownerId" = ? AND e."buffers" IS NOT NULL AND e."status" <> 'CANCELLED' AND json_extract(t."value", '$.id') = ?`,
      [user.id, id],
    );
  }

  /** Minutes of all blocks, and of what is done beside events, by task. */
  private async placedOf(user: User, rows: readonly Task[]): Promise<Map<string, number>> {
    const some = rows.length <= FEW ? `AND "taskId" IN (SELECT "value" FROM json_each(?))` : 'AND "taskId" IS NOT NULL';
    const found = await this.blocks.query<{ taskId: string; minutes: number }[]>(
      `SELECT "taskId", SUM("endAt" - "startAt") / 60000 AS "minutes" FROM "block" WHERE "ownerId" = ? ${some} GROUP BY "taskId"`,
      [user.id, ...(rows.length <= FEW ? [JSON.stringify(rows.map(({ id }) => id))] : [])],
    );
    const placed = new Map(found.map(({ taskId, minutes }) => [taskId, minutes]));
    const { lengths } = settingsOf(user);
    const beside = new Set(
      (
        await this.blocks.query<{ id: string }[]>(
          `SELECT json_extract(t."value", '$.id') AS "id" FROM "event" e, json_each(e."buffers", '$.tasks') t
           WHERE e."ownerId" = ? AND e."buffers" IS NOT NULL AND e."status" <> 'CANCELLED'`,
          [user.id],
        )
      ).map(({ id }) => id),
    );
    for (const { id, estimate, concentration } of rows.filter((row) => beside.has(row.id)))
      placed.set(id, (placed.get(id) ?? 0) + (estimate ?? lengths[concentration]));
    return placed;
  }

  private ownFiles(user: User, rows: readonly Task[]): Promise<TaskFile[]> {
    return this.files
      .createQueryBuilder('f')
      .where('f.ownerId = :owner AND f.taskId IN (SELECT value FROM json_each(:ids))', {
        owner: user.id,
        ids: JSON.stringify(rows.map((row) => row.id)),
      })
      .orderBy('f.created')
      .addOrderBy('f.name')
      .getMany();
  }

  private async infos(user: User, rows: Task[]): Promise<TaskInfo[]> {
    const some = rows.length <= FEW ? { taskId: In(rows.map((row) => row.id)) } : {};
    const coming = rows.length
      ? await this.blocks.find({
          where: { ownerId: user.id, endAt: MoreThan(this.clock.now()), ...some },
          order: { startAt: 'ASC' },
        })
      : [];
    const byTask = grouped(coming, (block) => block.taskId ?? '');
    const iso = (instant: number) => isoInZone(instant, user.zone);
    const placed = await this.placedOf(user, rows);
    const files = await this.filesOf(user, rows);
    const from = await this.messagesOf(user, rows);
    return rows.map((row) => ({
      id: row.id,
      title: row.title,
      notes: row.notes,
      listId: row.listId,
      parentId: row.parentId,
      position: row.position,
      tags: row.tags,
      priority: row.priority,
      estimate: row.estimate,
      spent: row.spent,
      status: row.status,
      completed: row.completed === null ? null : iso(row.completed),
      plannedDay: row.plannedDay,
      plannedWeek: row.plannedWeek,
      deadline: row.deadline,
      deadlineFixed: row.deadlineFixed,
      created: iso(row.created),
      ...(from.get(row.incomingId ?? '') ?? { sender: '', source: '', sourceId: null }),
      billable: row.billable,
      concentration: row.concentration,
      notBefore: row.notBefore,
      repeat: row.repeat,
      repeatFrom: row.repeatFrom,
      repeatOn: row.repeatOn,
      nudged: row.nudged === null ? null : iso(row.nudged),
      answeredBy: row.answeredBy,
      waitingUntil: row.waitingUntil,
      assignedTo: row.assignedTo,
      reminder: row.reminder,
      links: row.links,
      shelved: row.shelved,
      lookAgain: row.lookAgain,
      leftOpen: row.leftOpen,
      waitingOn: row.waitingOn,
      waitingSince: row.waitingSince === null ? null : iso(row.waitingSince),
      incomingId: row.incomingId,
      placed: placed.get(row.id) ?? 0,
      attachmentList: files.get(row.id) ?? [],
      version: row.version,
      blocks: (byTask.get(row.id) ?? []).map(({ id, startAt, endAt }) => ({ id, start: iso(startAt), end: iso(endAt) })),
    }));
  }
}

function grouped<T>(all: readonly T[], key: (one: T) => string): Map<string, T[]> {
  const groups = new Map<string, T[]>();
  for (const one of all) groups.set(key(one), [...(groups.get(key(one)) ?? []), one]);
  return groups;
}
