import {
  Body,
  Controller,
  Delete,
  Get,
  Headers,
  HttpCode,
  Inject,
  Module,
  Param,
  Patch,
  Post,
  Query,
  Req,
  Res,
} from '@nestjs/common';
import {
  BookingInput,
  BookingMove,
  BookingProof,
  MeetPageChange,
  MeetPageInput,
  MeetQuery,
  OfferInput,
  OfferTake,
  ShareInput,
  type Added,
  type Booked,
  type Done,
  type OthersInfo,
  type PublicBooking,
  type PublicMeet,
  type PublicOffer,
} from '@corvun/contract';
import type { Request, Response } from 'express';
import { AccountsModule } from '../accounts/accounts.module';
import { Open, Owner } from '../accounts/auth.guard';
import type { User } from '../accounts/user.entity';
import { AgendaModule } from '../agenda/agenda.module';
import { CONFIG, originOf, type Config } from '../base/config';
import { notFound } from '../base/errors';
import { DueModule } from '../due/due.module';
import { SourcesModule } from '../sources/sources.module';
import { BookingsService } from './bookings.service';
import { OthersService } from './others.service';
import { PublicDoor } from './public-door';
import { PublicTimes } from './public-times';
import { SharesService } from './shares.service';

@Controller('api')
class OthersController {
  constructor(private readonly others: OthersService) {}

  @Get('others')
  all(@Owner() user: User): Promise<OthersInfo> {
    return this.others.all(user);
  }

  @Post('shares')
  share(@Owner() user: User, @Body() input: ShareInput): Promise<Added> {
    return this.others.share(user, input);
  }

  @Post('shares/:id/renew')
  @HttpCode(200)
  renewShare(@Owner() user: User, @Param('id') id: string): Promise<Done> {
    return this.others.renew(user, 'share', id);
  }

  @Delete('shares/:id')
  withdrawShare(@Owner() user: User, @Param('id') id: string): Promise<Done> {
    return this.others.remove(user, 'share', id);
  }

  @Post('meet-pages')
  addPage(@Owner() user: User, @Body() input: MeetPageInput): Promise<Added> {
    return this.others.addPage(user, input);
  }

  @Patch('meet-pages/:id')
  changePage(@Owner() user: User, @Param('id') id: string, @Body() input: MeetPageChange): Promise<Done> {
    return this.others.changePage(user, id, input);
  }

  @Post('meet-pages/:id/renew')
  @HttpCode(200)
  renewPage(@Owner() user: User, @Param('id') id: string): Promise<Done> {
    return this.others.renew(user, 'meetPage', id);
  }

  @Delete('meet-pages/:id')
  removePage(@Owner() user: User, @Param('id') id: string): Promise<Done> {
    return this.others.remove(user, 'meetPage', id);
  }

  @Post('offers')
  offer(@Owner() user: User, @Body() input: OfferInput): Promise<Added> {
    return this.others.offer(user, input);
  }

  @Delete('offers/:id')
  withdrawOffer(@Owner() user: User, @Param('id') id: string): Promise<Done> {
    return this.others.withdrawOffer(user, id);
  }
}

/** What strangers may ask for at an address they were given. */
@Open()
@Controller('api/public')
class PublicController {
  constructor(
    private readonly bookings: BookingsService,
    private readonly door: PublicDoor,
    @Inject(CONFIG) private readonly config: Config,
  ) {}

  @Get('meet/:link')
  page(@Req() request: Request, @Param('link') link: string, @Query() { minutes }: MeetQuery): Promise<PublicMeet> {
    this.door.pass('look', request.ip ?? '', link);
    return this.bookings.page(link, minutes === undefined ? undefined : Number(minutes));
  }

  @Post('meet/:link')
  book(@Req() request: Request, @Param('link') link: string, @Body() input: BookingInput): Promise<Booked> {
    this.door.pass('act', request.ip ?? '', link);
    return this.bookings.book(link, input, originOf(this.config, request.socket.localPort));
  }

  @Get('bookings/:link')
  booking(@Req() request: Request, @Param('link') link: string): Promise<PublicBooking> {
    this.door.pass('look', request.ip ?? '', link);
    return this.bookings.booking(link);
  }

  @Post('bookings/:link')
  @HttpCode(200)
  confirm(@Req() request: Request, @Param('link') link: string, @Body() { proof }: BookingProof): Promise<PublicBooking> {
    this.door.pass('act', request.ip ?? '', link);
    return this.bookings.confirm(link, proof);
  }

  @Patch('bookings/:link')
  move(@Req() request: Request, @Param('link') link: string, @Body() { start }: BookingMove): Promise<PublicBooking> {
    this.door.pass('act', request.ip ?? '', link);
    return this.bookings.move(link, start);
  }

  @Delete('bookings/:link')
  cancel(@Req() request: Request, @Param('link') link: string): Promise<PublicBooking> {
    this.door.pass('act', request.ip ?? '', link);
    return this.bookings.cancel(link);
  }

  @Get('offers/:link')
  offer(@Req() request: Request, @Param('link') link: string): Promise<PublicOffer> {
    this.door.pass('look', request.ip ?? '', link);
    return this.bookings.offer(link);
  }

  @Post('offers/:link')
  @HttpCode(200)
  take(@Req() request: Request, @Param('link') link: string, @Body() input: OfferTake): Promise<PublicOffer> {
    this.door.pass('act', request.ip ?? '', link);
    return this.bookings.take(link, input);
  }
}

/** Calendars at secret addresses, for programs that read iCalendar. */
@Open()
@Controller('calendars')
class SharesController {
  constructor(
    private readonly shares: SharesService,
    private readonly door: PublicDoor,
  ) {}

  @Get(':file')
  async file(
    @Req() request: Request,
    @Param('file') file: string,
    @Headers('if-none-match') known: string | undefined,
    @Res() response: Response,
  ): Promise<void> {
    this.door.pass('look', request.ip ?? '', file);
    const secret = /^([a-z0-9]{40})\.ics$/.exec(file)?.[1];
    if (!secret) throw notFound('calendar at this address');
    const { text, tag } = await this.shares.file(secret);
    response.setHeader('ETag', tag);
    response.setHeader('Cache-Control', 'private, no-cache');
    response.setHeader('X-Robots-Tag', 'noindex');
    response.setHeader('Content-Security-Policy', "default-src 'none'; sandbox");
    if (known?.split(/,\s*/).includes(tag)) response.status(304).end();
    else response.type('text/calendar; charset=utf-8').send(text);
  }
}

@Module({
  imports: [AccountsModule, AgendaModule, DueModule, SourcesModule],
  controllers: [OthersController, PublicController, SharesController],
  providers: [OthersService, BookingsService, SharesService, PublicTimes, PublicDoor],
})
export class OthersModule {}
