import { Body, Controller, Get, HttpCode, Module, Post } from '@nestjs/common';
import { GraceInput, type Done, type GraceInfo, type QuietState } from '@corvun/contract';
import { Owner } from '../accounts/auth.guard';
import type { User } from '../accounts/user.entity';
import { DoingModule } from '../doing/doing.module';
import { QuietService } from './quiet.service';

@Controller('api/quiet')
class QuietController {
  constructor(private readonly quiet: QuietService) {}

  @Get()
  state(@Owner() user: User): Promise<QuietState> {
    return this.quiet.state(user);
  }

  @Post('here')
  @HttpCode(200)
  here(@Owner() user: User): Promise<QuietState> {
    return this.quiet.here(user);
  }

  @Post('graces')
  @HttpCode(200)
  grace(@Owner() user: User, @Body() input: GraceInput): Promise<Done & { grace: GraceInfo }> {
    return this.quiet.grace(user, input);
  }
}

@Module({ imports: [DoingModule], providers: [QuietService], controllers: [QuietController] })
export class QuietModule {}
