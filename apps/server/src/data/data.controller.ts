import {
  Body,
  Controller,
  Delete,
  Get,
  HttpCode,
  Inject,
  Param,
  Patch,
  Post,
  StreamableFile,
  UploadedFile,
  UseInterceptors,
} from '@nestjs/common';
import { FileInterceptor } from '@nestjs/platform-express';
import { BackupInput, DataChange, type DataInfo, type DataJob } from '@corvun/contract';
import { count } from '@corvun/core';
import { databaseOf } from '@corvun/keeping';
import { createReadStream, promises as fs } from 'node:fs';
import { Readable } from 'node:stream';
import { DataSource } from 'typeorm';
import { AccountsService } from '../accounts/accounts.service';
import { OfAccount, Owner } from '../accounts/auth.guard';
import type { User } from '../accounts/user.entity';
import { CONFIG, type Config } from '../base/config';
import { Refusal, notFound } from '../base/errors';
import { FileStore } from '../base/file-store';
import { Backups } from './backups.service';
import { ExportService } from './export.service';
import { ImportExportService } from './import-export.service';
import { DataJobs } from './jobs.service';

@Controller('api/data')
export class DataController {
  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly accounts: AccountsService,
    private readonly backups: Backups,
    private readonly exports: ExportService,
    private readonly imports: ImportExportService,
    private readonly jobs: DataJobs,
    private readonly files: FileStore,
    private readonly source: DataSource,
  ) {}

  /** How much is kept, which backups there are, and what is going on. */
  @Get()
  async info(@Owner() user: User): Promise<DataInfo> {
    const keeper = await this.accounts.isKeeper(user);
    const database = await fs.stat(databaseOf(this.config.data)).catch(() => ({ size: 0 }));
    return {
      keeper,
      backups: keeper ? await this.backups.all(user.zone) : [],
      keep: await this.backups.keep(),
      folder: keeper ? this.config.data : '',
      database: database.size,
      files: await this.files.used(),
      job: this.jobs.of(user.id),
      empty: await this.imports.isEmpty(this.source.manager, user.id),
    };
  }

  /** What was begun last, and how far it is. */
  @Get('job')
  job(@Owner() user: User): DataJob {
    const job = this.jobs.of(user.id);
    if (!job) throw notFound('thing going on');
    return job;
  }

  /** How many daily backups are kept. */
  @OfAccount()
  @Patch()
  @HttpCode(204)
  async change(@Owner() user: User, @Body() { keep }: DataChange): Promise<void> {
    await this.onlyKeeper(user);
    await this.backups.setKeep(keep);
  }

  /** Begins a backup beside the data; with the key of the credentials when that is said. */
  @OfAccount()
  @Post('backups')
  @HttpCode(202)
  async backUp(@Owner() user: User, @Body() { withKeys = false }: BackupInput): Promise<DataJob> {
    await this.onlyKeeper(user);
    return this.backups.begin(user, withKeys);
  }

  @OfAccount()
  @Get('backups/:id')
  async backup(@Owner() user: User, @Param('id') name: string): Promise<StreamableFile> {
    await this.onlyKeeper(user);
    const found = await this.backups.one(name);
    if (found.kind !== 'file')
      throw new Refusal('a-folder', 'This backup is a folder beside the data; it is restored from there.');
    return new StreamableFile(createReadStream(found.path), {
      type: 'application/x-tar',
      length: found.bytes,
      disposition: `attachment; filename="${found.name}"`,
    });
  }

  @OfAccount()
  @Delete('backups/:id')
  @HttpCode(204)
  async removeBackup(@Owner() user: User, @Param('id') name: string): Promise<void> {
    await this.onlyKeeper(user);
    await this.backups.remove(name);
  }

  /** Begins to check everything that is kept. */
  @Post('verify')
  @HttpCode(202)
  async verify(@Owner() user: User): Promise<DataJob> {
    await this.onlyKeeper(user);
    const { data } = this.config;
    return this.jobs.begin(user.id, 'verify', async (progress) => {
      const { ok, checks } = await this.jobs.inThread({ kind: 'verify', data }, progress);
      return { checks, sentence: ok ? 'Everything is as it was kept.' : 'Something is not as it was kept.' };
    });
  }

  /** Everything of this user in open formats, as a tar archive. */
  @Get('export')
  export(@Owner() user: User): StreamableFile {
    return new StreamableFile(Readable.from(this.exports.stream(user)), {
      type: 'application/x-tar',
      disposition: 'attachment; filename="corvun-export.tar"',
    });
  }

  /** Reads an export into this account, which must be empty. */
  @Post('import')
  @HttpCode(202)
  @UseInterceptors(FileInterceptor('file'))
  import(@Owner() user: User, @UploadedFile() file: Express.Multer.File | undefined): DataJob {
    if (!file) throw new Refusal('no-file', 'No file was sent.');
    return this.jobs.begin(user.id, 'import', async (progress) => {
      const rows = await this.imports.read(user, file.path, progress);
      return { rows, sentence: `The export is read in: ${count(rows, 'row')}.` };
    });
  }

  private async onlyKeeper(user: User): Promise<void> {
    if (!(await this.accounts.isKeeper(user)))
      throw new Refusal('not-allowed', 'Backups hold the data of everybody here, so only the first account makes them.');
  }
}
