import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { FittingTask, HeadsDownInfo, NowState } from '@corvun/contract';
import { dayOf, isoInZone, looseEndsOf, startOfDay, wallOf, whatFits } from '@corvun/core';
import { In, IsNull, MoreThanOrEqual, Repository } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { Clock } from '../base/clock';
import { Incoming } from '../incoming/incoming.entity';
import { minutesOf } from '../planning/open-work';
import { RisksService } from '../planning/risks.service';
import { settingsOf } from '../settings/settings-of';
import { Task } from '../tasks/task.entity';
import { HeadsDown } from './heads-down.entity';
import { LooseEndsReads } from './loose-ends.reads';
import { TimeEntry } from './time-entry.entity';
import { timeInfo } from './time-info';

/** Loose ends that are shown; with more of them it is time to clear the decks. */
const MOST_LOOSE = 30;
const MOST_FITS = 9;

/** Of open work only what it is chosen by, in the order of the columns. */
type OpenWork = [
  id: string,
  estimate: number | null,
  spent: number,
  priority: Task['priority'],
  concentration: Task['concentration'],
  deadline: string | null,
  plannedDay: string | null,
  plannedWeek: string | null,
  notBefore: string | null,
  begun: 0 | 1,
];

/** What goes on, besides what stands in the calendar. */
@Injectable()
export class NowService {
  constructor(
    @InjectRepository(TimeEntry) private readonly entries: Repository<TimeEntry>,
    @InjectRepository(HeadsDown) private readonly alone: Repository<HeadsDown>,
    @InjectRepository(Task) private readonly tasks: Repository<Task>,
    @InjectRepository(Incoming) private readonly incoming: Repository<Incoming>,
    private readonly looseEnds: LooseEndsReads,
    private readonly risks: RisksService,
    private readonly clock: Clock,
  ) {}

  async state(user: User): Promise<NowState> {
    const now = this.clock.now();
    const [running, last, alone, loose] = await Promise.all([
      this.entries.findOneBy({ ownerId: user.id, endAt: IsNull() }),
      this.entries.findOne({
        where: { ownerId: user.id, startAt: MoreThanOrEqual(startOfDay(dayOf(now, user.zone), user.zone)) },
        order: { startAt: 'DESC', id: 'DESC' },
      }),
      this.alone.findOneBy({ ownerId: user.id }),
      this.looseEnds.of(user, now),
    ]);
    const titles = await this.titlesOf(user, [running?.taskId, last?.taskId, alone?.taskId]);
    const iso = (at: number) => isoInZone(at, user.zone);
    const titleOf = (id: string) => titles.get(id)?.title ?? '';
    const isOpen = (id: string) => ['NEEDS-ACTION', 'IN-PROCESS'].includes(titles.get(id)?.status ?? '');
    const left = !running && last?.paused && isOpen(last.taskId) ? last : null;
    const busyWith = new Set([...loose.busyWith, ...(running ? [running.taskId] : []), ...(alone ? [alone.taskId] : [])]);
    return {
      timer: running && {
        ...{ id: running.id, taskId: running.taskId, title: titleOf(running.taskId), by: running.by },
        ...{ since: iso(running.startAt), note: timeInfo(running, now, user.zone).note },
      },
      paused: left && { taskId: left.taskId, title: titleOf(left.taskId), at: iso(left.endAt ?? left.startAt) },
      headsDown: alone && (await this.headsDownInfo(user, alone, titleOf(alone.taskId))),
      loose: looseEndsOf(loose.found, busyWith)
        .slice(0, MOST_LOOSE)
        .map((one) => ({ ...one, at: iso(one.at) })),
    };
  }

  /** What can be done in so many minutes, the best first. */
  async fits(user: User, minutes: number): Promise<FittingTask[]> {
    const now = this.clock.now();
    const { deep, parts } = settingsOf(user).planning;
    const [open, atRisk] = await Promise.all([this.openWork(user), this.risks.atRisk(user)]);
    const time = wallOf(now, user.zone).slice(11);
    const fits = whatFits(
      open.map(([id, estimate, spent, priority, concentration, deadline, plannedDay, plannedWeek, notBefore, begun]) => ({
        ...{ id, priority, concentration, deadline, plannedDay, plannedWeek, notBefore },
        minutes: Math.max(1, minutesOf({ estimate, concentration }, user) - spent),
        begun: begun === 1,
      })),
      {
        ...{ minutes, today: dayOf(now, user.zone), parts },
        deep: deep.some((one) => one.slice(0, 5) <= time && time < one.slice(6)),
        atRisk,
      },
      MOST_FITS,
    );
    const tasks = await this.titlesOf(
      user,
      fits.map(({ id }) => id),
    );
    return fits.map(({ id, minutes: own, reasons }) => ({
      ...{ taskId: id, title: tasks.get(id)?.title ?? '', listId: tasks.get(id)?.listId ?? null },
      ...{ minutes: own, reasons },
    }));
  }

  /**
   * Open work that is not done by its steps. There may be tens of thousands: they come as one text, a row each would take
   * longer than all the rest.
   */
  private async openWork(user: User): Promise<OpenWork[]> {
    const [row] = await this.tasks.query<{ all: string }[]>(
      `SELECT json_group_array(json_array("id", "estimate", "spent", "priority", "concentration", "deadline", "plannedDay",
         "plannedWeek", "notBefore", "status" = 'IN-PROCESS')) AS "all"
       FROM "task" t WHERE "ownerId" = ? AND "status" IN ('NEEDS-ACTION', 'IN-PROCESS') AND "shelved" = 0
         AND "waitingOn" IS NULL AND "assignedTo" IS NULL AND NOT EXISTS (
           SELECT 1 FROM "task" s WHERE s."parentId" = t."id" AND s."status" IN ('NEEDS-ACTION', 'IN-PROCESS') AND s."shelved" = 0
             AND s."waitingOn" IS NULL AND s."assignedTo" IS NULL)`,
      [user.id],
    );
    return JSON.parse(row?.all ?? '[]') as OpenWork[];
  }

  private async titlesOf(user: User, ids: readonly (string | undefined)[]): Promise<Map<string, Task>> {
    const wanted = [...new Set(ids)].filter((id) => id !== undefined);
    const rows = wanted.length ? await this.tasks.findBy({ ownerId: user.id, id: In(wanted) }) : [];
    return new Map(rows.map((row) => [row.id, row]));
  }

  private async headsDownInfo(user: User, row: HeadsDown, title: string): Promise<HeadsDownInfo> {
    const [came] = await this.incoming.query<{ count: number }[]>(
      `SELECT COUNT(*) AS "count" FROM "incoming" WHERE "ownerId" = ? AND "state" = 'waiting' AND rowid > ?`,
      [user.id, row.lastRow],
    );
    const iso = (at: number) => isoInZone(at, user.zone);
    return {
      ...{
        taskId: row.taskId,
        title,
        begun: iso(row.begun),
        phase: row.phase,
        from: iso(row.fromAt),
        round: row.round,
        every: row.rules.every,
      },
      came: came?.count ?? 0,
      until: row.untilAt === null ? null : iso(row.untilAt),
    };
  }
}
