import { Controller, Get, Module, Query } from '@nestjs/common';
import { FindQuery, type FindAnswer } from '@corvun/contract';
import { Owner } from '../accounts/auth.guard';
import type { User } from '../accounts/user.entity';
import { FindService } from './find.service';

@Controller('api/find')
class FindController {
  constructor(private readonly finder: FindService) {}

  /** What came in and what was made of it, best first; `q` in the notation of `readFind`. */
  @Get()
  find(@Owner() user: User, @Query() { q = '' }: FindQuery): Promise<FindAnswer> {
    return this.finder.find(user, q);
  }
}

@Module({ providers: [FindService], controllers: [FindController], exports: [FindService] })
export class FindModule {}
