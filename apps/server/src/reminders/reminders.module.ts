import { Body, Controller, Get, HttpCode, Module, Param, Post } from '@nestjs/common';
import { RemindersDone, Snooze, type ReminderInfo } from '@corvun/contract';
import { Owner } from '../accounts/auth.guard';
import type { User } from '../accounts/user.entity';
import { AgendaModule } from '../agenda/agenda.module';
import { RemindService } from './remind.service';
import { RemindersService } from './reminders.service';
import { RemindingReads } from './reminding-reads';

@Controller('api/reminders')
class RemindersController {
  constructor(private readonly reminders: RemindersService) {}

  @Get()
  open(@Owner() user: User): Promise<ReminderInfo[]> {
    return this.reminders.open(user);
  }

  @Post('done')
  @HttpCode(204)
  done(@Owner() user: User, @Body() { ids }: RemindersDone): Promise<void> {
    return this.reminders.done(user, ids);
  }

  @Post(':id/shown')
  @HttpCode(200)
  async shown(@Owner() user: User, @Param('id') id: string): Promise<{ first: boolean }> {
    return { first: await this.reminders.shown(user, id) };
  }

  @Post(':id/snooze')
  @HttpCode(204)
  snooze(@Owner() user: User, @Param('id') id: string, @Body() { minutes }: Snooze): Promise<void> {
    return this.reminders.snooze(user, id, minutes);
  }
}

@Module({
  imports: [AgendaModule],
  controllers: [RemindersController],
  providers: [RemindersService, RemindService, RemindingReads],
  exports: [RemindersService],
})
export class RemindersModule {}
