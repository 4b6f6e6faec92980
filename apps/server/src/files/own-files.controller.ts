import {
  Body,
  Controller,
  Delete,
  Get,
  Module,
  Param,
  Patch,
  Post,
  Res,
  UploadedFiles,
  UseInterceptors,
  type StreamableFile,
} from '@nestjs/common';
import { FilesInterceptor, MulterModule } from '@nestjs/platform-express';
import { FileNameInput, type Done } from '@corvun/contract';
import type { Response } from 'express';
import { Owner } from '../accounts/auth.guard';
import type { User } from '../accounts/user.entity';
import { FileStore } from '../base/file-store';
import { fileAnswer } from '../base/file-answer';
import { nameOfUpload, Uploads } from '../base/uploads';
import { OwnFiles, type Brought } from './own-files.service';

const MOST_FILES = 50;
/** Bytes of one file. */
const MOST_BYTES = 200 * 1024 ** 2;

@Controller('api')
class OwnFilesController {
  constructor(
    private readonly files: OwnFiles,
    private readonly store: FileStore,
  ) {}

  @Post('tasks/:id/files')
  @UseInterceptors(FilesInterceptor('files', MOST_FILES))
  toTask(@Owner() user: User, @Param('id') id: string, @UploadedFiles() files: Express.Multer.File[] | undefined): Promise<Done> {
    return this.files.add(user, 'task', id, brought(files));
  }

  @Post('events/:id/files')
  @UseInterceptors(FilesInterceptor('files', MOST_FILES))
  toEvent(
    @Owner() user: User,
    @Param('id') id: string,
    @UploadedFiles() files: Express.Multer.File[] | undefined,
  ): Promise<Done> {
    return this.files.add(user, 'event', id, brought(files));
  }

  @Get('files/:id')
  async bytes(
    @Owner() user: User,
    @Param('id') id: string,
    @Res({ passthrough: true }) response: Response,
  ): Promise<StreamableFile> {
    return fileAnswer(this.store, await this.files.one(user, id), response);
  }

  @Patch('files/:id')
  rename(@Owner() user: User, @Param('id') id: string, @Body() { name }: FileNameInput): Promise<Done> {
    return this.files.rename(user, id, name);
  }

  @Delete('files/:id')
  remove(@Owner() user: User, @Param('id') id: string): Promise<Done> {
    return this.files.remove(user, id);
  }
}

const brought = (files: Express.Multer.File[] | undefined): Brought[] =>
  (files ?? []).map((file) => ({
    name: nameOfUpload(file),
    type: file.mimetype.slice(0, 200),
    size: file.size,
    path: file.path,
  }));

@Module({
  imports: [
    MulterModule.registerAsync({
      inject: [Uploads],
      useFactory: (uploads: Uploads) => uploads.taking({ fileSize: MOST_BYTES, files: MOST_FILES, fields: 10 }),
    }),
  ],
  providers: [OwnFiles],
  controllers: [OwnFilesController],
})
export class OwnFilesModule {}
