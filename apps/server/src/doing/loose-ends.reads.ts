import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { addDays, dayOf, endOfDay, instantOf, startOfDay, wasMissed, type LooseEnd } from '@corvun/core';
import { Repository } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { minutesOf } from '../planning/open-work';
import { RemindersService } from '../reminders/reminders.service';
import { Task } from '../tasks/task.entity';

/** Days back in which time that is over can be a loose end; what is older is dealt with when the day is opened. */
const BACK = 3;
const MOST = 50;

const OPEN = `t."status" IN ('NEEDS-ACTION', 'IN-PROCESS')`;
const FREE = `t."shelved" = 0 AND t."waitingOn" IS NULL AND t."assignedTo" IS NULL`;

type Read = Pick<Task, 'id' | 'title' | 'estimate' | 'concentration' | 'spent'> & { at: number; minutes?: number; who?: string };

/** Reads what is not finished, each kind by its own index: how many tasks there are makes no difference. */
@Injectable()
export class LooseEndsReads {
  constructor(
    @InjectRepository(Task) private readonly tasks: Repository<Task>,
    private readonly reminders: RemindersService,
  ) {}

  /** All there are, and the tasks that have time just now or to come. */
  async of(user: User, now: number): Promise<{ found: LooseEnd[]; busyWith: string[] }> {
    const [over, begun, waiting, took, reminders, coming] = await Promise.all([
      this.over(user, now),
      this.begun(user),
      this.waiting(user, now),
      this.took(user, now),
      this.missed(user, now),
      this.tasks.query<{ taskId: string }[]>(
        'SELECT DISTINCT "taskId" FROM "block" WHERE "ownerId" = ? AND "endAt" > ? AND "taskId" IS NOT NULL',
        [user.id, now],
      ),
    ]);
    return { found: [...over, ...reminders, ...waiting, ...begun, ...took], busyWith: coming.map(({ taskId }) => taskId) };
  }

  /** Open, and the time that was set aside is over; what was put on another day is not. */
  private async over(user: User, now: number): Promise<LooseEnd[]> {
    const today = dayOf(now, user.zone);
    const rows = await this.tasks.query<Read[]>(
      `SELECT t."id", t."title", t."estimate", t."concentration", t."spent", MAX(b."endAt") AS "at"
       FROM "block" b JOIN "task" t ON t."id" = b."taskId"
       WHERE b."ownerId" = ? AND b."startAt" >= ? AND b."startAt" < ? AND b."endAt" <= ? AND ${OPEN} AND ${FREE}
         AND (t."plannedDay" IS NULL OR t."plannedDay" <= ?)
       GROUP BY t."id" ORDER BY "at" DESC LIMIT ${MOST}`,
      [user.id, startOfDay(addDays(today, -BACK), user.zone), now, now, today],
    );
    return rows.map((row) => ({ ...this.loose(user, row), kind: 'over' }));
  }

  private async begun(user: User): Promise<LooseEnd[]> {
    const rows = await this.tasks.query<Read[]>(
      `SELECT t."id", t."title", t."estimate", t."concentration", t."spent", t."changed" AS "at" FROM "task" t
       WHERE t."ownerId" = ? AND t."status" = 'IN-PROCESS' AND ${FREE} ORDER BY t."changed" DESC LIMIT ${MOST}`,
      [user.id],
    );
    return rows.map((row) => ({ ...this.loose(user, row), kind: 'begun' }));
  }

  /** Waited for, and wanted by now. */
  private async waiting(user: User, now: number): Promise<LooseEnd[]> {
    const rows = await this.tasks.query<Read[]>(
      `SELECT t."id", t."title", t."estimate", t."concentration", t."spent", t."waitingOn" AS "who",
         COALESCE(t."waitingSince", t."changed") AS "at" FROM "task" t
       WHERE t."ownerId" = ? AND t."waitingOn" IS NOT NULL AND t."waitingUntil" <= ? AND ${OPEN} AND t."shelved" = 0
       ORDER BY t."waitingUntil" LIMIT ${MOST}`,
      [user.id, dayOf(now, user.zone)],
    );
    return rows.map((row) => ({ ...this.loose(user, row), kind: 'waiting' }));
  }

  /** Done today in time that was set aside, without saying how long it took. */
  private async took(user: User, now: number): Promise<LooseEnd[]> {
    const day = dayOf(now, user.zone);
    const rows = await this.tasks.query<Read[]>(
      `SELECT t."id", t."title", t."estimate", t."concentration", t."spent", t."completed" AS "at",
         SUM(b."endAt" - b."startAt") / 60000 AS "minutes"
       FROM "task" t JOIN "block" b ON b."taskId" = t."id" AND b."startAt" < t."completed" AND b."startAt" >= ?
       WHERE t."ownerId" = ? AND t."completed" >= ? AND t."completed" < ? AND t."spent" = 0 AND t."status" = 'COMPLETED'
       GROUP BY t."id" ORDER BY "at" DESC LIMIT ${MOST}`,
      [startOfDay(day, user.zone), user.id, startOfDay(day, user.zone), endOfDay(day, user.zone)],
    );
    return rows.map((row) => ({ ...this.loose(user, row), kind: 'took', minutes: row.estimate ?? row.minutes ?? null }));
  }

  private async missed(user: User, now: number): Promise<LooseEnd[]> {
    const open = await this.reminders.open(user);
    return open
      .filter((one) => wasMissed(one, now, user.zone))
      .map((one) => ({
        ...{ kind: 'reminder', id: one.id, taskId: one.taskId, title: one.title, minutes: null, who: '' },
        at: one.start.length === 10 ? instantOf(`${one.start}T00:00`, user.zone) : Date.parse(one.at),
      }));
  }

  private loose(user: User, row: Read): Omit<LooseEnd, 'kind'> {
    const left = Math.max(0, minutesOf(row, user) - row.spent);
    return { id: row.id, taskId: row.id, title: row.title, at: row.at, minutes: left || null, who: row.who ?? '' };
  }
}
