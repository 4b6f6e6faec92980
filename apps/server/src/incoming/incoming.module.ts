import { Module } from '@nestjs/common';
import { AccountsModule } from '../accounts/accounts.module';
import { AgendaModule } from '../agenda/agenda.module';
import { IncomingController } from './incoming.controller';
import { IncomingService } from './incoming.service';
import { Intake } from './intake.service';
import { InvitationService } from './invitation.service';
import { JoinService } from './join.service';
import { Memories } from './memories.service';
import { Outcomes } from './outcomes.service';
import { Rereading } from './rereading';
import { SmtpService } from './smtp.service';

@Module({
  imports: [AccountsModule, AgendaModule],
  providers: [Intake, SmtpService, IncomingService, InvitationService, JoinService, Memories, Outcomes, Rereading],
  controllers: [IncomingController],
  exports: [IncomingService, Intake, SmtpService, InvitationService, JoinService, Memories, Outcomes],
})
export class IncomingModule {}
