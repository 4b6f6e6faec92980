import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { AttachmentInfo, Done, TaskChange, TaskInfo } from '@corvun/contract';
import { dayOf, isDay, isWeek, isoInZone, sayDay } from '@corvun/core';
import { In, MoreThan, Repository, type FindOptionsWhere } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { Clock } from '../base/clock';
import { badField } from '../base/errors';
import { Block } from '../blocks/block.entity';
import { Kernel, byUser } from '../kernel/kernel.service';
import type { Said } from '../kernel/work';
import { StoredAttachment, attachmentInfo } from '../incoming/incoming.entity';
import { called } from '../lists/new-list';
import { List } from '../lists/list.entity';
import { keepTags } from '../tags/keep-tags';
import { Task } from './task.entity';

const FINISHED_SHOWN = 14 * 86_400_000;
const MOST = 2000;

@Injectable()
export class TasksService {
  constructor(
    @InjectRepository(Task) private readonly tasks: Repository<Task>,
    @InjectRepository(Block) private readonly blocks: Repository<Block>,
    @InjectRepository(StoredAttachment) private readonly attachments: Repository<StoredAttachment>,
    @InjectRepository(List) private readonly lists: Repository<List>,
    private readonly kernel: Kernel,
    private readonly clock: Clock,
  ) {}

  /** Open tasks, and those finished in the last two weeks; of one list, some by id, or of all. */
  async all(user: User, { listId, ids }: { listId?: string | undefined; ids?: string[] | undefined } = {}): Promise<TaskInfo[]> {
    const where: FindOptionsWhere<Task> = {
      ownerId: user.id,
      ...(listId ? { listId } : {}),
      ...(ids ? { id: In(ids) } : {}),
    };
    const since = this.clock.now() - FINISHED_SHOWN;
    const rows = await this.tasks.find({
      where: [
        { ...where, status: In(['NEEDS-ACTION', 'IN-PROCESS']) },
        { ...where, status: 'COMPLETED', completed: MoreThan(since) },
      ],
      order: { position: 'ASC', id: 'ASC' },
      take: MOST,
    });
    return this.infos(user, rows);
  }

  async one(user: User, id: string): Promise<TaskInfo[]> {
    return this.infos(user, await this.tasks.findBy({ ownerId: user.id, id }));
  }

  async change(user: User, id: string, input: TaskChange): Promise<Done> {
    const { version, list, ...fields } = input;
    if (fields.plannedDay && !isDay(fields.plannedDay))
      throw badField('plannedDay', `${fields.plannedDay} is not a day in the calendar.`);
    if (fields.plannedWeek && !isWeek(fields.plannedWeek))
      throw badField('plannedWeek', `${fields.plannedWeek} is not a week in the calendar.`);
    if (fields.deadline && !isDay(fields.deadline.slice(0, 10))) throw badField('deadline', `${fields.deadline} is not a date.`);
    const patch: Partial<Task> = { ...fields };
    if (list !== undefined) patch.listId = list === null ? null : await this.listId(user, list);
    if (fields.plannedDay) patch.plannedWeek = null;
    if (fields.plannedWeek) patch.plannedDay = null;
    const doing: Pick<Said, 'action'> = {
      action: fields.status === 'COMPLETED' ? 'finish' : fields.plannedDay !== undefined ? 'move' : 'change',
    };
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const task = await work.find('task', id);
      if (fields.status) patch.completed = fields.status === 'COMPLETED' ? (task.completed ?? work.now) : null;
      if (fields.tags) await keepTags(work, fields.tags);
      const after = await work.update('task', task, patch, version);
      work.say({ ...doing, sentence: this.sentence(user, task, after) });
    });
    return { decision, sentence };
  }

  private async listId(user: User, name: string): Promise<string> {
    const lists = await this.lists.findBy({ ownerId: user.id });
    const found = called(lists, name);
    if (!found) throw badField('list', `There is no list “${name}”.`);
    return found.id;
  }

  private sentence(user: User, before: Task, after: Task): string {
    const named = `“${after.title}”`;
    if (before.status !== after.status)
      return after.status === 'COMPLETED'
        ? `${named} is done`
        : after.status === 'CANCELLED'
          ? `${named} was dropped`
          : `${named} is open again`;
    if (before.plannedDay !== after.plannedDay)
      return after.plannedDay
        ? `${named} is on ${sayDay(after.plannedDay, dayOf(this.clock.now(), user.zone))}`
        : `${named} has no day now`;
    if (before.shelved !== after.shelved) return after.shelved ? `${named} is on the shelf` : `${named} is off the shelf`;
    return `${named} was changed`;
  }

  /** What tasks carry along from the messages they came from, by task. */
  private async filesOf(user: User, rows: Task[]): Promise<Map<string, AttachmentInfo[]>> {
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
    const byMessage = new Map<string, StoredAttachment[]>();
    for (const one of all) byMessage.set(one.incomingId, [...(byMessage.get(one.incomingId) ?? []), one]);
    return new Map(
      from.map((row) => [
        row.id,
        (byMessage.get(row.incomingId ?? '') ?? [])
          .filter((one) => row.attachments?.includes(one.id) ?? true)
          .map(attachmentInfo),
      ]),
    );
  }

  private async infos(user: User, rows: Task[]): Promise<TaskInfo[]> {
    const coming = rows.length
      ? await this.blocks.find({ where: { ownerId: user.id, endAt: MoreThan(this.clock.now()) }, order: { startAt: 'ASC' } })
      : [];
    const byTask = new Map<string, Block[]>();
    for (const block of coming) if (block.taskId) byTask.set(block.taskId, [...(byTask.get(block.taskId) ?? []), block]);
    const iso = (instant: number) => isoInZone(instant, user.zone);
    const files = await this.filesOf(user, rows);
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
      repeat: row.repeat,
      shelved: row.shelved,
      lookAgain: row.lookAgain,
      waitingOn: row.waitingOn,
      waitingSince: row.waitingSince === null ? null : iso(row.waitingSince),
      incomingId: row.incomingId,
      attachmentList: files.get(row.id) ?? [],
      version: row.version,
      blocks: (byTask.get(row.id) ?? []).map(({ id, startAt, endAt }) => ({ id, start: iso(startAt), end: iso(endAt) })),
    }));
  }
}
