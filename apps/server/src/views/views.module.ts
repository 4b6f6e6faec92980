import { Body, Controller, Delete, Get, Module, Param, Patch, Post } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { ViewChange, ViewInput, type Added, type Done, type ViewInfo } from '@corvun/contract';
import { Repository } from 'typeorm';
import { Owner } from '../accounts/auth.guard';
import type { User } from '../accounts/user.entity';
import { badField } from '../base/errors';
import { Kernel, byUser } from '../kernel/kernel.service';
import type { Work } from '../kernel/work';
import { KeptView } from './kept-view.entity';

@Controller('api/views')
class ViewsController {
  constructor(
    @InjectRepository(KeptView) private readonly views: Repository<KeptView>,
    private readonly kernel: Kernel,
  ) {}

  @Get()
  async all(@Owner() user: User): Promise<ViewInfo[]> {
    const rows = await this.views.find({ where: { ownerId: user.id }, order: { position: 'ASC', id: 'ASC' } });
    return rows.map(({ id, name, query, version }) => ({ id, name, query, version }));
  }

  @Post()
  async add(@Owner() user: User, @Body() { name, query }: ViewInput): Promise<Added> {
    const { decision, sentence, result } = await this.kernel.transact(byUser(user), async (work) => {
      const own = await freeName(work, name);
      const view = await work.insert('view', { name: own, query, position: work.now });
      work.say({ action: 'change', sentence: `The view “${own}” is kept` });
      return view.id;
    });
    return { decision, sentence, id: result };
  }

  @Patch(':id')
  async change(@Owner() user: User, @Param('id') id: string, @Body() input: ViewChange): Promise<Done> {
    const { version, query } = input;
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const name = input.name === undefined ? undefined : await freeName(work, input.name, id);
      const after = await work.update('view', await work.find('view', id), { name, query }, version);
      work.say({ action: 'change', sentence: `The view “${after.name}” was changed` });
    });
    return { decision, sentence };
  }

  @Delete(':id')
  async remove(@Owner() user: User, @Param('id') id: string): Promise<Done> {
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const view = await work.find('view', id);
      await work.remove('view', view);
      work.say({ action: 'remove', sentence: `The view “${view.name}” was taken away` });
    });
    return { decision, sentence };
  }
}

/** @throws Refusal where another view has this name */
async function freeName(work: Work, text: string, id = ''): Promise<string> {
  const name = text.trim();
  const all = await work.manager.findBy(KeptView, { ownerId: work.ownerId });
  if (all.some((one) => one.id !== id && one.name.toLowerCase() === name.toLowerCase()))
    throw badField('name', `There is a view “${name}” already.`);
  return name;
}

@Module({ controllers: [ViewsController] })
export class ViewsModule {}
