import { Module } from '@nestjs/common';
import { MulterModule } from '@nestjs/platform-express';
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { diskStorage } from 'multer';
import { AgendaModule } from '../agenda/agenda.module';
import { AccountsModule } from '../accounts/accounts.module';
import { CONFIG, type Config } from '../base/config';
import { newId } from '../base/ids';
import { ImportService } from './import.service';
import { IncomingController } from './incoming.controller';
import { IncomingService } from './incoming.service';
import { Intake } from './intake.service';
import { InvitationService } from './invitation.service';
import { JoinService } from './join.service';
import { SmtpService } from './smtp.service';

const MAX_UPLOAD = 4 * 1024 ** 3;
const MAX_FILES = 500;

@Module({
  imports: [
    AccountsModule,
    AgendaModule,
    MulterModule.registerAsync({
      inject: [CONFIG],
      useFactory: ({ data }: Config) => {
        const destination = join(data, 'uploads');
        mkdirSync(destination, { recursive: true });
        return {
          storage: diskStorage({ destination, filename: (_request, _file, done) => done(null, newId()) }),
          limits: { fileSize: MAX_UPLOAD, files: MAX_FILES, fields: 10 },
        };
      },
    }),
  ],
  providers: [Intake, SmtpService, ImportService, IncomingService, InvitationService, JoinService],
  controllers: [IncomingController],
  exports: [IncomingService, Intake, SmtpService, InvitationService, JoinService],
})
export class IncomingModule {}
