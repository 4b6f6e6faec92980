import { Body, Controller, Get, HttpCode, Module, Post, Query } from '@nestjs/common';
import {
  AgendaQuery,
  DayOrder,
  EntriesChange,
  YesCostQuery,
  type Done,
  type AgendaEntry,
  type DayInfo,
  type YesCost,
} from '@corvun/contract';
import { dayOf } from '@corvun/core';
import { Owner } from '../accounts/auth.guard';
import type { User } from '../accounts/user.entity';
import { Clock } from '../base/clock';
import { badField } from '../base/errors';
import { AgendaService } from './agenda.service';
import { EntriesService } from './entries.service';
import { GuestTimes } from './guest-times.service';
import { YesCostService } from './yes-cost.service';

const MOST_DAYS = 62;

@Controller('api')
class AgendaController {
  constructor(
    private readonly agenda: AgendaService,
    private readonly changes: EntriesService,
    private readonly cost: YesCostService,
    private readonly clock: Clock,
  ) {}

  @Get('agenda')
  async entries(@Owner() user: User, @Query() { from, days }: AgendaQuery): Promise<{ entries: AgendaEntry[] }> {
    return { entries: await this.agenda.entries(user, this.dayField(user, from), countField(days, 1)) };
  }

  @Get('days')
  async days(@Owner() user: User, @Query() { from, days }: AgendaQuery): Promise<{ days: DayInfo[] }> {
    return { days: await this.agenda.days(user, this.dayField(user, from), countField(days, 7)) };
  }

  @Get('cost')
  costOf(@Owner() user: User, @Query() query: YesCostQuery): Promise<YesCost> {
    return this.cost.of(user, query);
  }

  @Post('agenda/change')
  @HttpCode(200)
  change(@Owner() user: User, @Body() input: EntriesChange): Promise<Done> {
    return this.changes.change(user, input);
  }

  @Post('agenda/order')
  @HttpCode(200)
  order(@Owner() user: User, @Body() input: DayOrder): Promise<Done> {
    return this.changes.order(user, input);
  }

  private dayField(user: User, day: string | undefined): string {
    return day ?? dayOf(this.clock.now(), user.zone);
  }
}

function countField(days: string | undefined, fallback: number): number {
  const count = days === undefined ? fallback : Number(days);
  if (!Number.isInteger(count) || count < 1 || count > MOST_DAYS)
    throw badField('days', `The number of days is from 1 to ${MOST_DAYS}.`);
  return count;
}

@Module({
  providers: [AgendaService, EntriesService, GuestTimes, YesCostService],
  controllers: [AgendaController],
  exports: [AgendaService],
})
export class AgendaModule {}
