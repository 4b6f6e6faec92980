import { Injectable, type OnModuleInit } from '@nestjs/common';
import { correctedTo, minutesSpent, type SpentStretch, type Step } from '@corvun/core';
import { In, IsNull } from 'typeorm';
import { Kernel, type Follower } from '../kernel/kernel.service';
import type { Work } from '../kernel/work';
import { Task } from '../tasks/task.entity';
import { HeadsDown } from './heads-down.entity';
import { TimeEntry } from './time-entry.entity';

const OVER = ['COMPLETED', 'CANCELLED'];

export const stretchesOf = (rows: readonly TimeEntry[]): SpentStretch[] =>
  rows.map(({ id, startAt, endAt }) => ({ id, start: startAt, end: endAt }));

/** The time of a task, by when it began. */
export const timeOf = (work: Work, taskId: string): Promise<TimeEntry[]> =>
  work.manager.find(TimeEntry, { where: { ownerId: work.ownerId, taskId }, order: { startAt: 'ASC', id: 'ASC' } });

/** Keeps the sum at a task: it is always that of its time entries. */
export async function keepSum(work: Work, taskId: string): Promise<void> {
  const task = await work.manager.findOneBy(Task, { ownerId: work.ownerId, id: taskId });
  const spent = minutesSpent(stretchesOf(await timeOf(work, taskId)));
  if (task && task.spent !== spent) await work.update('task', task, { spent });
}

/**
 * Keeps the sum at a task and its time entries the same, whoever changed which: a sum that was said becomes time entries. What
 * is done has no timer any more, and is not worked on heads-down.
 */
@Injectable()
export class SpentFollower implements Follower, OnModuleInit {
  readonly name = 'the sum of time entries';
  readonly actors = ['user', 'source', 'rule', 'guest', 'system'] as const;

  constructor(private readonly kernel: Kernel) {}

  onModuleInit(): void {
    this.kernel.follow(this);
  }

  async follow(work: Work, changes: readonly Step[]): Promise<void> {
    const tasks = changes.filter(({ kind, after }) => kind === 'task' && after !== null);
    const done = tasks.filter(({ after }) => OVER.includes(String(after?.['status'])));
    if (done.length) await this.end(work, new Set(done.map(({ id }) => id)));
    const said = tasks.filter(({ before, after }) => after && 'spent' in after && (before !== null || after['spent'] !== 0));
    for (const { id } of said) await this.keepEntries(work, id);
  }

  private async end(work: Work, done: ReadonlySet<string>): Promise<void> {
    const alone = await work.manager.findOneBy(HeadsDown, { ownerId: work.ownerId, taskId: In([...done]) });
    if (alone) await work.remove('headsDown', alone);
    const entry = await work.manager.findOneBy(TimeEntry, { ownerId: work.ownerId, taskId: In([...done]), endAt: IsNull() });
    if (!entry) return;
    await work.update('timeEntry', entry, { endAt: Math.max(entry.startAt, work.now) });
    await keepSum(work, entry.taskId);
  }

  private async keepEntries(work: Work, taskId: string): Promise<void> {
    const task = await work.manager.findOneBy(Task, { ownerId: work.ownerId, id: taskId });
    if (!task) return;
    const entries = await timeOf(work, taskId);
    const { ends, gone, added } = correctedTo(stretchesOf(entries), task.spent, task.completed ?? work.now);
    for (const entry of entries) {
      const end = ends.find(({ id }) => id === entry.id)?.end;
      if (gone.includes(entry.id)) await work.remove('timeEntry', entry);
      else if (end !== undefined) await work.update('timeEntry', entry, { endAt: end });
    }
    if (added)
      await work.insert('timeEntry', {
        ...{ taskId, startAt: added.start, endAt: added.end },
        ...{ by: 'hand' as const, paused: false, note: '' },
      });
  }
}
