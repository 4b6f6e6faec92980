import { Module } from '@nestjs/common';
import { AccountsModule } from '../accounts/accounts.module';
import { DecisionsModule } from '../decisions/decisions.module';
import { IncomingModule } from '../incoming/incoming.module';
import { SourcesModule } from '../sources/sources.module';
import { DemoSources } from './demo-sources';
import { DemoService } from './demo.service';
import { LargeDemo } from './large';

@Module({
  imports: [AccountsModule, IncomingModule, DecisionsModule, SourcesModule],
  providers: [DemoService, DemoSources, LargeDemo],
  exports: [DemoService],
})
export class DemoModule {}
