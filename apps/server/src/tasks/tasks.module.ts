import { Body, Controller, Get, Module, Param, Patch, Query } from '@nestjs/common';
import { TaskChange, TasksQuery, type Done, type TaskInfo } from '@corvun/contract';
import { Owner } from '../accounts/auth.guard';
import type { User } from '../accounts/user.entity';
import { notFound } from '../base/errors';
import { TasksService } from './tasks.service';

/** Ids in one question. */
const MOST_IDS = 200;

@Controller('api/tasks')
class TasksController {
  constructor(private readonly tasks: TasksService) {}

  @Get()
  /** Open ones and those finished lately: all, those of a list, or some by id (windows keep up with changes so). */
  all(@Owner() user: User, @Query() { list, ids }: TasksQuery): Promise<TaskInfo[]> {
    return this.tasks.all(user, { listId: list, ids: ids?.split(',').slice(0, MOST_IDS) });
  }

  @Get(':id')
  async one(@Owner() user: User, @Param('id') id: string): Promise<TaskInfo> {
    const [task] = await this.tasks.one(user, id);
    if (!task) throw notFound('task with this id');
    return task;
  }

  @Patch(':id')
  change(@Owner() user: User, @Param('id') id: string, @Body() input: TaskChange): Promise<Done> {
    return this.tasks.change(user, id, input);
  }
}

@Module({ providers: [TasksService], controllers: [TasksController] })
export class TasksModule {}
