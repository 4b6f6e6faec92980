import { Controller, Get, Module, Query } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { AgendaEntry, DayInfo } from '@corvun/contract';
import { dayOf, isDay } from '@corvun/core';
import { Owner } from '../accounts/auth.guard';
import type { User } from '../accounts/user.entity';
import { Clock } from '../base/clock';
import { badField } from '../base/errors';
import { AgendaService } from './agenda.service';

const MOST_DAYS = 62;
const FIRST_DAY = '1900-01-01';
const LAST_DAY = '2199-12-31';

@ApiTags('agenda')
@Controller('api')
class AgendaController {
  constructor(
    private readonly agenda: AgendaService,
    private readonly clock: Clock,
  ) {}

  @Get('agenda')
  async entries(
    @Owner() user: User,
    @Query('from') from?: string,
    @Query('days') days?: string,
  ): Promise<{ entries: AgendaEntry[] }> {
    return { entries: await this.agenda.entries(user, this.dayField(user, from), countField(days, 1)) };
  }

  @Get('days')
  async days(@Owner() user: User, @Query('from') from?: string, @Query('days') days?: string): Promise<{ days: DayInfo[] }> {
    return { days: await this.agenda.days(user, this.dayField(user, from), countField(days, 7)) };
  }

  private dayField(user: User, day: string | undefined): string {
    if (day === undefined) return dayOf(this.clock.now(), user.zone);
    if (!isDay(day)) throw badField('from', `${day.slice(0, 40)} is not a day in the calendar; write YYYY-MM-DD.`);
    if (day < FIRST_DAY || day > LAST_DAY) throw badField('from', `Days are shown from ${FIRST_DAY} to ${LAST_DAY}.`);
    return day;
  }
}

function countField(days: string | undefined, fallback: number): number {
  const count = days === undefined ? fallback : Number(days);
  if (!Number.isInteger(count) || count < 1 || count > MOST_DAYS)
    throw badField('days', `The number of days is from 1 to ${MOST_DAYS}.`);
  return count;
}

@Module({ providers: [AgendaService], controllers: [AgendaController], exports: [AgendaService] })
export class AgendaModule {}
