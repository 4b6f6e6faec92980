import { Body, Controller, Delete, Get, HttpCode, Param, Patch, Post } from '@nestjs/common';
import {
  ReplyInput,
  SettingsInput,
  SettleInput,
  SourceChange,
  SourceInput,
  type OutboxInfo,
  type NearPlace,
  SourceInfo,
  type SourceLook,
  type Done,
} from '@corvun/contract';
import { Owner } from '../accounts/auth.guard';
import type { User } from '../accounts/user.entity';
import { ConflictsService } from './conflicts.service';
import { OutboxService } from './outbox.service';
import { SourceHealth } from './source-health.service';
import { SourcesService } from './sources.service';

@Controller('api')
export class SourcesController {
  constructor(
    private readonly sources: SourcesService,
    private readonly health: SourceHealth,
    private readonly outbox: OutboxService,
    private readonly conflicts: ConflictsService,
  ) {}

  @Get('sources')
  all(@Owner() user: User): Promise<SourceInfo[]> {
    return this.health.all(user);
  }

  /** In the demo: places of the outside world that are not connected yet; nowhere else are there any. */
  @Get('sources/near')
  near(@Owner() user: User): Promise<NearPlace[]> {
    return this.sources.near(user);
  }

  /** What a place offers and what would come in; nothing is kept. */
  @Post('sources/look')
  @HttpCode(200)
  lookAt(@Owner() user: User, @Body() input: SourceInput): Promise<SourceLook> {
    return this.sources.lookAt(user, input);
  }

  @Post('sources')
  add(@Owner() user: User, @Body() input: SourceInput): Promise<SourceInfo> {
    return this.sources.add(user, input);
  }

  @Get('sources/:id')
  one(@Owner() user: User, @Param('id') id: string): Promise<SourceInfo> {
    return this.sources.info(user, id);
  }

  @Post('sources/:id/look')
  @HttpCode(200)
  lookAgain(@Owner() user: User, @Param('id') id: string, @Body() settings: SettingsInput): Promise<SourceLook> {
    return this.sources.lookAgain(user, id, settings);
  }

  @Patch('sources/:id')
  change(@Owner() user: User, @Param('id') id: string, @Body() input: SourceChange): Promise<SourceInfo> {
    return this.sources.change(user, id, input);
  }

  /** Looks now. */
  @Post('sources/:id/run')
  @HttpCode(200)
  run(@Owner() user: User, @Param('id') id: string): Promise<SourceInfo> {
    return this.sources.lookNow(user, id);
  }

  /** Stops a look that is going on; the next one goes on where it stopped. */
  @Post('sources/:id/stop')
  @HttpCode(200)
  async stop(@Owner() user: User, @Param('id') id: string): Promise<SourceInfo> {
    const { id: own } = await this.sources.one(user, id);
    await this.sources.change(user, own, { state: 'paused' });
    return this.sources.info(user, own);
  }

  @Delete('sources/:id')
  @HttpCode(200)
  remove(@Owner() user: User, @Param('id') id: string): Promise<{ sentence: string }> {
    return this.sources.remove(user, id);
  }

  @Get('outbox')
  waiting(@Owner() user: User): Promise<OutboxInfo[]> {
    return this.health.outboxOf(user);
  }

  @Post('outbox/:id/now')
  @HttpCode(204)
  tryNow(@Owner() user: User, @Param('id') id: string): Promise<void> {
    return this.outbox.tryNow(user.id, id);
  }

  @Post('outbox/:id/give-up')
  @HttpCode(204)
  giveUp(@Owner() user: User, @Param('id') id: string): Promise<void> {
    return this.outbox.giveUp(user.id, id);
  }

  /** Keeps one of two versions that were changed in both places. */
  @Post('incoming/:id/settle')
  @HttpCode(200)
  settle(@Owner() user: User, @Param('id') id: string, @Body() { keep }: SettleInput): Promise<Done> {
    return this.conflicts.settle(user, id, keep);
  }

  /** Replies in the chat a message came from. */
  @Post('incoming/:id/reply')
  @HttpCode(200)
  reply(@Owner() user: User, @Param('id') id: string, @Body() { text }: ReplyInput): Promise<Done> {
    return this.sources.reply(user, id, text);
  }
}
