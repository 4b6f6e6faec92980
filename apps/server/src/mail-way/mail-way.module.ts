import { Body, Controller, Delete, Get, Global, HttpCode, Module, Post, Put } from '@nestjs/common';
import { MailWayInput, type Done, type MailWayInfo } from '@corvun/contract';
import { OfAccount, Owner } from '../accounts/auth.guard';
import type { User } from '../accounts/user.entity';
import { MailWays } from './mail-way.service';

@Controller('api/settings')
class MailWayController {
  constructor(private readonly ways: MailWays) {}

  @OfAccount('session')
  @Get('mail-way')
  info(@Owner() user: User): Promise<MailWayInfo> {
    return this.ways.info(user);
  }

  @OfAccount('session')
  @Put('mail-way')
  set(@Owner() user: User, @Body() input: MailWayInput): Promise<Done> {
    return this.ways.set(user, input);
  }

  @OfAccount('session')
  @Delete('mail-way')
  remove(@Owner() user: User): Promise<Done> {
    return this.ways.remove(user);
  }

  @Post('test-mail')
  @HttpCode(200)
  test(@Owner() user: User): Promise<Done> {
    return this.ways.test(user);
  }
}

@Global()
@Module({ controllers: [MailWayController], providers: [MailWays], exports: [MailWays] })
export class MailWayModule {}
