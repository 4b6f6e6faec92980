import { Module } from '@nestjs/common';
import { IncomingModule } from '../incoming/incoming.module';
import { DecideService } from './decide.service';
import { DecisionsController } from './decisions.controller';

@Module({ imports: [IncomingModule], providers: [DecideService], controllers: [DecisionsController], exports: [DecideService] })
export class DecisionsModule {}
