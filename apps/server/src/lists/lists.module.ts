import { Body, Controller, Delete, Get, HttpCode, Module, Param, Patch, Post, Query } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import {
  ListChange,
  ListInput,
  ListRemoval,
  ListsOrder,
  type Done,
  type ListInfo,
  type ProjectInfo,
  type TagInfo,
} from '@corvun/contract';
import { Repository } from 'typeorm';
import { Owner } from '../accounts/auth.guard';
import type { User } from '../accounts/user.entity';
import { Tag } from '../tags/tag.entity';
import { Task } from '../tasks/task.entity';
import { List } from './list.entity';
import { Projects } from './projects.service';
import { ListWrites } from './list-writes.service';

@Controller('api')
class ListsController {
  constructor(
    @InjectRepository(List) private readonly lists: Repository<List>,
    @InjectRepository(Task) private readonly tasks: Repository<Task>,
    @InjectRepository(Tag) private readonly tags: Repository<Tag>,
    private readonly writes: ListWrites,
    private readonly projects: Projects,
  ) {}

  @Get('lists')
  async all(@Owner() user: User): Promise<ListInfo[]> {
    const rows = await this.lists.find({ where: { ownerId: user.id }, order: { position: 'ASC', id: 'ASC' } });
    const counts = await this.tasks
      .createQueryBuilder('t')
      .select('t.listId', 'listId')
      .addSelect('COUNT(*)', 'open')
      .where("t.ownerId = :owner AND t.status IN ('NEEDS-ACTION', 'IN-PROCESS') AND t.shelved = 0 AND t.parentId IS NULL", {
        owner: user.id,
      })
      .groupBy('t.listId')
      .getRawMany<{ listId: string | null; open: number }>();
    const open = new Map(counts.map((one) => [one.listId, one.open]));
    return rows.map(
      ({
        id,
        name,
        code,
        hue,
        group,
        position,
        project,
        outcome,
        ends,
        archived,
        defaultTag,
        concentration,
        billable,
        version,
      }) => ({
        id,
        name,
        code,
        hue,
        group,
        position,
        project,
        outcome,
        ends,
        archived,
        defaultTag,
        billable,
        concentration,
        open: open.get(id) ?? 0,
        version,
      }),
    );
  }

  @Get('projects')
  allProjects(@Owner() user: User): Promise<ProjectInfo[]> {
    return this.projects.all(user);
  }

  @Post('lists')
  add(@Owner() user: User, @Body() input: ListInput): Promise<{ id: string }> {
    return this.writes.add(user, input);
  }

  @Post('lists/order')
  @HttpCode(200)
  order(@Owner() user: User, @Body() input: ListsOrder): Promise<Done> {
    return this.writes.order(user, input);
  }

  @Patch('lists/:id')
  change(@Owner() user: User, @Param('id') id: string, @Body() input: ListChange): Promise<Done> {
    return this.writes.change(user, id, input);
  }

  @Delete('lists/:id')
  remove(@Owner() user: User, @Param('id') id: string, @Query() { tasks }: ListRemoval): Promise<Done> {
    return this.writes.remove(user, id, tasks ?? 'keep');
  }

  @Get('tags')
  async allTags(@Owner() user: User): Promise<TagInfo[]> {
    return (await this.tags.find({ where: { ownerId: user.id }, order: { name: 'ASC' } })).map(({ name, hue }) => ({
      name,
      hue,
    }));
  }
}

@Module({ providers: [ListWrites, Projects], controllers: [ListsController] })
export class ListsModule {}
