import { Body, Controller, Delete, HttpCode, Module, Param, Patch } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { TimesChange } from '@corvun/contract';
import { Owner } from '../accounts/auth.guard';
import type { User } from '../accounts/user.entity';
import { EventsService } from './events.service';

@ApiTags('events')
@Controller('api/events')
class EventsController {
  constructor(private readonly events: EventsService) {}

  @Patch(':id')
  move(
    @Owner() user: User,
    @Param('id') id: string,
    @Body() input: TimesChange,
  ): Promise<{ decision: string; sentence: string }> {
    return this.events.move(user, id, input);
  }

  @Delete(':id')
  @HttpCode(200)
  remove(@Owner() user: User, @Param('id') id: string): Promise<{ decision: string; sentence: string }> {
    return this.events.remove(user, id);
  }
}

@Module({ providers: [EventsService], controllers: [EventsController] })
export class EventsModule {}
