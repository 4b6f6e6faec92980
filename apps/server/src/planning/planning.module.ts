import { Body, Controller, Get, HttpCode, Module, Post, Query } from '@nestjs/common';
import { PlanTaking, ProposalQuery, type DeadlineRisk, type Done, type Proposal } from '@corvun/contract';
import { Owner } from '../accounts/auth.guard';
import type { User } from '../accounts/user.entity';
import { AgendaModule } from '../agenda/agenda.module';
import { PlanningPool } from './planning-pool';
import { ProposalsService } from './proposals.service';
import { RisksService } from './risks.service';
import { TakingService } from './taking.service';

@Controller('api/plan')
class PlanningController {
  constructor(
    private readonly proposals: ProposalsService,
    private readonly taking: TakingService,
    private readonly risks: RisksService,
  ) {}

  @Get('proposal')
  proposal(@Owner() user: User, @Query() query: ProposalQuery): Promise<Proposal> {
    return this.proposals.of(user, query);
  }

  @Post('taking')
  @HttpCode(200)
  take(@Owner() user: User, @Body() input: PlanTaking): Promise<Done> {
    return this.taking.take(user, input);
  }

  @Get('risks')
  async atRisk(@Owner() user: User): Promise<{ risks: DeadlineRisk[] }> {
    return { risks: await this.risks.of(user) };
  }
}

@Module({
  imports: [AgendaModule],
  providers: [PlanningPool, ProposalsService, RisksService, TakingService],
  controllers: [PlanningController],
  exports: [RisksService],
})
export class PlanningModule {}
