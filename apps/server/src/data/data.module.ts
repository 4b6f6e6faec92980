import { Module } from '@nestjs/common';
import { MulterModule } from '@nestjs/platform-express';
import { AccountsModule } from '../accounts/accounts.module';
import { Uploads } from '../base/uploads';
import { IncomingModule } from '../incoming/incoming.module';
import { Backups } from './backups.service';
import { DataController } from './data.controller';
import { ExportService } from './export.service';
import { ImportExportService } from './import-export.service';
import { DataJobs } from './jobs.service';
import { Statistics } from './statistics.service';

const MAX_UPLOAD = 64 * 1024 ** 3;

/** Backups, export and import of everything, and checks. */
@Module({
  imports: [
    AccountsModule,
    IncomingModule,
    MulterModule.registerAsync({
      inject: [Uploads],
      useFactory: (uploads: Uploads) => uploads.taking({ fileSize: MAX_UPLOAD, files: 1, fields: 4 }),
    }),
  ],
  providers: [Backups, DataJobs, ExportService, ImportExportService, Statistics],
  controllers: [DataController],
})
export class DataModule {}
