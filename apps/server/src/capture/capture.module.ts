import { Body, Controller, Module, Post } from '@nestjs/common';
import { CaptureInput, type Captured } from '@corvun/contract';
import { Owner } from '../accounts/auth.guard';
import type { User } from '../accounts/user.entity';
import { CaptureService } from './capture.service';

@Controller('api/captures')
class CaptureController {
  constructor(private readonly captures: CaptureService) {}

  @Post()
  capture(@Owner() user: User, @Body() input: CaptureInput): Promise<Captured> {
    return this.captures.capture(user, input);
  }
}

@Module({ providers: [CaptureService], controllers: [CaptureController], exports: [CaptureService] })
export class CaptureModule {}
