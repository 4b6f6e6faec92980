import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { DeadlineRisk, RiskMends } from '@corvun/contract';
import {
  addDays,
  causesOf,
  dayOf,
  daysFrom,
  deadlineAt,
  endOfDay,
  intersect,
  isAtRisk,
  isoInZone,
  mendsOf,
  safeStarts,
  subtract,
  type Demand,
  type Interval,
  type SafeStart,
  type SetAside,
} from '@corvun/core';
import { In, Repository } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { AgendaService } from '../agenda/agenda.service';
import { Clock } from '../base/clock';
import type { Block } from '../blocks/block.entity';
import { blockTitle } from '../blocks/blocks.service';
import { workingOn } from '../settings/settings-of';
import { Task } from '../tasks/task.entity';
import { comingBlocks, minutesOf, setAside, stretchSaid } from './open-work';

/** Days in which a deadline is in sight. */
const SIGHT = 60;
/** For how many of those that are too late it is worked out what would mend them. */
const MENDED = 20;

type DueTask = Pick<Task, 'id' | 'title' | 'deadlineFixed' | 'estimate' | 'spent' | 'concentration' | 'incomingId'> & {
  deadline: string;
};

/** The deadlines in sight, what of the work for them still fits, and the time there is for it. */
interface Reckoned {
  now: number;
  due: { task: DueTask; deadline: number; minutes: number }[];
  found: SafeStart[];
  free: Interval[];
  demands: Demand[];
  /** Time that is set aside for other work. */
  others: SetAside[];
  blocks: Block[];
}

/** Says for every deadline in sight whether the work for it still fits. */
@Injectable()
export class RisksService {
  constructor(
    @InjectRepository(Task) private readonly tasks: Repository<Task>,
    private readonly agenda: AgendaService,
    private readonly clock: Clock,
  ) {}

  /** Ids of tasks whose deadline is in danger. */
  async atRisk(user: User): Promise<Set<string>> {
    const { found, free, demands } = await this.reckoned(user);
    const spared = new Set(causesOf(free, demands).flatMap(({ spares }) => spares));
    return new Set(found.filter((one) => isAtRisk(one) && !spared.has(one.id)).map(({ id }) => id));
  }

  /** In order of the deadlines. */
  async of(user: User): Promise<DeadlineRisk[]> {
    const { now, due, found, free, demands, others, blocks } = await this.reckoned(user);
    const { zone } = user;
    // What has begun goes on.
    const movable = others.filter(({ start }) => start > now);
    const named = await this.tasks.find({
      where: { ownerId: user.id, id: In(blocks.flatMap(({ taskId }) => taskId ?? [])) },
      select: { id: true, title: true },
    });
    const tasks = new Map(named.map((task) => [task.id, task]));
    const nameOf = (id: string) => {
      const block = blocks.find((one) => one.id === id);
      return block ? blockTitle(block, tasks.get(block.taskId ?? '')) : '';
    };
    const mends = (id: string): RiskMends => {
      const { shorten, later, moves } = mendsOf(id, free, demands, movable);
      return {
        ...{ shorten, later: later === null ? null : isoInZone(later, zone) },
        moves: moves.map((block) => ({ ...stretchSaid(block, zone), block: block.id, title: nameOf(block.id) })),
      };
    };
    // Who is late with so much needs another kind of help.
    const mended = new Set(
      found
        .filter(({ lateMinutes }) => lateMinutes > 0)
        .slice(0, MENDED)
        .map(({ id }) => id),
    );
    const causes = causesOf(free, demands);
    const titles = new Map(due.map(({ task }) => [task.id, task.title]));
    const causeOf = (id: string) => causes.find(({ spares }) => spares.includes(id));
    const asCause = (id: string) => {
      const cause = causes.find((one) => one.id === id);
      return cause ? { gives: cause.gives, spares: cause.spares } : null;
    };
    return due
      .map(({ task, minutes }, at) => ({ task, minutes, one: found[at] }))
      .map(({ task, minutes, one }) => ({
        ...{
          taskId: task.id,
          title: task.title,
          deadline: task.deadline,
          fixed: task.deadlineFixed,
          minutes,
          spent: task.spent,
        },
        lastSafeStart: one && one.lastSafeStart !== null ? isoInZone(one.lastSafeStart, zone) : null,
        slackMinutes: one?.slackMinutes ?? 0,
        lateMinutes: one?.lateMinutes ?? 0,
        incomingId: task.incomingId,
        cause: asCause(task.id),
        sparedBy: titles.get(causeOf(task.id)?.id ?? '') ?? null,
        mends: mended.has(task.id) ? mends(task.id) : null,
      }));
  }

  private async reckoned(user: User): Promise<Reckoned> {
    const now = this.clock.now();
    const { zone } = user;
    const today = dayOf(now, zone);
    const until = endOfDay(addDays(today, SIGHT), zone);
    const [rows, blocks] = await Promise.all([this.withDeadlines(user), comingBlocks(this.tasks.manager, user, now)]);
    const due = rows.flatMap((task) => {
      const deadline = deadlineAt(task.deadline, zone);
      const minutes = Math.max(0, minutesOf(task, user) - task.spent);
      return deadline === null || deadline > until || minutes === 0 ? [] : [{ task, deadline, minutes }];
    });
    due.sort((a, b) => a.deadline - b.deadline || (a.task.id < b.task.id ? -1 : 1));
    if (!due.length) return { now, due, found: [], free: [], demands: [], others: [], blocks };
    const last = dayOf(Math.max(now, ...due.map(({ deadline }) => deadline)), zone);
    const days = daysFrom(today, Math.round((Date.parse(last) - Date.parse(today)) / 86_400_000) + 1);
    const { agenda, around } = await this.agenda.taken(user, { start: now, end: endOfDay(last, zone) });
    // Time that is set aside for the work itself is free for it, and work lies in quiet time.
    const own = new Set(due.map(({ task }) => task.id));
    const others = blocks.filter(({ kind, taskId }) => kind !== 'quiet' && !own.has(taskId ?? '')).map(setAside);
    const promised = [...agenda.events, ...around].filter(({ cause }) => cause);
    const free = subtract(intersect(workingOn(user, days), [{ start: now, end: until }]), [...promised, ...others]);
    const demands = due.map(({ task, deadline, minutes }) => ({ id: task.id, deadline, minutes }));
    return { now, due, found: safeStarts(free, demands), free, demands, others, blocks };
  }

  /** Of each only what is reckoned with and told: there may be tens of thousands. */
  private async withDeadlines(user: User): Promise<DueTask[]> {
    const rows = await this.tasks.query<(Omit<DueTask, 'deadlineFixed'> & { deadlineFixed: number })[]>(
      `SELECT "id", "title", "deadline", "deadlineFixed", "estimate", "spent", "concentration", "incomingId" FROM "task"
       WHERE "ownerId" = ? AND "shelved" = 0 AND "waitingOn" IS NULL AND "assignedTo" IS NULL AND "deadline" IS NOT NULL
         AND "status" IN ('NEEDS-ACTION', 'IN-PROCESS') ORDER BY "id"`,
      [user.id],
    );
    return rows.map((row) => ({ ...row, deadlineFixed: Boolean(row.deadlineFixed) }));
  }
}
