import {
  Body,
  Controller,
  Delete,
  Get,
  Param,
  Patch,
  Post,
  Res,
  UploadedFiles,
  UseInterceptors,
  type StreamableFile,
} from '@nestjs/common';
import { FilesInterceptor } from '@nestjs/platform-express';
import { FileNameInput, type Done } from '@corvun/contract';
import type { Response } from 'express';
import { Owner } from '../accounts/auth.guard';
import type { User } from '../accounts/user.entity';
import { FileStore } from '../base/file-store';
import { fileAnswer } from '../base/file-answer';
import { nameOfUpload } from '../base/uploads';
import { TaskFiles } from './task-files.service';

export const MOST_FILES = 50;

@Controller('api')
export class TaskFilesController {
  constructor(
    private readonly taskFiles: TaskFiles,
    private readonly store: FileStore,
  ) {}

  @Post('tasks/:id/files')
  @UseInterceptors(FilesInterceptor('files', MOST_FILES))
  add(@Owner() user: User, @Param('id') id: string, @UploadedFiles() files: Express.Multer.File[] | undefined): Promise<Done> {
    const brought = (files ?? []).map((file) => ({
      name: nameOfUpload(file),
      type: file.mimetype.slice(0, 200),
      size: file.size,
      path: file.path,
    }));
    return this.taskFiles.add(user, id, brought);
  }

  @Get('files/:id')
  async bytes(
    @Owner() user: User,
    @Param('id') id: string,
    @Res({ passthrough: true }) response: Response,
  ): Promise<StreamableFile> {
    return fileAnswer(this.store, await this.taskFiles.one(user, id), response);
  }

  @Patch('files/:id')
  rename(@Owner() user: User, @Param('id') id: string, @Body() { name }: FileNameInput): Promise<Done> {
    return this.taskFiles.rename(user, id, name);
  }

  @Delete('files/:id')
  remove(@Owner() user: User, @Param('id') id: string): Promise<Done> {
    return this.taskFiles.remove(user, id);
  }
}
