import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { OutboxInfo, SourceInfo } from '@corvun/contract';
import { isoInZone } from '@corvun/core';
import { In, Repository } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { notFound } from '../base/errors';
import type { Row } from '../base/row';
import { Event } from '../events/event.entity';
import { Incoming } from '../incoming/incoming.entity';
import { OutboxEntry } from './outbox.entity';
import { OutboxService } from './outbox.service';
import { saysLeft } from './account/account.adapter';
import { Remote } from './account/remote.entity';
import { Counterpart, Source } from './source.entity';
import { SyncService } from './sync.service';
import { isThere } from '../base/is-there';

type Counted = { sourceId: string; count: number };

/** Says how sources are, what came of them, and what waits to go back. */
@Injectable()
export class SourceHealth {
  constructor(
    @InjectRepository(Incoming) private readonly incoming: Repository<Incoming>,
    @InjectRepository(Counterpart) private readonly counterparts: Repository<Counterpart>,
    @InjectRepository(Remote) private readonly remotes: Repository<Remote>,
    @InjectRepository(OutboxEntry) private readonly entries: Repository<OutboxEntry>,
    @InjectRepository(Event) private readonly events: Repository<Event>,
    private readonly sync: SyncService,
    private readonly outbox: OutboxService,
  ) {}

  async all(user: User): Promise<SourceInfo[]> {
    return this.infos(user, await this.sync.of(user.id));
  }

  async info(user: User, id: string): Promise<SourceInfo> {
    const [info] = await this.infos(user, await this.sync.of(user.id, [id]));
    if (!info) throw notFound('source with this id');
    return info;
  }

  private async infos(user: User, rows: Source[]): Promise<SourceInfo[]> {
    const ids = rows.map((row) => row.id);
    const counted = async (query: Promise<Counted[]>) => new Map((await query).map((one) => [one.sourceId, Number(one.count)]));
    const by = (rows: Repository<Incoming> | Repository<Counterpart> | Repository<Remote>, where: object) =>
      counted(
        (rows as Repository<Row & { sourceId: string }>)
          .createQueryBuilder('r')
          .select('r.sourceId', 'sourceId')
          .addSelect('COUNT(*)', 'count')
          .where({ ownerId: user.id, sourceId: In(ids), ...where })
          .groupBy('r.sourceId')
          .getRawMany<Counted>(),
      );
    const waiting = await by(this.incoming, { state: 'waiting' });
    const decided = await by(this.incoming, { state: 'decided' });
    const hasTask = { taskId: isThere() };
    const [tasks, ofAccounts] = [await by(this.counterparts, hasTask), await by(this.remotes, hasTask)];
    const events = await counted(
      this.events
        .createQueryBuilder('e')
        .innerJoin('calendar', 'c', 'c."id" = e."calendarId"')
        .select('c."sourceId"', 'sourceId')
        .addSelect('COUNT(*)', 'count')
        .where('e."ownerId" = :owner AND c."sourceId" IN (SELECT value FROM json_each(:ids))', {
          owner: user.id,
          ids: JSON.stringify(ids),
        })
        .groupBy('c."sourceId"')
        .getRawMany<Counted>(),
    );
    const box = await this.entries.find({
      where: { ownerId: user.id, state: 'waiting' },
      select: { id: true, sourceId: true, attempts: true },
    });
    const iso = (at: number | null) => (at === null ? null : isoInZone(at, user.zone));
    return rows.map((row) => {
      const own = box.filter((one) => one.sourceId === row.id);
      return {
        id: row.id,
        kind: row.kind,
        name: row.name,
        address: row.address,
        account: row.account,
        hasSecret: row.secret !== null,
        settings: row.settings,
        state: row.state,
        calendarId: row.calendarId,
        every: row.every,
        lastTry: iso(row.lastTry),
        lastSuccess: iso(row.lastSuccess),
        nextTry: row.state === 'active' ? iso(row.nextTry) : null,
        problem: row.problem,
        left: row.kind === 'account' ? saysLeft(row.cursor) : '',
        progress: this.sync.progressOf(row.id),
        held: {
          waiting: waiting.get(row.id) ?? 0,
          decided: decided.get(row.id) ?? 0,
          tasks: (tasks.get(row.id) ?? 0) + (ofAccounts.get(row.id) ?? 0),
          events: events.get(row.id) ?? 0,
        },
        outbox: { waiting: own.length, failed: own.filter((one) => one.attempts > 0).length },
        version: row.version,
      };
    });
  }

  async outboxOf(user: User): Promise<OutboxInfo[]> {
    const names = new Map((await this.sync.of(user.id)).map((one) => [one.id, one.name]));
    const iso = (at: number | null) => (at === null ? null : isoInZone(at, user.zone));
    return (await this.outbox.of(user.id)).map((one) => ({
      id: one.id,
      sourceId: one.sourceId,
      sourceName: one.sourceId ? (names.get(one.sourceId) ?? 'a removed source') : 'Mail',
      kind: one.kind,
      what: one.what,
      state: one.state,
      attempts: one.attempts,
      nextTry: one.state === 'waiting' ? iso(one.nextTry) : null,
      problem: one.problem,
      created: isoInZone(one.created, user.zone),
      sentAt: iso(one.sentAt),
    }));
  }
}
