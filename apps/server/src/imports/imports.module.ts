import { Body, Controller, Delete, Get, HttpCode, Module, Param, Post, UploadedFiles, UseInterceptors } from '@nestjs/common';
import { FilesInterceptor, MulterModule } from '@nestjs/platform-express';
import { ColumnsInput, type ImportInfo, type ImportReport } from '@corvun/contract';
import type { TaskColumn } from '@corvun/formats';
import { AccountsModule } from '../accounts/accounts.module';
import { Owner } from '../accounts/auth.guard';
import type { User } from '../accounts/user.entity';
import { Refusal } from '../base/errors';
import { Uploads, nameOfUpload } from '../base/uploads';
import { IncomingModule } from '../incoming/incoming.module';
import { ImportsService, type Uploaded } from './imports.service';

const MAX_UPLOAD = 4 * 1024 ** 3;
const MAX_FILES = 500;

@Controller('api')
class ImportsController {
  constructor(private readonly imports: ImportsService) {}

  /** Brings files in and answers with the report: `.eml`, mbox, `.ics`, `.vcf`, `.csv`, `.md`. */
  @Post('import')
  @HttpCode(200)
  @UseInterceptors(FilesInterceptor('files', MAX_FILES))
  import(@Owner() user: User, @UploadedFiles() files: Express.Multer.File[] | undefined): Promise<ImportReport> {
    return this.imports.takeNow(user, uploaded(files));
  }

  /** Brings files in and answers at once; how far they are is asked with GET. A table waits for its columns. */
  @Post('imports')
  @UseInterceptors(FilesInterceptor('files', MAX_FILES))
  async begin(@Owner() user: User, @UploadedFiles() files: Express.Multer.File[] | undefined): Promise<ImportInfo[]> {
    const runs = await this.imports.begin(user, uploaded(files));
    return Promise.all(runs.map((run) => this.imports.info(user, run.id)));
  }

  @Get('imports')
  all(@Owner() user: User): Promise<ImportInfo[]> {
    return this.imports.all(user);
  }

  @Get('imports/:id')
  one(@Owner() user: User, @Param('id') id: string): Promise<ImportInfo> {
    return this.imports.info(user, id);
  }

  @Post('imports/:id/columns')
  @HttpCode(200)
  columns(@Owner() user: User, @Param('id') id: string, @Body() { columns }: ColumnsInput): Promise<ImportInfo> {
    return this.imports.setColumns(user, id, columns as TaskColumn[]);
  }

  @Post('imports/:id/stop')
  @HttpCode(200)
  stop(@Owner() user: User, @Param('id') id: string): Promise<ImportInfo> {
    return this.imports.stop(user, id);
  }

  @Post('imports/:id/resume')
  @HttpCode(200)
  resume(@Owner() user: User, @Param('id') id: string): Promise<ImportInfo> {
    return this.imports.resume(user, id);
  }

  @Delete('imports/:id')
  @HttpCode(204)
  forget(@Owner() user: User, @Param('id') id: string): Promise<void> {
    return this.imports.forget(user, id);
  }
}

function uploaded(files: Express.Multer.File[] | undefined): Uploaded[] {
  if (!files?.length) throw new Refusal('no-file', 'No file was sent.');
  return files.map((file) => ({ name: nameOfUpload(file), path: file.path }));
}

@Module({
  imports: [
    AccountsModule,
    IncomingModule,
    MulterModule.registerAsync({
      inject: [Uploads],
      useFactory: (uploads: Uploads) => uploads.taking({ fileSize: MAX_UPLOAD, files: MAX_FILES, fields: 10 }),
    }),
  ],
  providers: [ImportsService],
  controllers: [ImportsController],
})
export class ImportsModule {}
