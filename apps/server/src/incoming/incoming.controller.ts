import { Controller, Get, Param, Query, Res, StreamableFile } from '@nestjs/common';
import { IncomingQuery, type IncomingFull, type IncomingPage } from '@corvun/contract';
import type { Response } from 'express';
import { Owner } from '../accounts/auth.guard';
import type { User } from '../accounts/user.entity';
import { Refusal, notFound } from '../base/errors';
import { fileAnswer } from '../base/file-answer';
import { FileStore } from '../base/file-store';
import { IncomingService } from './incoming.service';

const MOST_IDS = 200;

@Controller('api')
export class IncomingController {
  constructor(
    private readonly incoming: IncomingService,
    private readonly files: FileStore,
  ) {}

  @Get('incoming')
  page(
    @Owner() user: User,
    @Query() { state, source, cursor, limit = '50', order, outcome, ids }: IncomingQuery,
  ): Promise<IncomingPage> {
    if (ids !== undefined) return this.incoming.some(user, ids.split(',').slice(0, MOST_IDS));
    const size = Number(limit);
    if (!Number.isInteger(size) || size < 1 || size > 500)
      throw new Refusal('bad-limit', 'The limit is a whole number from 1 to 500.');
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
    return new StreamableFile(await this.files.openKept(originalHash), {
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
    return fileAnswer(this.files, await this.incoming.attachment(user, id), response);
  }
}
