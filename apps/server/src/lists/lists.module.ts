import { Body, Controller, Get, Module, Post } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { ListInput, type ListInfo, type TagInfo } from '@corvun/contract';
import { Repository } from 'typeorm';
import { Owner } from '../accounts/auth.guard';
import type { User } from '../accounts/user.entity';
import { badField } from '../base/errors';
import { Kernel, byUser } from '../kernel/kernel.service';
import { Tag } from '../tags/tag.entity';
import { Task } from '../tasks/task.entity';
import { List } from './list.entity';
import { called, newList } from './new-list';

@Controller('api')
class ListsController {
  constructor(
    @InjectRepository(List) private readonly lists: Repository<List>,
    @InjectRepository(Task) private readonly tasks: Repository<Task>,
    @InjectRepository(Tag) private readonly tags: Repository<Tag>,
    private readonly kernel: Kernel,
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
    return rows.map(({ id, name, code, hue, group, project, outcome, concentration, version }) => ({
      id,
      name,
      code,
      hue,
      group,
      project,
      outcome,
      concentration,
      open: open.get(id) ?? 0,
      version,
    }));
  }

  @Post('lists')
  async add(@Owner() user: User, @Body() input: ListInput): Promise<{ id: string }> {
    const name = input.name.trim();
    const rows = await this.lists.findBy({ ownerId: user.id });
    if (!name) throw badField('name', 'The list needs a name.');
    if (called(rows, name)) throw badField('name', `There is a list “${name}” already.`);
    const { result } = await this.kernel.transact(byUser(user), async (work) => {
      const list = await work.insert('list', { ...newList(name, rows), project: input.project ?? false });
      work.say({ action: 'change', sentence: `The list “${name}” is there` });
      return list.id;
    });
    return { id: result };
  }

  @Get('tags')
  async allTags(@Owner() user: User): Promise<TagInfo[]> {
    return (await this.tags.find({ where: { ownerId: user.id }, order: { name: 'ASC' } })).map(({ name, hue }) => ({
      name,
      hue,
    }));
  }
}

@Module({ controllers: [ListsController] })
export class ListsModule {}
