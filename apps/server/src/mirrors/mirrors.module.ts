import { Body, Controller, Delete, Get, Module, Param, Post, Query } from '@nestjs/common';
import { MirrorEnd, MirrorInput, type Added, type Done, type MirrorInfo } from '@corvun/contract';
import { Owner } from '../accounts/auth.guard';
import type { User } from '../accounts/user.entity';
import { MirrorsService } from './mirrors.service';

@Controller('api/mirrors')
class MirrorsController {
  constructor(private readonly mirrors: MirrorsService) {}

  @Get()
  all(@Owner() user: User): Promise<MirrorInfo[]> {
    return this.mirrors.all(user);
  }

  @Post()
  add(@Owner() user: User, @Body() input: MirrorInput): Promise<Added> {
    return this.mirrors.add(user, input);
  }

  @Delete(':id')
  remove(@Owner() user: User, @Param('id') id: string, @Query() { copies }: MirrorEnd): Promise<Done> {
    return this.mirrors.remove(user, id, copies === 'keep');
  }
}

@Module({ controllers: [MirrorsController], providers: [MirrorsService] })
export class MirrorsModule {}
