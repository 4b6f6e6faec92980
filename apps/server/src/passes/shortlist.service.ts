import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { DecksInput, DecksPreview, Done, ShortlistChange } from '@corvun/contract';
import { count, dayOf, partDecks, sayDay, sayMinutes, minutesBetween } from '@corvun/core';
import { In, IsNull, LessThanOrEqual, MoreThan, Or, Repository, type EntityManager } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { Clock } from '../base/clock';
import { Refusal, badField, notFound } from '../base/errors';
import { Block } from '../blocks/block.entity';
import { Kernel, byUser } from '../kernel/kernel.service';
import type { Work } from '../kernel/work';
import { List } from '../lists/list.entity';
import { Task } from '../tasks/task.entity';
import { Shortlist } from './shortlist.entity';

/** How many next steps of a project come into sight. */
const STEPS = 3;
const OPEN = ['NEEDS-ACTION', 'IN-PROCESS'] as const;

/** The few things that are to be in sight, and the shelf for all others. */
@Injectable()
export class ShortlistService {
  constructor(
    @InjectRepository(Task) private readonly tasks: Repository<Task>,
    private readonly kernel: Kernel,
    private readonly clock: Clock,
  ) {}

  /** @throws Refusal 404 for a task or a project that is not there, 422 for a day that is over */
  async change(user: User, { picks, projects, quietUntil }: ShortlistChange): Promise<Done> {
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const today = dayOf(work.now, user.zone);
      if (quietUntil && quietUntil < today) throw badField('quietUntil', 'That day is over.');
      const before = await work.manager.findOneBy(Shortlist, { ownerId: user.id });
      const change: Partial<Pick<Shortlist, 'picks' | 'projects' | 'quietUntil'>> = {};
      const said: string[] = [];
      if (picks) {
        change.picks = [...new Set(picks)];
        await this.known(work, change.picks);
        said.push(change.picks.length ? `${count(change.picks.length, 'thing')} on the shortlist` : 'The shortlist is empty');
      }
      if (projects) {
        change.projects = [...new Set(projects)];
        const added = change.projects.filter((id) => !before?.projects.includes(id));
        const found = await work.manager.findBy(List, { ownerId: user.id, project: true, id: In(change.projects) });
        if (found.length < change.projects.length) throw notFound('project with one of these ids');
        for (const id of added) await this.showSteps(work, id, today);
        const name = found.find(({ id }) => added.length === 1 && id === added[0])?.name;
        said.push(name ? `“${name}” is gone on with` : `${count(change.projects.length, 'project')} in sight`);
      }
      if (quietUntil !== undefined) {
        change.quietUntil = quietUntil;
        said.push(quietUntil ? `It is quiet until ${sayDay(quietUntil, today)}` : 'The quiet time is over');
      }
      if (!said.length) throw badField('picks', 'Say what is to be on the shortlist.');
      if (before) await work.update('shortlist', before, change);
      else await work.insert('shortlist', { picks: [], projects: [], quietUntil: null, ...change });
      work.say({
        action: 'change',
        sentence: said.map((one, at) => (at ? `${one.charAt(0).toLowerCase()}${one.slice(1)}` : one)).join('; '),
      });
    });
    return { decision, sentence };
  }

  /** Shelves the rest in one step. @throws Refusal 409 where nothing is left for it */
  async shelveRest(user: User, { lookAgain }: DecksInput): Promise<Done> {
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const today = dayOf(work.now, user.zone);
      if (lookAgain && lookAgain < today) throw badField('lookAgain', 'That day is over.');
      const { tasks, blocks, goes } = await this.parted(work.manager, user, work.now);
      if (!goes.length) throw new Refusal('nothing-to-shelve', 'Nothing is left that could go to the shelf.');
      const going = new Set(goes);
      for (const task of tasks)
        if (going.has(task.id))
          await work.update('task', task, {
            ...{ shelved: true, lookAgain: lookAgain ?? null, plannedDay: null, plannedWeek: null },
          });
      const back = blocks.filter(({ taskId }) => taskId !== null && going.has(taskId));
      for (const block of back) await work.remove('block', block);
      const minutes = back.reduce((sum, { startAt, endAt }) => sum + minutesBetween(startAt, endAt), 0);
      const again = lookAgain ? ` until ${sayDay(lookAgain, today)}` : '';
      const freed = minutes ? `; ${sayMinutes(minutes)} of your time ${back.length === 1 ? 'is' : 'are'} free again` : '';
      work.say({ action: 'move', sentence: `${count(topsOf(tasks, going), 'task')} on the shelf${again}${freed}` });
    });
    return { decision, sentence };
  }

  /** What that would do. */
  async rest(user: User): Promise<DecksPreview> {
    const { tasks, stays, goes } = await this.parted(this.tasks.manager, user, this.clock.now());
    const titles = new Map(tasks.map(({ id, title }) => [id, title]));
    return {
      stays: [...stays].map(([taskId, why]) => ({ taskId, title: titles.get(taskId) ?? '', why })),
      goes: topsOf(tasks, new Set(goes)),
    };
  }

  /** Open tasks that are in sight, their time to come, and what of them stays and goes. */
  private async parted(manager: EntityManager, { id: ownerId }: User, now: number) {
    const tasks = await manager.findBy(Task, { ownerId, shelved: false, status: In(OPEN) });
    const blocks = await manager.findBy(Block, { ownerId, startAt: MoreThan(now) });
    const pinned = new Set(blocks.flatMap((block) => (block.pinned && block.taskId ? [block.taskId] : [])));
    const list = await manager.findOneBy(Shortlist, { ownerId });
    return {
      ...{ tasks, blocks },
      ...partDecks(
        tasks.map((task) => ({ ...task, pinned: pinned.has(task.id) })),
        new Set(list?.picks),
      ),
    };
  }

  private async known(work: Work, ids: readonly string[]): Promise<void> {
    const found = await work.manager.findBy(Task, { ownerId: work.ownerId, id: In([...ids]) });
    if (found.length < ids.length) throw notFound('task with one of these ids');
  }

  /** Takes the first steps of a project that can be done now off the shelf. */
  private async showSteps(work: Work, listId: string, today: string): Promise<void> {
    const steps = await work.manager.find(Task, {
      where: {
        ...{ ownerId: work.ownerId, listId, status: In(OPEN), parentId: IsNull() },
        ...{ waitingOn: IsNull(), assignedTo: IsNull(), notBefore: Or(IsNull(), LessThanOrEqual(today)) },
      },
      order: { position: 'ASC', id: 'ASC' },
      take: STEPS,
    });
    for (const step of steps) if (step.shelved) await work.update('task', step, { shelved: false, lookAgain: null });
  }
}

/** How many of those that go are no steps of one that goes. */
const topsOf = (tasks: readonly Task[], going: ReadonlySet<string>): number =>
  tasks.filter(({ id, parentId }) => going.has(id) && !(parentId && going.has(parentId))).length;
