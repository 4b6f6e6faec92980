import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { DayPlanChange, DayPlanInfo, Done, PassChange, PassInfo, PassInput, PassKind, PassState } from '@corvun/contract';
import { addDays, count, dayOf, isoInZone, sayDay } from '@corvun/core';
import { In, MoreThanOrEqual, Repository } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { Clock } from '../base/clock';
import { Refusal, notFound } from '../base/errors';
import { Kernel, byUser } from '../kernel/kernel.service';
import { Turns } from '../kernel/turns.service';
import type { Work } from '../kernel/work';
import { Task } from '../tasks/task.entity';
import { DayPlan } from './day-plan.entity';
import { Pass } from './pass.entity';
import { Shortlist, quietOn } from './shortlist.entity';

const ENDED: Record<PassKind, string> = {
  'open-day': 'The day is open',
  'close-day': 'The day is closed',
  'week-review': 'The week is looked back on',
  'clear-decks': 'The decks are clear',
};
/** What is settled of a day with it. */
const SETTLED: Partial<Record<PassKind, 'opened' | 'closed'>> = { 'open-day': 'opened', 'close-day': 'closed' };
/** Days for which one that is about a week is gone on with where one stood. */
const GOES_ON = 7;

/** The guided passes: which is under way, where one stands in it, and taking it back as one. */
@Injectable()
export class PassesService {
  constructor(
    @InjectRepository(Pass) private readonly passes: Repository<Pass>,
    @InjectRepository(DayPlan) private readonly plans: Repository<DayPlan>,
    @InjectRepository(Shortlist) private readonly shortlists: Repository<Shortlist>,
    private readonly kernel: Kernel,
    private readonly turns: Turns,
    private readonly clock: Clock,
  ) {}

  async state(user: User): Promise<PassState> {
    const day = dayOf(this.clock.now(), user.zone);
    // One of a day that is over is not gone on with; the next one that begins leaves it.
    const where = { ownerId: user.id, state: 'running', day } as const;
    const running = await this.passes.findOne({ where, order: { begun: 'DESC' } });
    const plan = await this.plans.findOneBy({ ownerId: user.id, day });
    const over = { ownerId: user.id, kind: 'week-review', state: 'done' } as const;
    const reviewed = await this.passes.findOne({ where: over, order: { day: 'DESC' } });
    const list = await this.shortlists.findOneBy({ ownerId: user.id });
    return {
      running: running && infoOf(running, user),
      today: plan ? planInfo(plan, user) : { ...NOTHING, day },
      reviewed: reviewed?.day ?? null,
      shortlist: list && { picks: list.picks, projects: list.projects, quietUntil: quietOn(list, day) },
    };
  }

  /** Begins one, or goes on with the one of its kind; another one that was under way is left. */
  async begin(user: User, { kind }: PassInput): Promise<PassInfo> {
    const day = dayOf(this.clock.now(), user.zone);
    const { result } = await this.kernel.transact(byUser(user), async (work) => {
      const running = await work.manager.findBy(Pass, { ownerId: user.id, state: 'running' });
      const same = running.find((one) => one.kind === kind && one.day === day);
      for (const other of running) if (other !== same) await work.update('pass', other, { state: 'left', ended: work.now });
      if (same) return same;
      const before = kind in SETTLED ? null : await this.lately(work, kind, day);
      return work.insert('pass', {
        ...{ kind, day, step: before?.step ?? '', notes: before?.notes ?? {} },
        ...{ state: 'running', begun: work.now, ended: null },
      });
    });
    return infoOf(result, user);
  }

  /** @throws Refusal 409 where it is not under way any more */
  async change(user: User, id: string, { step, state, notes }: PassChange): Promise<PassInfo> {
    const { result } = await this.kernel.transact(byUser(user), async (work) => {
      const pass = await work.find('pass', id);
      if (pass.state !== 'running') throw new Refusal('not-running', 'This pass is over. Begin it anew.');
      if (state === 'done') {
        const settled = SETTLED[pass.kind];
        if (settled) await this.settle(work, pass.day, { [settled]: work.now });
        work.say({ action: 'change', sentence: ENDED[pass.kind] });
      }
      return work.update('pass', pass, {
        ...(step === undefined ? {} : { step }),
        ...(notes === undefined ? {} : { notes: { ...pass.notes, ...notes } }),
        ...(state === undefined ? {} : { state, ended: work.now }),
      });
    });
    return infoOf(result, user);
  }

  /** Takes back what the user did from its beginning to its end. */
  async undo(user: User, id: string): Promise<Done> {
    const pass = await this.passes.findOneBy({ ownerId: user.id, id });
    if (!pass) throw notFound('pass with this id');
    const { back, stays } = await this.turns.undoWithin(user.id, pass.begun, pass.ended);
    if (!back && !stays) throw new Refusal('nothing-to-undo', 'Nothing was done in this pass.');
    await this.kernel.transact(byUser(user), async (work) => {
      const present = await work.find('pass', id);
      // What is begun after this begins at its beginning.
      if (present.state === 'running')
        await work.update('pass', present, { state: 'left', ended: work.now, step: '', notes: {} });
    });
    const rest = stays ? `; ${count(stays, 'thing was', 'things were')} changed since and ${stays > 1 ? 'stay' : 'stays'}` : '';
    return { decision: '', sentence: `The pass is taken back, ${count(back, 'thing')} in all${rest}` };
  }

  async pick(user: User, { day, picks }: DayPlanChange): Promise<Done> {
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const own = [...new Set(picks)];
      const found = await work.manager.findBy(Task, { ownerId: user.id, id: In(own) });
      if (found.length < own.length) throw notFound('task with one of these ids');
      await this.settle(work, day, { picks: own });
      const when = sayDay(day, dayOf(work.now, user.zone));
      const [only] = found;
      work.say({
        action: 'change',
        sentence:
          own.length === 1 && only
            ? `“${only.title}” matters most on ${when}`
            : own.length
              ? `${own.length} things matter most on ${when}`
              : `Nothing is picked for ${when}`,
      });
    });
    return { decision, sentence };
  }

  /** One of its kind that was left within the last days, unless one was finished after it. */
  private async lately(work: Work, kind: PassKind, day: string): Promise<Pass | null> {
    const since = MoreThanOrEqual(addDays(day, -GOES_ON));
    const where = { ownerId: work.ownerId, kind, day: since };
    const last = await work.manager.findOne(Pass, { where, order: { begun: 'DESC' } });
    return last?.state === 'left' ? last : null;
  }

  private async settle(work: Work, day: string, change: Partial<Pick<DayPlan, 'opened' | 'closed' | 'picks'>>): Promise<void> {
    const plan = await work.manager.findOneBy(DayPlan, { ownerId: work.ownerId, day });
    if (plan) await work.update('dayPlan', plan, change);
    else await work.insert('dayPlan', { day, opened: null, closed: null, picks: [], ...change });
  }
}

const NOTHING: Omit<DayPlanInfo, 'day'> = { opened: null, closed: null, picks: [] };
const said = (at: number | null, { zone }: User) => (at === null ? null : isoInZone(at, zone));

const infoOf = ({ id, kind, day, step, state, begun, ended, notes, version }: Pass, user: User): PassInfo => ({
  ...{ id, kind, day, step, state, notes, version },
  ...{ begun: isoInZone(begun, user.zone), ended: said(ended, user) },
});

const planInfo = ({ day, opened, closed, picks }: DayPlan, user: User): DayPlanInfo => ({
  ...{ day, picks, opened: said(opened, user), closed: said(closed, user) },
});
