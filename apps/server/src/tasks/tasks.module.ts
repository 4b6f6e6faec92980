import { Body, Controller, Get, HttpCode, Module, Param, Patch, Post, Query, Req, Res, StreamableFile } from '@nestjs/common';
import {
  BreakDownInput,
  HandOverInput,
  HandOverQuery,
  NudgeInput,
  TaskChange,
  TasksChange,
  TasksInput,
  TasksOut,
  TasksQuery,
  type Done,
  type Nudge,
  type TaskChanged,
  type TaskFull,
  type TasksAdded,
} from '@corvun/contract';
import type { Request, Response } from 'express';
import { Owner } from '../accounts/auth.guard';
import type { User } from '../accounts/user.entity';
import { sendPages } from '../base/send-pages';
import { IncomingModule } from '../incoming/incoming.module';
import { HandingOver } from './handing-over.service';
import { Rounds } from './rounds.service';
import { TaskHistory } from './task-history.service';
import { TaskWrites } from './task-writes.service';
import { TasksService } from './tasks.service';
import { WaitingService } from './waiting.service';

/** Ids in one question. */
const MOST_IDS = 200;
@Controller('api/tasks')
class TasksController {
  constructor(
    private readonly tasks: TasksService,
    private readonly writes: TaskWrites,
    private readonly rounds: Rounds,
    private readonly waiting: WaitingService,
    private readonly handing: HandingOver,
  ) {}

  @Get()
  /** Open ones and those finished lately: all, those of a list, or some by id (windows keep up with changes so). */
  all(
    @Owner() user: User,
    @Query() { list, ids }: TasksQuery,
    @Req() request: Request,
    @Res() response: Response,
  ): Promise<void> {
    return sendPages(request, response, this.tasks.all(user, { listId: list, ids: ids?.split(',').slice(0, MOST_IDS) }));
  }

  @Post()
  add(@Owner() user: User, @Body() input: TasksInput): Promise<TasksAdded> {
    return this.writes.add(user, input);
  }

  @Post('change')
  @HttpCode(200)
  changeMany(@Owner() user: User, @Body() input: TasksChange): Promise<Done> {
    return this.writes.changeMany(user, input);
  }

  @Post('out')
  @HttpCode(200)
  async out(@Owner() user: User, @Body() { ids, format }: TasksOut): Promise<StreamableFile> {
    return new StreamableFile(Buffer.from(await this.tasks.out(user, ids, format)), { type: 'text/plain; charset=utf-8' });
  }

  @Get(':id')
  one(@Owner() user: User, @Param('id') id: string): Promise<TaskFull> {
    return this.tasks.full(user, id);
  }

  @Get(':id/nudge')
  nudgeDraft(@Owner() user: User, @Param('id') id: string): Promise<Nudge> {
    return this.waiting.draft(user, id);
  }

  @Post(':id/nudge')
  @HttpCode(200)
  nudge(@Owner() user: User, @Param('id') id: string, @Body() input: NudgeInput): Promise<Done> {
    return this.waiting.nudge(user, id, input);
  }

  @Get(':id/handing-over')
  handOverDraft(@Owner() user: User, @Param('id') id: string, @Query() { to }: HandOverQuery): Promise<Nudge> {
    return this.handing.draft(user, id, to);
  }

  @Post(':id/handing-over')
  @HttpCode(200)
  handOver(@Owner() user: User, @Param('id') id: string, @Body() input: HandOverInput): Promise<Done> {
    return this.handing.handOver(user, id, input);
  }

  @Post(':id/skipping')
  @HttpCode(200)
  skip(@Owner() user: User, @Param('id') id: string): Promise<Done> {
    return this.rounds.skip(user, id);
  }

  @Post(':id/steps')
  @HttpCode(200)
  breakDown(@Owner() user: User, @Param('id') id: string, @Body() input: BreakDownInput): Promise<Done> {
    return this.writes.breakDown(user, id, input);
  }

  @Patch(':id')
  change(@Owner() user: User, @Param('id') id: string, @Body() input: TaskChange): Promise<TaskChanged> {
    return this.writes.change(user, id, input);
  }
}

@Module({
  imports: [IncomingModule],
  providers: [TasksService, TaskWrites, TaskHistory, Rounds, WaitingService, HandingOver],
  controllers: [TasksController],
})
export class TasksModule {}
