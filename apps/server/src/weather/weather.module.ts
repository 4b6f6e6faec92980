import { Controller, Get, Module, Query } from '@nestjs/common';
import { WeatherQuery, type WeatherInfo } from '@corvun/contract';
import { Owner } from '../accounts/auth.guard';
import type { User } from '../accounts/user.entity';
import { AgendaModule } from '../agenda/agenda.module';
import { SourcesModule } from '../sources/sources.module';
import { WeatherService } from './weather.service';

@Controller('api/weather')
class WeatherController {
  constructor(private readonly weather: WeatherService) {}

  @Get()
  async on(@Owner() user: User, @Query() { day }: WeatherQuery): Promise<{ weather: WeatherInfo | null }> {
    return { weather: await this.weather.on(user, day) };
  }
}

@Module({ imports: [AgendaModule, SourcesModule], providers: [WeatherService], controllers: [WeatherController] })
export class WeatherModule {}
