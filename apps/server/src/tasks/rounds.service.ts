import { Injectable, type OnModuleInit } from '@nestjs/common';
import type { Done } from '@corvun/contract';
import {
  count,
  dayOf,
  nextRound,
  repeatDayAfter,
  repeatDayOf,
  sayClock,
  sayDay,
  wallOf,
  type NextRound,
  type Step,
} from '@corvun/core';
import { In } from 'typeorm';
import { User } from '../accounts/user.entity';
import { Clock } from '../base/clock';
import { Refusal } from '../base/errors';
import type { Block } from '../blocks/block.entity';
import { Kernel, byUser, type Follower } from '../kernel/kernel.service';
import type { Work } from '../kernel/work';
import { nextOne, timesOf, movedTo, openAgain } from './next-one';
import { Task } from './task.entity';

const DAYS = ['plannedDay', 'plannedWeek', 'deadline', 'repeat'];

/** Whether a change moved a task. One that says for which date it stands, such as one that is taken back, means it so. */
const movedBy = (before: Partial<Task>) => DAYS.some((column) => column in before) && !('repeatOn' in before);

/** Repeating tasks: when one is done, by whatever way, the next one is there; one can be skipped. */
@Injectable()
export class Rounds implements Follower, OnModuleInit {
  readonly name = 'repeating tasks';
  readonly actors = ['user', 'source'] as const;

  constructor(
    private readonly kernel: Kernel,
    private readonly clock: Clock,
  ) {}

  onModuleInit(): void {
    this.kernel.follow(this);
  }

  async follow(work: Work, changes: readonly Step[]): Promise<void> {
    const changed = new Map<string, Partial<Task>>();
    for (const { kind, id, before, after } of changes)
      if (kind === 'task' && before && after && ('status' in before || movedBy(before))) changed.set(id, before);
    if (!changed.size) return;
    const rows = await work.manager.findBy(Task, { ownerId: work.ownerId, id: In([...changed.keys()]) });
    const told: string[] = [];
    const ended = new Set(rows.filter(({ status }) => status === 'COMPLETED').map(({ id }) => id));
    // A step comes back with its task.
    for (const row of rows.filter(({ repeat, parentId }) => repeat !== null && !ended.has(parentId ?? ''))) {
      const before = { ...row, ...changed.get(row.id) };
      if (row.status === 'COMPLETED' && before.status !== 'COMPLETED') told.push(await this.comeAgain(work, row));
      else if (movedBy(changed.get(row.id) ?? {})) {
        const repeatOn = repeatDayAfter(before, row);
        if (repeatOn !== row.repeatOn) await work.update('task', row, { repeatOn });
      }
    }
    const { said } = work;
    const [first] = told.filter(Boolean);
    if (said && first)
      work.say({
        ...said,
        sentence: `${said.sentence}; ${told.length > 1 ? `${told.length} of them come again` : first}`,
      });
  }

  /** Makes the one after a task that is done; its rule goes on to it. @returns when it comes, for the sentence */
  private async comeAgain(work: Work, task: Task): Promise<string> {
    const { zone } = await work.manager.findOneByOrFail(User, { id: work.ownerId });
    const today = dayOf(work.now, zone);
    const next = nextRound(task, today);
    await work.update('task', task, { repeatOn: repeatDayOf(task) ?? today, ...(next ? { repeat: null } : {}) });
    if (!next) return 'that was the last one';
    const blocks = await nextOne(work, task, next, zone);
    return sayNext(next, blocks, today, zone);
  }

  /** Passes over one date: the task comes on the next one instead, with its steps open again. @throws Refusal 422 */
  async skip(user: User, id: string): Promise<Done> {
    const today = dayOf(this.clock.now(), user.zone);
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const task = await work.find('task', id);
      const next = nextRound(task, today);
      if (!next)
        throw new Refusal(
          'no-next-date',
          task.repeat
            ? 'There is no date after this one. It can be done, or dropped.'
            : 'It does not repeat: there is nothing to skip to.',
        );
      const times = await timesOf(work, task, user.zone);
      const { later, passed: _, ...dates } = next;
      await work.update('task', task, { ...dates, status: 'NEEDS-ACTION' });
      await openAgain(work, task.id, later);
      const blocks = await movedTo(work, times, task.id, next.repeatOn, user.zone);
      work.say({ action: 'move', sentence: `“${task.title}” is skipped; ${sayNext(next, blocks, today, user.zone)}` });
    });
    return { decision, sentence };
  }
}

function sayNext({ plannedWeek, plannedDay, repeatOn, passed }: NextRound, blocks: Block[], today: string, zone: string): string {
  const [first] = blocks;
  const at = first ? `, ${sayClock(wallOf(first.startAt, zone).slice(11))}` : '';
  const when =
    plannedWeek && !plannedDay ? `in week ${Number(plannedWeek.slice(6))}` : `on ${sayDay(plannedDay ?? repeatOn, today)}${at}`;
  return `the next one is ${when}${passed ? `, ${count(passed, 'date')} that passed left out` : ''}`;
}
