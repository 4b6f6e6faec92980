import { Module } from '@nestjs/common';
import { AccountsModule } from '../accounts/accounts.module';
import { IncomingModule } from '../incoming/incoming.module';
import { AccountAdapter } from './account/account.adapter';
import { AccountIn } from './account/account-in.service';
import { AccountInvited } from './account/account-invited';
import { AccountOut } from './account/account-out.service';
import { AccountSettling } from './account/account-settling';
import { AccountWay } from './account/account-way.service';
import { ChatAdapter } from './chat.adapter';
import { ConflictsService } from './conflicts.service';
import { DecidedFollower } from './decided.follower';
import { FeedAdapter } from './feed.adapter';
import { MailboxAdapter } from './mailbox.adapter';
import { NotesAdapter } from './notes.adapter';
import { OutboxService } from './outbox.service';
import { OutsideHttp } from './outside-http';
import { SourceHealth } from './source-health.service';
import { SourcesController } from './sources.controller';
import { SourcesService } from './sources.service';
import { SyncService } from './sync.service';
import { TimeBack } from './time-back.service';
import { TrackerAdapter } from './tracker.adapter';
import { TwoWay } from './two-way.service';

@Module({
  imports: [AccountsModule, IncomingModule],
  providers: [
    OutsideHttp,
    TwoWay,
    TimeBack,
    DecidedFollower,
    MailboxAdapter,
    ChatAdapter,
    TrackerAdapter,
    NotesAdapter,
    FeedAdapter,
    AccountWay,
    AccountInvited,
    AccountIn,
    AccountOut,
    AccountAdapter,
    AccountSettling,
    SyncService,
    OutboxService,
    SourceHealth,
    SourcesService,
    ConflictsService,
  ],
  controllers: [SourcesController],
  exports: [SourcesService, SyncService, OutsideHttp],
})
export class SourcesModule {}
