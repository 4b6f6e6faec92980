import {
  Controller,
  Get,
  HttpCode,
  Param,
  Post,
  Query,
  Res,
  StreamableFile,
  UploadedFiles,
  UseInterceptors,
} from '@nestjs/common';
import { FilesInterceptor } from '@nestjs/platform-express';
import { ApiTags } from '@nestjs/swagger';
import type { ImportReport, IncomingFull, IncomingLine } from '@corvun/contract';
import type { Response } from 'express';
import { promises as fs } from 'node:fs';
import { Owner } from '../accounts/auth.guard';
import type { User } from '../accounts/user.entity';
import { Refusal, notFound } from '../base/errors';
import { FileStore } from '../base/file-store';
import { ImportService } from './import.service';
import { IncomingService } from './incoming.service';

const MAX_FILES = 500;
const MOST_IDS = 200;
/** Shown in the browser itself; everything else is saved. An HTML or SVG file would run as part of this site. */
const SHOWN = /^(?:image\/(?:png|jpeg|gif|webp)|text\/plain)$/;

@ApiTags('incoming')
@Controller('api')
export class IncomingController {
  constructor(
    private readonly incoming: IncomingService,
    private readonly imports: ImportService,
    private readonly files: FileStore,
  ) {}

  @Get('incoming')
  page(
    @Owner() user: User,
    @Query('state') state?: string,
    @Query('source') source?: string,
    @Query('cursor') cursor?: string,
    @Query('limit') limit = '50',
    @Query('order') order?: string,
    @Query('outcome') outcome?: string,
    @Query('ids') ids?: string,
  ): Promise<{ total: number; items: IncomingLine[]; next: string | null }> {
    if (ids !== undefined) return this.incoming.some(user, ids.split(',').slice(0, MOST_IDS));
    const size = Number(limit);
    if (!Number.isInteger(size) || size < 1 || size > 500)
      throw new Refusal(400, 'bad-limit', 'The limit is a whole number from 1 to 500.');
    return this.incoming.page(user, {
      state: state === 'decided' ? 'decided' : 'waiting',
      outcome,
      source,
      cursor,
      limit: size,
      newestFirst: order === 'newest',
    });
  }

  @Get('incoming/:id')
  one(@Owner() user: User, @Param('id') id: string): Promise<IncomingFull> {
    return this.incoming.full(user, id);
  }

  /** The original, byte for byte. */
  @Get('incoming/:id/original')
  async original(@Owner() user: User, @Param('id') id: string): Promise<StreamableFile> {
    const { originalHash, kind } = await this.incoming.one(user, id);
    if (!originalHash) throw notFound('original to this');
    return new StreamableFile(this.files.open(originalHash), {
      type: kind === 'mail' ? 'message/rfc822' : 'application/octet-stream',
      disposition: `attachment; filename="original-${id}.eml"`,
    });
  }

  @Get('attachments/:id')
  async attachment(
    @Owner() user: User,
    @Param('id') id: string,
    @Res({ passthrough: true }) response: Response,
  ): Promise<StreamableFile> {
    const { name, type, hash, size } = await this.incoming.attachment(user, id);
    const shown = SHOWN.test(type);
    response.setHeader('Content-Security-Policy', "default-src 'none'; style-src 'unsafe-inline'; sandbox");
    response.setHeader('Cache-Control', 'private, max-age=31536000, immutable');
    return new StreamableFile(this.files.open(hash), {
      type: shown ? type : 'application/octet-stream',
      length: size,
      disposition: `${shown ? 'inline' : 'attachment'}; filename*=UTF-8''${encodeURIComponent(name).replace(/['()*]/g, (letter) => `%${letter.charCodeAt(0).toString(16)}`)}`,
    });
  }

  /** Brings `.eml` and mbox files in. */
  @Post('import')
  @HttpCode(200)
  @UseInterceptors(FilesInterceptor('files', MAX_FILES))
  async import(@Owner() user: User, @UploadedFiles() files: Express.Multer.File[] | undefined): Promise<ImportReport> {
    if (!files?.length) throw new Refusal(400, 'no-file', 'No file was sent.');
    try {
      return await this.imports.importFiles(
        user,
        files.map((file) => ({ name: nameOf(file), path: file.path })),
      );
    } finally {
      await Promise.all(files.map((file) => fs.rm(file.path, { force: true })));
    }
  }
}

// Browsers send UTF-8 file names, which the form parser reads as Latin-1.
const nameOf = (file: Express.Multer.File) => Buffer.from(file.originalname, 'latin1').toString('utf8').slice(-200);
