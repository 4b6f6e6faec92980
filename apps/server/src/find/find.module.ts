import { Controller, Get, Module, Query } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { FindAnswer } from '@corvun/contract';
import { Owner } from '../accounts/auth.guard';
import type { User } from '../accounts/user.entity';
import { FindService } from './find.service';

@ApiTags('find')
@Controller('api/find')
class FindController {
  constructor(private readonly finder: FindService) {}

  /** What came in and what was made of it, best first; `q` in the notation of `readFind`. */
  @Get()
  find(@Owner() user: User, @Query('q') text = ''): Promise<FindAnswer> {
    return this.finder.find(user, String(text));
  }
}

@Module({ providers: [FindService], controllers: [FindController], exports: [FindService] })
export class FindModule {}
