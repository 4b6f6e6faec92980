import { Body, Controller, Get, HttpCode, Post, Param } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { DecideInput, DecisionAnswer, Done, DecisionInfo, UndoAnswer } from '@corvun/contract';
import { isoInZone } from '@corvun/core';
import { In, Repository } from 'typeorm';
import { Owner } from '../accounts/auth.guard';
import type { User } from '../accounts/user.entity';
import { Entry } from '../kernel/entry.entity';
import { DecisionPipe } from './decision.pipe';
import { DecideService } from './decide.service';
import { Turns } from '../kernel/turns.service';

const SHOWN = 60;

@Controller('api/decisions')
export class DecisionsController {
  constructor(
    private readonly service: DecideService,
    private readonly turns: Turns,
    @InjectRepository(Entry) private readonly entries: Repository<Entry>,
  ) {}

  @Post()
  @HttpCode(200)
  decide(@Owner() user: User, @Body(DecisionPipe) input: DecideInput): Promise<DecisionAnswer> {
    return this.service.decide(user, input);
  }

  @Post('undo')
  @HttpCode(200)
  undo(@Owner() user: User): Promise<UndoAnswer> {
    return this.turns.undo(user.id);
  }

  @Post('redo')
  @HttpCode(200)
  redo(@Owner() user: User): Promise<UndoAnswer> {
    return this.turns.redo(user.id);
  }

  /** The latest doings, newest first. */
  @Get()
  async recent(@Owner() user: User): Promise<DecisionInfo[]> {
    const rows = await this.entries.find({
      where: { actorId: user.id, state: In(['done', 'undone']) },
      order: { revision: 'DESC' },
      take: SHOWN,
      select: { id: true, sentence: true, action: true, at: true, incomingIds: true, state: true, revision: true },
    });
    return rows.map(({ id, sentence, action, at, incomingIds, state }) => ({
      id,
      sentence,
      action: action ?? 'change',
      at: isoInZone(at, user.zone),
      incoming: incomingIds,
      undone: state === 'undone',
    }));
  }
}

@Controller('api/incoming')
export class ReopenController {
  constructor(private readonly service: DecideService) {}

  @Post(':id/reopen')
  @HttpCode(200)
  reopen(@Owner() user: User, @Param('id') id: string): Promise<Done> {
    return this.service.reopen(user, id);
  }
}
