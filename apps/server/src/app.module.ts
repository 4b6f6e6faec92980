import { Module } from '@nestjs/common';
import { APP_FILTER, APP_GUARD, APP_INTERCEPTOR } from '@nestjs/core';
import { AccountsModule } from './accounts/accounts.module';
import { AuthGuard } from './accounts/auth.guard';
import { AgendaModule } from './agenda/agenda.module';
import { BaseModule } from './base/base.module';
import { ErrorFilter } from './base/errors';
import { BlocksModule } from './blocks/blocks.module';
import { CalendarsModule } from './calendars/calendars.module';
import { CaptureModule } from './capture/capture.module';
import { DataModule } from './data/data.module';
import { DavModule } from './dav/dav.module';
import { DecisionsModule } from './decisions/decisions.module';
import { DemoModule } from './demo/demo.module';
import { DueModule } from './due/due.module';
import { EventsModule } from './events/events.module';
import { ImportsModule } from './imports/imports.module';
import { OwnFilesModule } from './files/own-files.controller';
import { DoingModule } from './doing/doing.module';
import { FindModule } from './find/find.module';
import { InTheirManner } from './accounts/manner';
import { CarryChanges } from './kernel/changed';
import { IncomingModule } from './incoming/incoming.module';
import { ListsModule } from './lists/lists.module';
import { LookbackModule } from './lookback/lookback.module';
import { QuietModule } from './quiet/quiet.module';
import { WeatherModule } from './weather/weather.module';
import { MailWayModule } from './mail-way/mail-way.module';
import { MirrorsModule } from './mirrors/mirrors.module';
import { NotesModule } from './notes/notes.module';
import { OthersModule } from './others/others.module';
import { PassesModule } from './passes/passes.module';
import { PlanningModule } from './planning/planning.module';
import { PeopleModule } from './people/people.module';
import { ReadingModule } from './reading/reading.module';
import { RemindersModule } from './reminders/reminders.module';
import { SettingsModule } from './settings/settings.module';
import { SourcesModule } from './sources/sources.module';
import { StreamModule } from './stream/stream.module';
import { TasksModule } from './tasks/tasks.module';
import { ViewsModule } from './views/views.module';

@Module({
  imports: [
    BaseModule,
    DueModule,
    MailWayModule,
    ReadingModule,
    AccountsModule,
    StreamModule,
    IncomingModule,
    DecisionsModule,
    TasksModule,
    ViewsModule,
    ListsModule,
    CalendarsModule,
    EventsModule,
    OwnFilesModule,
    BlocksModule,
    AgendaModule,
    PassesModule,
    PlanningModule,
    DoingModule,
    LookbackModule,
    QuietModule,
    WeatherModule,
    CaptureModule,
    FindModule,
    NotesModule,
    PeopleModule,
    SettingsModule,
    RemindersModule,
    OthersModule,
    MirrorsModule,
    DavModule,
    SourcesModule,
    ImportsModule,
    DataModule,
    DemoModule,
  ],
  providers: [
    { provide: APP_GUARD, useClass: AuthGuard },
    { provide: APP_FILTER, useClass: ErrorFilter },
    { provide: APP_INTERCEPTOR, useClass: CarryChanges },
    { provide: APP_INTERCEPTOR, useClass: InTheirManner },
  ],
})
export class AppModule {}
