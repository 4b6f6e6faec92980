import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { dayOf, tellQuiet, type Interval, type LogEntry } from '@corvun/core';
import { And, LessThan, LessThanOrEqual, MoreThan, MoreThanOrEqual, Repository } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { Block } from '../blocks/block.entity';
import { blockTitle } from '../blocks/blocks.service';
import { Grace, SiteHold } from '../quiet/quiet.entities';
import type { OnDay, Scope } from './log-scope';

/** Quiet time that was set aside, or that was worked heads-down. */
interface QuietOne {
  id: string;
  title: string;
  taskId: string | null;
  span: Interval;
  hold: SiteHold | undefined;
  looks: readonly Grace[];
}

/** Quiet time that is over: what was held back in it, and what was looked at all the same. */
@Injectable()
export class QuietReads {
  constructor(
    @InjectRepository(Block) private readonly blocks: Repository<Block>,
    @InjectRepository(SiteHold) private readonly holds: Repository<SiteHold>,
    @InjectRepository(Grace) private readonly graces: Repository<Grace>,
  ) {}

  async within(user: User, { window, found, now }: Scope): Promise<OnDay[]> {
    // Nothing of it is found by words.
    if (found) return [];
    const over = { startAt: And(MoreThanOrEqual(window.start), LessThan(window.end)), endAt: LessThanOrEqual(now) };
    const [blocks, holds, graces] = await Promise.all([
      this.blocks.findBy({ ownerId: user.id, kind: 'quiet', ...over }),
      this.holds.findBy({ ownerId: user.id, startAt: LessThan(window.end), endAt: MoreThan(window.start) }),
      this.graces.findBy({ ownerId: user.id, startAt: LessThan(window.end), endAt: MoreThan(window.start) }),
    ]);
    const alone = holds.filter(({ taskId }) => taskId !== null);
    const among = (at: number, { startAt, endAt }: Pick<SiteHold, 'startAt' | 'endAt'>) => at >= startAt && at < endAt;
    const told = (one: QuietOne): OnDay => {
      const { id, title, taskId, span, hold, looks } = one;
      const text = tellQuiet(
        {
          ...span,
          held: hold ? { start: hold.startAt, sites: hold.sites } : null,
          awaited: user.extensionSince > 0 && user.extensionSince <= span.start,
          graces: looks.map(({ site, startAt, endAt }) => ({ site, start: startAt, end: Math.min(endAt, span.end) })),
        },
        user.zone,
      );
      const entry: LogEntry = {
        ...{ kind: 'quiet', id, at: span.start, title, text, parts: [], listId: null, calendarId: null },
        thing: taskId === null ? null : { kind: 'task', id: taskId, occurrence: null },
      };
      return { day: dayOf(span.start, user.zone), entry };
    };
    return [
      ...blocks.map((block) => {
        const { id, startAt, endAt } = block;
        const around = holds.find((one) => one.startAt < endAt && one.endAt > startAt);
        const hold = holds.find(({ ofWhat }) => ofWhat === id) ?? around;
        // What was looked at heads-down is told there, once.
        const looks = graces.filter((one) => among(one.startAt, block) && !alone.some((other) => among(one.startAt, other)));
        return told({ id, title: blockTitle(block, null), taskId: null, span: { start: startAt, end: endAt }, hold, looks });
      }),
      ...alone
        .filter(({ startAt, endAt }) => startAt >= window.start && endAt <= now)
        .map((hold) => {
          const looks = graces.filter(({ startAt }) => among(startAt, hold));
          const { id, taskId, startAt, endAt } = hold;
          return told({ id, title: `Heads-down: ${hold.title}`, taskId, span: { start: startAt, end: endAt }, hold, looks });
        }),
    ];
  }
}
