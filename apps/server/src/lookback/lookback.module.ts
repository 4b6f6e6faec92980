import { Body, Controller, Delete, Get, HttpCode, Module, Param, Patch, Post, Query, Res, StreamableFile } from '@nestjs/common';
import {
  CheckInAnswerInput,
  CheckInChange,
  CheckInInput,
  DayLogQuery,
  LedgerOutQuery,
  LedgerPartsQuery,
  LedgerQuery,
  LogFindQuery,
  LogLineChange,
  LogLineInput,
  LogOutQuery,
  type Added,
  type CheckInAnswerInfo,
  type CheckInInfo,
  type DayLogInfo,
  type Done,
  type LedgerInfo,
  type LedgerParts,
} from '@corvun/contract';
import type { Response } from 'express';
import { Owner } from '../accounts/auth.guard';
import type { User } from '../accounts/user.entity';
import { AgendaModule } from '../agenda/agenda.module';
import { textFile } from '../base/text-file';
import { AttendedReads } from './attended.reads';
import { CheckInAsks } from './check-in-asks.service';
import { CheckInsService } from './check-ins.service';
import { DayLogService } from './day-log.service';
import { DecidedReads } from './decided.reads';
import { LedgerReads } from './ledger.reads';
import { LedgerService } from './ledger.service';
import { QuietReads } from './quiet.reads';
import { WorkedReads } from './worked.reads';
import { WrittenReads } from './written.reads';

@Controller('api/ledger')
class LedgerController {
  constructor(private readonly ledger: LedgerService) {}

  @Get()
  of(@Owner() user: User, @Query() query: LedgerQuery): Promise<LedgerInfo> {
    return this.ledger.of(user, query);
  }

  @Get('parts')
  parts(@Owner() user: User, @Query() query: LedgerPartsQuery): Promise<LedgerParts> {
    return this.ledger.parts(user, query);
  }

  @Get('out')
  async out(
    @Owner() user: User,
    @Query() query: LedgerOutQuery,
    @Res({ passthrough: true }) response: Response,
  ): Promise<StreamableFile> {
    const { from, to, by, table } = query;
    const name = `${{ times: 'time', rows: `time by ${by}`, entries: 'time spent' }[table]} ${from} ${to}.csv`;
    return textFile(response, name, 'text/csv', await this.ledger.csv(user, query));
  }
}

@Controller('api/log')
class DayLogController {
  constructor(private readonly log: DayLogService) {}

  @Get()
  day(@Owner() user: User, @Query() { day }: DayLogQuery): Promise<DayLogInfo> {
    return this.log.day(user, day);
  }

  @Get('find')
  find(@Owner() user: User, @Query() { q }: LogFindQuery): Promise<DayLogInfo[]> {
    return this.log.find(user, q);
  }

  @Get('out')
  async out(
    @Owner() user: User,
    @Query() { from, to }: LogOutQuery,
    @Res({ passthrough: true }) response: Response,
  ): Promise<StreamableFile> {
    const name = `day log ${from === to ? from : `${from} ${to}`}.md`;
    return textFile(response, name, 'text/markdown', await this.log.markdown(user, from, to));
  }

  @Post('lines')
  add(@Owner() user: User, @Body() input: LogLineInput): Promise<Added> {
    return this.log.addLine(user, input);
  }

  @Patch('lines/:id')
  change(@Owner() user: User, @Param('id') id: string, @Body() input: LogLineChange): Promise<Done> {
    return this.log.changeLine(user, id, input);
  }

  @Delete('lines/:id')
  remove(@Owner() user: User, @Param('id') id: string): Promise<Done> {
    return this.log.removeLine(user, id);
  }
}

@Controller('api/check-ins')
class CheckInsController {
  constructor(private readonly checkIns: CheckInsService) {}

  @Get()
  all(@Owner() user: User): Promise<CheckInInfo[]> {
    return this.checkIns.all(user);
  }

  @Post()
  add(@Owner() user: User, @Body() input: CheckInInput): Promise<Added> {
    return this.checkIns.add(user, input);
  }

  @Patch(':id')
  change(@Owner() user: User, @Param('id') id: string, @Body() input: CheckInChange): Promise<Done> {
    return this.checkIns.change(user, id, input);
  }

  @Delete(':id')
  remove(@Owner() user: User, @Param('id') id: string): Promise<Done> {
    return this.checkIns.remove(user, id);
  }

  @Get(':id/answers')
  answers(@Owner() user: User, @Param('id') id: string): Promise<CheckInAnswerInfo[]> {
    return this.checkIns.answersOf(user, id);
  }

  @Post(':id/answers')
  @HttpCode(200)
  answer(@Owner() user: User, @Param('id') id: string, @Body() input: CheckInAnswerInput): Promise<Done> {
    return this.checkIns.answer(user, id, input);
  }
}

@Module({
  imports: [AgendaModule],
  providers: [
    LedgerService,
    LedgerReads,
    DayLogService,
    AttendedReads,
    WorkedReads,
    DecidedReads,
    WrittenReads,
    QuietReads,
    CheckInsService,
    CheckInAsks,
  ],
  controllers: [LedgerController, DayLogController, CheckInsController],
})
export class LookbackModule {}
