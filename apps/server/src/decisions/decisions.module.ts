import { Module } from '@nestjs/common';
import { IncomingModule } from '../incoming/incoming.module';
import { DecideService } from './decide.service';
import { DecisionsController, ReopenController } from './decisions.controller';

@Module({
  imports: [IncomingModule],
  providers: [DecideService],
  controllers: [DecisionsController, ReopenController],
  exports: [DecideService],
})
export class DecisionsModule {}
