import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { AgendaEntry, DayOutline } from '@corvun/contract';
import {
  dayBefore,
  dayOf,
  dayOutline,
  isAtRiskItself,
  minutesBetween,
  outlineText,
  type OutlineTask,
  type OutlineTimed,
} from '@corvun/core';
import { In, Repository } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { AgendaService } from '../agenda/agenda.service';
import { Clock } from '../base/clock';
import { doable, minutesOf } from '../planning/open-work';
import { RisksService } from '../planning/risks.service';
import { Task } from '../tasks/task.entity';
import { DayPlan } from './day-plan.entity';

/** What stayed open is said of so many; more is no outline. */
const MOST_LEFT = 30;
const OPEN = ['NEEDS-ACTION', 'IN-PROCESS'] as const;

/** Says a day in words. */
@Injectable()
export class OutlineService {
  constructor(
    @InjectRepository(Task) private readonly tasks: Repository<Task>,
    @InjectRepository(DayPlan) private readonly plans: Repository<DayPlan>,
    private readonly agenda: AgendaService,
    private readonly risks: RisksService,
    private readonly clock: Clock,
  ) {}

  async of(user: User, wanted?: string): Promise<DayOutline> {
    const today = dayOf(this.clock.now(), user.zone);
    const day = wanted ?? today;
    const [info] = await this.agenda.days(user, day, 1);
    if (!info) throw new Error(`There is no day ${day}.`);
    const plan = await this.plans.findOneBy({ ownerId: user.id, day });
    const risks = (await this.risks.of(user)).filter(isAtRiskItself).map(({ taskId, lastSafeStart, ...risk }) => ({
      ...{ id: taskId, title: risk.title, deadline: risk.deadline, lateMinutes: risk.lateMinutes },
      lastSafeStart: lastSafeStart === null ? null : Date.parse(lastSafeStart),
    }));
    const entries = info.entries.filter(({ status }) => status !== 'CANCELLED');
    const lines = dayOutline({
      ...{ day, today, zone: user.zone, off: info.off, load: info.load, risks, picks: plan?.picks ?? [] },
      wholeDay: entries.filter(({ kind, allDay }) => kind === 'event' && allDay).map(({ title }) => title),
      timed: await this.timedOf(user, entries),
      tasks: await this.tasksOf(user, entries, plan?.picks ?? []),
      left: day === today ? await this.leftOf(user, today) : [],
    });
    return { day, lines, text: outlineText(lines, day, today), over: info.load.over };
  }

  private async timedOf(user: User, entries: readonly AgendaEntry[]): Promise<OutlineTimed[]> {
    const timed = entries.filter(({ kind, allDay, showAs }) => kind !== 'task' && !allDay && showAs !== 'free');
    const prepared = await this.preparedOf(user, timed);
    return timed.flatMap(({ kind, start, end, ...entry }) => {
      if (kind === 'task' || start === null || end === null) return [];
      const [from, to] = [Date.parse(start), Date.parse(end)];
      const around = entry.buffers.map((one) => ({ from: Date.parse(one.start), to: Date.parse(one.end) }));
      const before = Math.min(from, ...around.filter((one) => one.to <= from).map((one) => one.from));
      const after = Math.max(to, ...around.filter((one) => one.from >= to).map((one) => one.to));
      return {
        ...{ kind, id: entry.id, title: entry.title, start: from, end: to, location: entry.location },
        ...{ tentative: entry.showAs === 'tentative', done: entry.status === 'COMPLETED' },
        ...{ before: minutesBetween(before, from), after: minutesBetween(to, after) },
        prepare: prepared.get(entry.id) ?? [],
      };
    });
  }

  /** Titles of the open tasks that are done before events, by event. */
  private async preparedOf(user: User, entries: readonly AgendaEntry[]): Promise<Map<string, string[]>> {
    const found = await this.tasks.query<{ event: string; title: string }[]>(
      `SELECT e."id" AS "event", k."title" FROM "event" e, json_each(e."buffers", '$.tasks') t
       JOIN "task" k ON k."id" = json_extract(t."value", '$.id') AND k."status" IN ('NEEDS-ACTION', 'IN-PROCESS')
       WHERE e."ownerId" = ? AND e."id" IN (SELECT "value" FROM json_each(?)) AND json_extract(t."value", '$.at') = 'prep'`,
      [user.id, JSON.stringify(entries.map(({ id }) => id))],
    );
    const titles = new Map<string, string[]>();
    for (const { event, title } of found) titles.set(event, [...(titles.get(event) ?? []), title]);
    return titles;
  }

  /** Open tasks of a day, those with time on it among them, and those that matter on it wherever they stand. */
  private async tasksOf(user: User, entries: readonly AgendaEntry[], picks: readonly string[]): Promise<OutlineTask[]> {
    const placed = new Map<string, number>();
    for (const { kind, taskId, start, end } of entries)
      if (kind === 'block' && taskId && start && end)
        placed.set(taskId, (placed.get(taskId) ?? 0) + minutesBetween(Date.parse(start), Date.parse(end)));
    const loose = entries.filter(({ kind }) => kind === 'task').map(({ id }) => id);
    const ids = [...new Set([...loose, ...placed.keys(), ...picks])];
    const rows = await this.tasks.findBy({ ownerId: user.id, id: In(ids), status: In(OPEN) });
    const byId = new Map(rows.map((row) => [row.id, row]));
    return ids.flatMap((id) => {
      const task = byId.get(id);
      if (!task) return [];
      const { title, priority, deadline } = task;
      const own = placed.get(id);
      return { ...{ id, title, priority, deadline }, minutes: own ?? minutesOf(task, user), placed: own !== undefined };
    });
  }

  /** What was for days before and is still open, the oldest first. */
  private async leftOf(user: User, today: string): Promise<{ id: string; title: string; day: string }[]> {
    const rows = await doable(this.tasks.manager, user);
    return rows
      .flatMap(({ id, title, plannedDay, plannedWeek }) => {
        const day = dayBefore({ plannedDay, plannedWeek }, today);
        return day === null ? [] : [{ id, title, day }];
      })
      .sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : a.id < b.id ? -1 : 1))
      .slice(0, MOST_LEFT);
  }
}
