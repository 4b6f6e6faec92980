import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { LedgerInfo, LedgerOutQuery, LedgerPartsQuery, LedgerParts, LedgerQuery } from '@corvun/contract';
import {
  daysBetween,
  daysFrom,
  eachCount,
  endOfDay,
  isoInZone,
  ledgerDays,
  ledgerOf,
  offBy,
  startOfDay,
  type Interval,
} from '@corvun/core';
import { writeCsv } from '@corvun/formats';
import { In, Repository } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { Clock } from '../base/clock';
import { badField } from '../base/errors';
import { Calendar } from '../calendars/calendar.entity';
import { TimeEntry } from '../doing/time-entry.entity';
import { timeCsv } from '../doing/time-out';
import { List } from '../lists/list.entity';
import { workingOn } from '../settings/settings-of';
import { Task } from '../tasks/task.entity';
import { LedgerReads, type LedgerThing } from './ledger.reads';

const MOST_DAYS = 3660;
const MOST_PARTS = 200;

const KIND_NAMES: Record<string, string> = {
  meeting: 'Meetings',
  work: 'Work',
  quiet: 'Quiet time',
  break: 'Pauses',
  prep: 'Preparation',
  'follow-up': 'Follow-up',
  travel: 'On the way',
};
const BILLABLE_NAMES: Record<string, string> = { yes: 'Billable', no: 'Not billable' };
/** What is under nothing. */
const NONE: Record<LedgerQuery['by'], string> = {
  list: 'On no list',
  kind: 'Of no kind',
  tag: 'Without a tag',
  calendar: 'In no calendar',
  person: 'With nobody else',
  billable: 'Not work',
};

/** Where time went. */
@Injectable()
export class LedgerService {
  constructor(
    @InjectRepository(List) private readonly lists: Repository<List>,
    @InjectRepository(Calendar) private readonly calendars: Repository<Calendar>,
    @InjectRepository(TimeEntry) private readonly entries: Repository<TimeEntry>,
    @InjectRepository(Task) private readonly tasks: Repository<Task>,
    private readonly reads: LedgerReads,
    private readonly clock: Clock,
  ) {}

  async of(user: User, { from, to, by }: LedgerQuery): Promise<LedgerInfo> {
    const window = this.windowOf(user, from, to);
    const working = workingOn(user, daysFrom(from, daysBetween(from, to) + 1));
    const [{ things, took, kept, quiet, graces }, nameOf] = await Promise.all([
      this.reads.within(user, window, by),
      this.namesOf(user, by),
    ]);
    const { each, times, rows, total } = ledgerOf({
      ...{ from, to, zone: user.zone, now: this.clock.now(), items: things },
      ...{ took, working, kept, quiet, graces },
    });
    return { from, to, by, each, times, rows: rows.map((row) => ({ ...row, name: nameOf(row.key) })), total };
  }

  /** What a figure is made of, in order. */
  async parts(user: User, { from, to, by, what, key }: LedgerPartsQuery): Promise<LedgerParts> {
    const window = this.windowOf(user, from, to);
    const { things } = await this.reads.within(user, window, by);
    const minutes = new Map<LedgerThing, number>();
    eachCount(things, ledgerDays(from, to, user.zone), (item, _day, own) => {
      const thing = things[item];
      if (!thing || (what && thing.what !== what)) return;
      if (key === undefined || (key === '' ? !thing.keys.length : thing.keys.includes(key)))
        minutes.set(thing, (minutes.get(thing) ?? 0) + own);
    });
    const found = [...minutes].sort(([a], [b]) => a.start - b.start || (a.id < b.id ? -1 : 1));
    return {
      parts: found.slice(0, MOST_PARTS).map(([thing, own]) => ({
        ...{ what: thing.what, kind: thing.kind, id: thing.id, occurrence: thing.occurrence, taskId: thing.taskId },
        ...{ title: thing.title, minutes: own },
        ...{ start: isoInZone(thing.start, user.zone), end: isoInZone(thing.end, user.zone) },
      })),
      more: Math.max(0, found.length - MOST_PARTS),
      minutes: found.reduce((sum, [, own]) => sum + own, 0),
    };
  }

  async csv(user: User, { table, ...query }: LedgerOutQuery): Promise<string> {
    if (table === 'entries') return this.entriesCsv(user, query);
    const { times, rows, total } = await this.of(user, query);
    if (table === 'times')
      return writeCsv(
        ['from', 'to', 'promised', 'planned', 'spent', 'free'],
        times.map((one) => [one.from, one.to, one.promised, one.planned, one.spent, one.free]),
      );
    return writeCsv(
      [query.by, 'promised', 'planned', 'spent', 'done', 'took longer', 'estimated', 'took', 'off by %'],
      [...rows, { ...total, name: 'All' }].map((one) => [
        ...[one.name, one.promised, one.planned, one.spent, one.done, one.longer, one.estimated, one.took],
        percent(offBy(one)),
      ]),
    );
  }

  private async entriesCsv(user: User, { from, to }: LedgerQuery): Promise<string> {
    const window = this.windowOf(user, from, to);
    const rows = await this.entries
      .createQueryBuilder('e')
      .where('e.ownerId = :owner AND e.startAt < :end AND e.endAt > :start', { owner: user.id, ...window })
      .orderBy('e.startAt')
      .addOrderBy('e.id')
      .getMany();
    const ids = [...new Set(rows.map(({ taskId }) => taskId))];
    const tasks = ids.length
      ? await this.tasks
          .createQueryBuilder('t')
          .where('t.ownerId = :owner AND t.id IN (SELECT value FROM json_each(:ids))', {
            owner: user.id,
            ids: JSON.stringify(ids),
          })
          .getMany()
      : [];
    const lists = await this.lists.findBy({
      ownerId: user.id,
      id: In([...new Set(tasks.flatMap(({ listId }) => listId ?? []))]),
    });
    return timeCsv(
      rows,
      new Map(tasks.map((task) => [task.id, task])),
      new Map(lists.map(({ id, name }) => [id, name])),
      user.zone,
    );
  }

  /** @throws Refusal where the days are in the wrong order, or too many */
  private windowOf(user: User, from: string, to: string): Interval {
    if (to < from) throw badField('to', 'The last day comes before the first one.');
    if (daysBetween(from, to) >= MOST_DAYS) throw badField('to', 'The ledger goes over ten years at most.');
    return { start: startOfDay(from, user.zone), end: endOfDay(to, user.zone) };
  }

  private async namesOf(user: User, by: LedgerQuery['by']): Promise<(key: string) => string> {
    const named = (rows: readonly { id: string; name: string }[]) => new Map(rows.map(({ id, name }) => [id, name]));
    const known =
      by === 'list'
        ? named(await this.lists.find({ where: { ownerId: user.id }, select: { id: true, name: true } }))
        : by === 'calendar'
          ? named(await this.calendars.find({ where: { ownerId: user.id }, select: { id: true, name: true } }))
          : new Map(Object.entries(by === 'kind' ? KIND_NAMES : by === 'billable' ? BILLABLE_NAMES : {}));
    return (key) => (key === '' ? NONE[by] : (known.get(key) ?? key));
  }
}

const percent = (share: number | null): number | null => (share === null ? null : Math.round(share * 100));
