import { Body, Controller, Delete, Get, HttpCode, Module, Param, Patch, Post, Query } from '@nestjs/common';
import {
  DateOf,
  EventChange,
  EventCopies,
  EventInput,
  EventRemoval,
  type DecisionAnswer,
  type Done,
  type EventChanged,
  type EventFull,
} from '@corvun/contract';
import { Owner } from '../accounts/auth.guard';
import type { User } from '../accounts/user.entity';
import { EventReads } from './event-full.service';
import { EventsService } from './events.service';

@Controller('api/events')
class EventsController {
  constructor(
    private readonly events: EventsService,
    private readonly reads: EventReads,
  ) {}

  @Post()
  add(@Owner() user: User, @Body() input: EventInput): Promise<DecisionAnswer> {
    return this.events.add(user, input);
  }

  @Get(':id')
  one(@Owner() user: User, @Param('id') id: string, @Query() { occurrence }: DateOf): Promise<EventFull> {
    return this.reads.full(user, id, occurrence);
  }

  @Patch(':id')
  change(@Owner() user: User, @Param('id') id: string, @Body() input: EventChange): Promise<EventChanged> {
    return this.events.change(user, id, input);
  }

  @Post(':id/copies')
  copy(@Owner() user: User, @Param('id') id: string, @Body() input: EventCopies): Promise<DecisionAnswer> {
    return this.events.copy(user, id, input);
  }

  @Delete(':id')
  @HttpCode(200)
  remove(@Owner() user: User, @Param('id') id: string, @Query() place: EventRemoval): Promise<Done> {
    return this.events.remove(user, id, place);
  }
}

@Module({ providers: [EventsService, EventReads], controllers: [EventsController], exports: [EventsService] })
export class EventsModule {}
