import { Body, Controller, Get, HttpCode, Module, Patch, Post } from '@nestjs/common';
import { DaysOffInput, SettingsChange, type Done } from '@corvun/contract';
import type { Settings } from '@corvun/core';
import { Owner } from '../accounts/auth.guard';
import type { User } from '../accounts/user.entity';
import { settingsOf } from './settings-of';
import { SettingsService } from './settings.service';

@Controller('api/settings')
class SettingsController {
  constructor(private readonly settings: SettingsService) {}

  @Get()
  all(@Owner() user: User): Settings {
    return settingsOf(user);
  }

  @Patch()
  change(@Owner() user: User, @Body() input: SettingsChange): Promise<Done> {
    return this.settings.change(user, input);
  }

  @Post('days-off')
  @HttpCode(200)
  addDaysOff(@Owner() user: User, @Body() { ics }: DaysOffInput): Promise<Done> {
    return this.settings.addDaysOff(user, ics);
  }
}

@Module({ controllers: [SettingsController], providers: [SettingsService] })
export class SettingsModule {}
