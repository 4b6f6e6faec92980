import { Body, Controller, Delete, HttpCode, Module, Param, Patch, Post, Query } from '@nestjs/common';
import {
  BeginningInput,
  BlockChange,
  BlockInput,
  BlockRemoval,
  BlocksInput,
  type DecisionAnswer,
  type Done,
} from '@corvun/contract';
import { Owner } from '../accounts/auth.guard';
import type { User } from '../accounts/user.entity';
import { BesideEvents } from './beside-events';
import { BlocksService } from './blocks.service';

@Controller('api/blocks')
class BlocksController {
  constructor(private readonly blocks: BlocksService) {}

  @Post()
  add(@Owner() user: User, @Body() input: BlockInput): Promise<DecisionAnswer> {
    return this.blocks.add(user, [input]);
  }

  @Post('several')
  addSeveral(@Owner() user: User, @Body() { blocks }: BlocksInput): Promise<DecisionAnswer> {
    return this.blocks.add(user, blocks);
  }

  @Patch(':id')
  change(@Owner() user: User, @Param('id') id: string, @Body() input: BlockChange): Promise<Done> {
    return this.blocks.change(user, id, input);
  }

  @Delete(':id')
  @HttpCode(200)
  remove(@Owner() user: User, @Param('id') id: string, @Query() { day }: BlockRemoval): Promise<Done> {
    return this.blocks.remove(user, id, day);
  }
}

@Controller('api/tasks')
class BeginningController {
  constructor(private readonly blocks: BlocksService) {}

  @Post(':id/beginning')
  @HttpCode(200)
  begin(@Owner() user: User, @Param('id') id: string, @Body() input: BeginningInput): Promise<Done> {
    return this.blocks.begin(user, id, input);
  }
}

@Module({ providers: [BlocksService, BesideEvents], controllers: [BlocksController, BeginningController] })
export class BlocksModule {}
