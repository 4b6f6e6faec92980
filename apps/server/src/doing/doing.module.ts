import { Body, Controller, Delete, Get, HttpCode, Module, Param, Patch, Post, Query } from '@nestjs/common';
import {
  FitsQuery,
  HeadsDownInput,
  LongerInput,
  PresenceChange,
  StopInput,
  TimeChange,
  TimeInput,
  type Done,
  type FittingTask,
  type NowState,
  type PresenceInfo,
} from '@corvun/contract';
import { Owner } from '../accounts/auth.guard';
import type { User } from '../accounts/user.entity';
import { AgendaModule } from '../agenda/agenda.module';
import { PlanningModule } from '../planning/planning.module';
import { RemindersModule } from '../reminders/reminders.module';
import { ClockWatch } from './clock-watch.service';
import { HeadsDownService } from './heads-down.service';
import { LongerService } from './longer.service';
import { LooseEndsReads } from './loose-ends.reads';
import { NowService } from './now.service';
import { PresenceService } from './presence.service';
import { StandingReads } from './standing.reads';
import { SpentFollower } from './spent.follower';
import { TimerService } from './timer.service';

@Controller('api')
class TimeController {
  constructor(private readonly timer: TimerService) {}

  @Post('tasks/:id/timer')
  @HttpCode(200)
  start(@Owner() user: User, @Param('id') id: string): Promise<Done> {
    return this.timer.start(user, id);
  }

  @Post('timer/stop')
  @HttpCode(200)
  stop(@Owner() user: User, @Body() { pause }: StopInput): Promise<Done> {
    return this.timer.stop(user, pause ?? false);
  }

  @Post('tasks/:id/time')
  @HttpCode(200)
  add(@Owner() user: User, @Param('id') id: string, @Body() input: TimeInput): Promise<Done> {
    return this.timer.add(user, id, input);
  }

  @Patch('time/:id')
  change(@Owner() user: User, @Param('id') id: string, @Body() input: TimeChange): Promise<Done> {
    return this.timer.change(user, id, input);
  }

  @Delete('time/:id')
  @HttpCode(200)
  remove(@Owner() user: User, @Param('id') id: string): Promise<Done> {
    return this.timer.remove(user, id);
  }
}

@Controller('api')
class NowController {
  constructor(
    private readonly now: NowService,
    private readonly alone: HeadsDownService,
    private readonly longer: LongerService,
    private readonly presence: PresenceService,
  ) {}

  @Get('now')
  state(@Owner() user: User): Promise<NowState> {
    return this.now.state(user);
  }

  @Get('now/fits')
  fits(@Owner() user: User, @Query() { minutes }: FitsQuery): Promise<FittingTask[]> {
    return this.now.fits(user, Number(minutes));
  }

  @Get('presence')
  how(@Owner() user: User): Promise<PresenceInfo> {
    return this.presence.info(user);
  }

  @Patch('presence')
  say(@Owner() user: User, @Body() input: PresenceChange): Promise<Done> {
    return this.presence.say(user, input);
  }

  @Post('blocks/:id/longer')
  @HttpCode(200)
  takesLonger(@Owner() user: User, @Param('id') id: string, @Body() { minutes }: LongerInput): Promise<Done> {
    return this.longer.longer(user, id, minutes);
  }

  @Post('heads-down')
  @HttpCode(200)
  begin(@Owner() user: User, @Body() { task }: HeadsDownInput): Promise<Done> {
    return this.alone.begin(user, task);
  }

  @Post('heads-down/turn')
  @HttpCode(200)
  turn(@Owner() user: User): Promise<Done> {
    return this.alone.turn(user);
  }

  @Delete('heads-down')
  @HttpCode(200)
  leave(@Owner() user: User): Promise<Done> {
    return this.alone.leave(user);
  }
}

@Module({
  imports: [AgendaModule, PlanningModule, RemindersModule],
  providers: [
    TimerService,
    HeadsDownService,
    LongerService,
    LooseEndsReads,
    NowService,
    SpentFollower,
    ClockWatch,
    PresenceService,
    StandingReads,
  ],
  controllers: [TimeController, NowController],
  exports: [StandingReads],
})
export class DoingModule {}
