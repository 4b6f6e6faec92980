import { Body, Controller, Delete, HttpCode, Module, Param, Patch, Query } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { EventChange, SeriesPlace } from '@corvun/contract';
import { Owner } from '../accounts/auth.guard';
import type { User } from '../accounts/user.entity';
import { EventsService } from './events.service';

@ApiTags('events')
@Controller('api/events')
class EventsController {
  constructor(private readonly events: EventsService) {}

  @Patch(':id')
  change(
    @Owner() user: User,
    @Param('id') id: string,
    @Body() input: EventChange,
  ): Promise<{ decision: string; sentence: string }> {
    return this.events.change(user, id, input);
  }

  @Delete(':id')
  @HttpCode(200)
  remove(
    @Owner() user: User,
    @Param('id') id: string,
    @Query() place: SeriesPlace,
  ): Promise<{ decision: string; sentence: string }> {
    return this.events.remove(user, id, place);
  }
}

@Module({ providers: [EventsService], controllers: [EventsController] })
export class EventsModule {}
