import { Module } from '@nestjs/common';
import { AccountsModule } from '../accounts/accounts.module';
import { DecisionsModule } from '../decisions/decisions.module';
import { IncomingModule } from '../incoming/incoming.module';
import { DemoService } from './demo.service';
import { LargeDemo } from './large';

@Module({
  imports: [AccountsModule, IncomingModule, DecisionsModule],
  providers: [DemoService, LargeDemo],
  exports: [DemoService],
})
export class DemoModule {}
