import { Body, Controller, Delete, Get, Module, Param, Patch, Post, Query, Res, StreamableFile } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { CalendarChange, CalendarInput, CalendarRemoval, type Added, type CalendarInfo, type Done } from '@corvun/contract';
import type { Response } from 'express';
import { Repository } from 'typeorm';
import { Owner } from '../accounts/auth.guard';
import type { User } from '../accounts/user.entity';
import { badField, notFound } from '../base/errors';
import { textFile } from '../base/text-file';
import { safeName } from '../data/safe-name';
import { Kernel, byUser } from '../kernel/kernel.service';
import { freeCode, freeHue, freeName } from '../lists/marks';
import type { Changing } from '../own-text/leaving';
import { ReadingPool } from '../reading/reading-pool.service';
import { calendarFile } from './calendar-out';
import { Calendar } from './calendar.entity';
import { newCalendar } from './new-calendar';
import { removeCalendar } from './remove-calendar';

@Controller('api/calendars')
class CalendarsController {
  constructor(
    @InjectRepository(Calendar) private readonly calendars: Repository<Calendar>,
    private readonly kernel: Kernel,
    private readonly reading: ReadingPool,
  ) {}

  private readonly changing: Changing = (all, reader) => this.reading.texts(all, reader);

  @Get()
  async all(@Owner() user: User): Promise<CalendarInfo[]> {
    const rows = await this.calendars.find({ where: { ownerId: user.id }, order: { position: 'ASC', id: 'ASC' } });
    return rows.map(({ id, name, code, hue, origin, main, shown, busy, version }) => ({
      id,
      name,
      code,
      hue,
      origin,
      main,
      shown,
      busy,
      version,
    }));
  }

  /** All calendars and all tasks as one file (RFC 5545). */
  @Get('file')
  async everything(@Owner() user: User, @Res({ passthrough: true }) response: Response): Promise<StreamableFile> {
    const { manager } = this.calendars;
    const text = await calendarFile(manager, user, { name: 'Corvun', events: {}, tasks: 'all' }, this.changing);
    return textFile(response, 'calendars.ics', 'text/calendar', text);
  }

  /** One calendar as a file. */
  @Get(':id/file')
  async file(
    @Owner() user: User,
    @Param('id') id: string,
    @Res({ passthrough: true }) response: Response,
  ): Promise<StreamableFile> {
    const calendar = await this.calendars.findOneBy({ ownerId: user.id, id });
    if (!calendar) throw notFound('calendar with this id');
    const wanted = { name: calendar.name, events: { calendarId: id } };
    const text = await calendarFile(this.calendars.manager, user, wanted, this.changing);
    return textFile(response, `${safeName(calendar.name)}.ics`, 'text/calendar', text);
  }

  /** Makes a calendar of the user's own. */
  @Post()
  async add(@Owner() user: User, @Body() input: CalendarInput): Promise<Added> {
    const { decision, sentence, result } = await this.kernel.transact(byUser(user), async (work) => {
      const others = await work.manager.findBy(Calendar, { ownerId: user.id });
      const name = freeName('calendar', others, input.name);
      const calendar = await newCalendar(work, { name, origin: 'own', busy: true, sourceId: null });
      work.say({ action: 'change', sentence: `The calendar “${name}” is there` });
      return calendar.id;
    });
    return { decision, sentence, id: result };
  }

  @Patch(':id')
  async change(@Owner() user: User, @Param('id') id: string, @Body() { version, ...patch }: CalendarChange): Promise<Done> {
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const calendar = await work.find('calendar', id);
      const others = (await work.manager.findBy(Calendar, { ownerId: user.id })).filter((one) => one.id !== id);
      if (patch.name !== undefined) patch.name = freeName('calendar', others, patch.name);
      if (patch.code !== undefined) patch.code = freeCode(others, patch.code);
      if (patch.hue !== undefined) freeHue(others, patch.hue);
      if (patch.main && calendar.origin === 'feed')
        throw badField('main', `“${calendar.name}” comes from outside, so nothing new can go there.`);
      if (patch.main) for (const one of others) if (one.main) await work.update('calendar', one, { main: false });
      const seen = patch.shown !== undefined || patch.busy !== undefined;
      const after = await work.update('calendar', calendar, patch, version);
      work.say({
        action: 'change',
        sentence: patch.main
          ? `“${after.name}” is the main calendar: new things go there`
          : seen
            ? `“${after.name}” is ${after.shown ? 'shown' : 'hidden'} and ${after.busy ? 'counts' : 'does not count'} as busy`
            : `The calendar “${after.name}” was changed`,
      });
    });
    return { decision, sentence };
  }

  /** Takes a calendar of the user's own away. */
  @Delete(':id')
  async remove(@Owner() user: User, @Param('id') id: string, @Query() { events = 'drop' }: CalendarRemoval): Promise<Done> {
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) =>
      work.say({ action: 'change', sentence: await removeCalendar(work, id, events) }),
    );
    return { decision, sentence };
  }
}

@Module({ controllers: [CalendarsController] })
export class CalendarsModule {}
