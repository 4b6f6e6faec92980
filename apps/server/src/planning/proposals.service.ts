import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { Proposal, ProposalQuery } from '@corvun/contract';
import {
  addDays,
  dayOf,
  daysBetween,
  daysFrom,
  deadlineAt,
  endOfDay,
  minutesBetween,
  mondayOf,
  oneADay,
  sayMend,
  sayNoDay,
  sayWhyNot,
  startOfDay,
  workingTimeOf,
  type Day,
} from '@corvun/core';
import { In, Repository } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { AgendaService } from '../agenda/agenda.service';
import { Clock } from '../base/clock';
import { badField } from '../base/errors';
import { settingsOf, workingOn } from '../settings/settings-of';
import { Task } from '../tasks/task.entity';
import { Shortlist } from '../passes/shortlist.entity';
import { comingBlocks, doable, minutesOf, openTasks, setAside, stretchSaid } from './open-work';
import { PlanningPool } from './planning-pool';

const DAYS = 7;
const MOST_DAYS = 60;
/** Of so many that find no place it is said why; nobody reads more. */
const MOST_SAID = 200;

/** Works out plans for some days. Nothing is changed by it. */
@Injectable()
export class ProposalsService {
  constructor(
    @InjectRepository(Task) private readonly tasks: Repository<Task>,
    private readonly agenda: AgendaService,
    private readonly pool: PlanningPool,
    private readonly clock: Clock,
  ) {}

  /** @throws Refusal 422 */
  async of(user: User, query: ProposalQuery): Promise<Proposal> {
    const now = this.clock.now();
    const { zone } = user;
    const { from, to } = this.stretch(user, query);
    if (query.what === 'shortlist') return this.oneADay(user, from, to);
    const { planning, snap } = settingsOf(user);
    const window = { start: startOfDay(from, zone), end: endOfDay(to, zone) };
    const [{ agenda, around }, rows, blocks] = await Promise.all([
      this.agenda.taken(user, window),
      doable(this.tasks.manager, user),
      comingBlocks(this.tasks.manager, user, now),
    ]);
    const days = daysFrom(from, Math.round((window.end - window.start) / 86_400_000));
    const byId = new Map(rows.map((task) => [task.id, task]));
    const tasks = await openTasks(rows, user);
    const { placings, gone, stays, unplaced, cost, further } = await this.pool.plan({
      ...{ zone, now, from, to, grid: snap, rules: planning, what: query.what ?? 'due', again: query.again === 'true' },
      working: workingOn(user, days),
      busy: [...agenda.events, ...around].flatMap(({ cause, start, end }) => (cause ? { start, end } : [])),
      deep: days.flatMap((day) => workingTimeOf(day, everyDay(planning.deep), zone)),
      tasks,
      blocks: blocks.map(setAside),
    });
    const title = (id: string) => byId.get(id)?.title ?? '';
    const saying = { nameOf: title, zone, now };
    return {
      ...{ from, to, stays, cost },
      blocks: placings.map(({ task: taskId, start, end, block, was }) => {
        const task = byId.get(taskId);
        return {
          ...{ taskId, title: title(taskId), listId: task?.listId ?? null, block },
          ...stretchSaid({ start, end }, zone),
          minutes: minutesBetween(start, end),
          was: was && stretchSaid(was, zone),
          late: task?.deadline ? end > deadlineAt(task.deadline, zone) : false,
        };
      }),
      gone: gone.map(({ id, taskId, start, end }) => ({
        ...{ block: id, taskId: taskId ?? '', title: title(taskId ?? '') },
        ...stretchSaid({ start, end }, zone),
      })),
      without: unplaced.slice(0, MOST_SAID).map((one) => ({
        ...{ taskId: one.task, title: title(one.task), minutes: one.minutes },
        ...{ reason: sayWhyNot(one, saying), change: sayMend(one, saying) },
      })),
      further: Math.max(0, unplaced.length - MOST_SAID) + further,
    };
  }

  /** What is on the shortlist and has no time yet, one a day, each at its best time; on working days without one of them. */
  private async oneADay(user: User, from: Day, to: Day): Promise<Proposal> {
    const { zone } = user;
    const now = this.clock.now();
    const { planning, snap } = settingsOf(user);
    const { manager } = this.tasks;
    const list = await manager.findOneBy(Shortlist, { ownerId: user.id });
    const picks = list?.picks ?? [];
    const rows = await this.tasks.findBy({ ownerId: user.id, id: In(picks), status: In(['NEEDS-ACTION', 'IN-PROCESS']) });
    const blocks = (await comingBlocks(manager, user, now)).filter(({ taskId }) => picks.includes(taskId ?? ''));
    const used = new Set(blocks.map(({ startAt }) => dayOf(startAt, zone)));
    const days = (await this.agenda.days(user, from, daysBetween(from, to) + 1)).filter(({ working }) => working.length > 0);
    const tasks = picks
      .flatMap((id) => rows.find((row) => row.id === id) ?? [])
      .filter(({ id }) => !blocks.some((one) => one.taskId === id));
    const plan = oneADay({
      ...{ now, zone, grid: snap, deep: planning.deep, parts: planning.parts },
      days: days.map(({ day }) => day).filter((day) => !used.has(day)),
      gaps: days.flatMap(({ gaps }) => gaps.map(({ start, end }) => ({ start: Date.parse(start), end: Date.parse(end) }))),
      tasks: tasks.map((task) => ({
        ...{ id: task.id, concentration: task.concentration, notBefore: task.notBefore },
        minutes: Math.max(snap, minutesOf(task, user) - task.spent),
        deadline: task.deadline === null ? null : deadlineAt(task.deadline, zone),
      })),
    });
    const of = (id: string) => {
      const task = rows.find((row) => row.id === id);
      const minutes = task ? minutesOf(task, user) : 0;
      return { taskId: id, title: task?.title ?? '', listId: task?.listId ?? null, deadline: task?.deadline ?? null, minutes };
    };
    return {
      ...{ from, to, stays: blocks.length, cost: 0, gone: [], further: 0 },
      blocks: plan.placed.map(({ id, slot }) => {
        const { deadline, ...task } = of(id);
        const late = deadline !== null && slot.end > deadlineAt(deadline, zone);
        return {
          ...task,
          ...stretchSaid(slot, zone),
          minutes: minutesBetween(slot.start, slot.end),
          block: null,
          was: null,
          late,
        };
      }),
      without: plan.without.map(({ id, why }) => {
        const { taskId, title, minutes } = of(id);
        const said = sayNoDay(why, minutes);
        return { taskId, title, minutes, reason: said.reason, change: said.change };
      }),
    };
  }

  /** The days that are planned, none of them over. */
  private stretch({ zone }: User, { from, days, week }: ProposalQuery): { from: Day; to: Day } {
    const today = dayOf(this.clock.now(), zone);
    const count = week === undefined ? Number(days ?? DAYS) : 7;
    if (count > MOST_DAYS) throw badField('days', `The number of days is from 1 to ${MOST_DAYS}.`);
    const first = week === undefined ? (from ?? today) : mondayOf(week);
    const to = addDays(first, count - 1);
    if (to < today) throw badField(week === undefined ? 'from' : 'week', 'These days are over; nothing can be planned for them.');
    return { from: first < today ? today : first, to };
  }
}

const everyDay = (spans: string[]) => Object.fromEntries([1, 2, 3, 4, 5, 6, 7].map((day) => [day, spans]));
