import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { addDays, dayOf, endOfDay, startOfDay, type Instant, type Interval, type Phase } from '@corvun/core';
import { Repository } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { AgendaService, isNeeded } from '../agenda/agenda.service';
import type { Block } from '../blocks/block.entity';
import { blockTitle } from '../blocks/blocks.service';
import { HeadsDown } from './heads-down.entity';

/** Time that was set aside, and what it is called. */
export interface OwnTime extends Interval {
  block: Block;
  title: string;
}

/** What of today, and of what began yesterday, says how one is. */
export interface StandingDay {
  ownTime: OwnTime[];
  /** A whole day is no meeting, and neither is what is not answered yet. */
  meetings: Interval[];
  alone: HeadsDown | null;
  headsDown: { phase: Phase; until: Instant | null } | null;
}

@Injectable()
export class StandingReads {
  constructor(
    @InjectRepository(HeadsDown) private readonly rows: Repository<HeadsDown>,
    private readonly agenda: AgendaService,
  ) {}

  async of(user: User, now: Instant): Promise<StandingDay> {
    const today = dayOf(now, user.zone);
    const window = { start: startOfDay(addDays(today, -1), user.zone), end: endOfDay(today, user.zone) };
    const [{ agenda, tasks }, alone] = await Promise.all([
      this.agenda.taken(user, window),
      this.rows.findOneBy({ ownerId: user.id }),
    ]);
    return {
      ownTime: agenda.blocks
        .filter(({ block }) => isNeeded(block, tasks))
        .map(({ start, end, block }) => ({ start, end, block, title: blockTitle(block, tasks.get(block.taskId ?? '')) })),
      meetings: agenda.events.filter(({ cause, part }) => cause && !cause.tentative && !part.allDay),
      ...{ alone, headsDown: alone && { phase: alone.phase, until: alone.untilAt } },
    };
  }
}
