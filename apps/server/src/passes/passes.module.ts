import { Body, Controller, Get, HttpCode, Module, Param, Patch, Post, Query } from '@nestjs/common';
import {
  DayPlanChange,
  DecksInput,
  OutlineQuery,
  PassChange,
  PassInput,
  ShortlistChange,
  type DayOutline,
  type DecksPreview,
  type Done,
  type PassInfo,
  type PassState,
} from '@corvun/contract';
import { Owner } from '../accounts/auth.guard';
import type { User } from '../accounts/user.entity';
import { AgendaModule } from '../agenda/agenda.module';
import { PlanningModule } from '../planning/planning.module';
import { OutlineMail } from './outline-mail.service';
import { OutlineService } from './outline.service';
import { PassesService } from './passes.service';
import { ShortlistService } from './shortlist.service';

@Controller('api')
class PassesController {
  constructor(
    private readonly passes: PassesService,
    private readonly outlines: OutlineService,
  ) {}

  @Get('days/outline')
  outline(@Owner() user: User, @Query() { day }: OutlineQuery): Promise<DayOutline> {
    return this.outlines.of(user, day);
  }

  @Patch('days')
  pick(@Owner() user: User, @Body() input: DayPlanChange): Promise<Done> {
    return this.passes.pick(user, input);
  }

  @Get('passes')
  state(@Owner() user: User): Promise<PassState> {
    return this.passes.state(user);
  }

  @Post('passes')
  @HttpCode(200)
  begin(@Owner() user: User, @Body() input: PassInput): Promise<PassInfo> {
    return this.passes.begin(user, input);
  }

  @Patch('passes/:id')
  change(@Owner() user: User, @Param('id') id: string, @Body() input: PassChange): Promise<PassInfo> {
    return this.passes.change(user, id, input);
  }

  @Post('passes/:id/undo')
  @HttpCode(200)
  undo(@Owner() user: User, @Param('id') id: string): Promise<Done> {
    return this.passes.undo(user, id);
  }
}

@Controller('api/shortlist')
class ShortlistController {
  constructor(private readonly shortlists: ShortlistService) {}

  @Patch()
  change(@Owner() user: User, @Body() input: ShortlistChange): Promise<Done> {
    return this.shortlists.change(user, input);
  }

  @Get('rest')
  rest(@Owner() user: User): Promise<DecksPreview> {
    return this.shortlists.rest(user);
  }

  @Post('rest')
  @HttpCode(200)
  shelveRest(@Owner() user: User, @Body() input: DecksInput): Promise<Done> {
    return this.shortlists.shelveRest(user, input);
  }
}

@Module({
  imports: [AgendaModule, PlanningModule],
  providers: [PassesService, ShortlistService, OutlineService, OutlineMail],
  controllers: [PassesController, ShortlistController],
})
export class PassesModule {}
