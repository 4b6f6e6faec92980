import { Injectable, type OnModuleInit } from '@nestjs/common';
import { count, dayOf, instantOf, type Step } from '@corvun/core';
import { In, MoreThan } from 'typeorm';
import { User } from '../accounts/user.entity';
import { Event } from '../events/event.entity';
import { Kernel, type Follower } from '../kernel/kernel.service';
import type { Work } from '../kernel/work';
import { Block } from './block.entity';

/** Breaks that were told to move with an event: when it moves, by whatever way, they move as far. */
@Injectable()
export class BesideEvents implements Follower, OnModuleInit {
  readonly name = 'breaks move with their events';
  readonly actors = ['user', 'rule', 'guest', 'system', 'source'] as const;

  constructor(private readonly kernel: Kernel) {}

  onModuleInit(): void {
    this.kernel.follow(this);
  }

  async follow(work: Work, changes: readonly Step[]): Promise<void> {
    const events = changes.filter(({ kind, before, after }) => kind === 'event' && (!after || !before || 'start' in after));
    if (!events.length) return;
    // What was moved with it, or is taken back with it, is where it is meant to be.
    const placed = new Set(
      changes.filter(({ kind, after }) => kind === 'block' && after && 'startAt' in after).map(({ id }) => id),
    );
    let moved = 0;
    for (const { id, before, after } of events) {
      if (!after) await this.letGo(work, id);
      else if (before) moved += await this.shift(work, await this.besides(work, [id], placed), id, difference(before, after));
      else moved += await this.oneDate(work, id, placed);
    }
    const { said } = work;
    if (moved && said)
      work.say({
        ...said,
        sentence: `${said.sentence}; ${moved === 1 ? 'its break moves' : `${count(moved, 'break')} move`}, too`,
      });
  }

  /** A date of a series that stands for itself now takes the breaks of its day with it. */
  private async oneDate(work: Work, id: string, placed: ReadonlySet<string>): Promise<number> {
    const date = await work.manager.findOneBy(Event, { id, ownerId: work.ownerId });
    if (!date?.recurrenceId.includes('T')) return 0;
    const { uid, calendarId } = date;
    const parts = await work.manager.findBy(Event, { ownerId: work.ownerId, uid, calendarId });
    const { zone } = await work.manager.findOneByOrFail(User, { id: work.ownerId });
    const from = instantOf(date.recurrenceId, date.zone ?? zone);
    const ids = parts.filter((one) => one.id !== id).map((one) => one.id);
    const blocks = await this.besides(work, ids, placed);
    const ofDay = blocks.filter(({ startAt }) => dayOf(startAt, zone) === dayOf(from, zone));
    return this.shift(work, ofDay, id, date.startAt - from);
  }

  private async besides(work: Work, ids: string[], placed: ReadonlySet<string>): Promise<Block[]> {
    const blocks = await work.manager.findBy(Block, { ownerId: work.ownerId, besideId: In(ids), endAt: MoreThan(work.now) });
    return blocks.filter(({ id }) => !placed.has(id));
  }

  private async shift(work: Work, blocks: Block[], besideId: string, by: number): Promise<number> {
    for (const block of blocks)
      await work.update('block', block, { startAt: block.startAt + by, endAt: block.endAt + by, besideId });
    return by ? blocks.length : 0;
  }

  /** An event that is gone takes nothing with it. */
  private async letGo(work: Work, id: string): Promise<void> {
    for (const block of await work.manager.findBy(Block, { ownerId: work.ownerId, besideId: id }))
      await work.update('block', block, { besideId: null });
  }
}

const difference = (before: Step['after'], after: Step['after']): number =>
  Number(after?.['startAt'] ?? 0) - Number(before?.['startAt'] ?? 0);
