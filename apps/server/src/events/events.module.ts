import { Body, Controller, Delete, HttpCode, Module, Param, Patch, Query } from '@nestjs/common';
import { EventChange, SeriesPlace, type Done } from '@corvun/contract';
import { Owner } from '../accounts/auth.guard';
import type { User } from '../accounts/user.entity';
import { EventsService } from './events.service';

@Controller('api/events')
class EventsController {
  constructor(private readonly events: EventsService) {}

  @Patch(':id')
  change(@Owner() user: User, @Param('id') id: string, @Body() input: EventChange): Promise<Done> {
    return this.events.change(user, id, input);
  }

  @Delete(':id')
  @HttpCode(200)
  remove(@Owner() user: User, @Param('id') id: string, @Query() place: SeriesPlace): Promise<Done> {
    return this.events.remove(user, id, place);
  }
}

@Module({ providers: [EventsService], controllers: [EventsController] })
export class EventsModule {}
