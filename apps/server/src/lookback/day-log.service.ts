import { Injectable } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import type { Added, DayLogInfo, Done, LogLineChange, LogLineInput } from '@corvun/contract';
import {
  addDays,
  dayLogMarkdown,
  dayOf,
  daysBetween,
  daysFrom,
  endOfDay,
  ftsQuery,
  inLogOrder,
  isoInZone,
  readFind,
  sayDay,
  startOfDay,
  type LogEntry,
} from '@corvun/core';
import { DataSource } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { Clock } from '../base/clock';
import { badField } from '../base/errors';
import { Kernel, byUser } from '../kernel/kernel.service';
import { AttendedReads } from './attended.reads';
import { DecidedReads } from './decided.reads';
import type { OnDay, Scope } from './log-scope';
import { QuietReads } from './quiet.reads';
import { WorkedReads } from './worked.reads';
import { WrittenReads } from './written.reads';

const MOST_DAYS = 366;
/** Of what has the words, so many of the latest are looked at, and so many days are shown. */
const MOST_FOUND = 400;
const MOST_DAYS_FOUND = 60;
/** Days. */
const AHEAD = 3660;
const SEARCHED = ['task', 'event', 'incoming', 'note', 'log_line', 'check_in_answer'];

/** What was done, attended, decided, written and spent, day by day. */
@Injectable()
export class DayLogService {
  constructor(
    @InjectDataSource() private readonly source: DataSource,
    private readonly attended: AttendedReads,
    private readonly worked: WorkedReads,
    private readonly decided: DecidedReads,
    private readonly written: WrittenReads,
    private readonly quiet: QuietReads,
    private readonly kernel: Kernel,
    private readonly clock: Clock,
  ) {}

  async day(user: User, day: string): Promise<DayLogInfo> {
    const days = await this.days(user, day, day);
    return infoOf({ day, entries: days.find((one) => one.day === day)?.entries ?? [] }, user);
  }

  /** Days on which something with these words was, the latest first. */
  async find(user: User, text: string): Promise<DayLogInfo[]> {
    const now = this.clock.now();
    const query = ftsQuery({ ...readFind(text, { now, zone: user.zone }), people: [] });
    if (!query) return [];
    const rows = await this.source.query<{ id: string; thing: string }[]>(
      `SELECT d."id", d."thing" FROM search_fts JOIN search_doc d ON d.doc = search_fts.rowid
       WHERE search_fts MATCH ? AND d."ownerId" = ? AND d."thing" IN (SELECT value FROM json_each(?))
       ORDER BY search_fts.rowid DESC LIMIT ${MOST_FOUND}`,
      [query, user.id, JSON.stringify(SEARCHED)],
    );
    const found = new Map<string, string[]>();
    for (const { id, thing } of rows) found.set(thing, [...(found.get(thing) ?? []), id]);
    // A line can be written into a day that is still to come.
    const window = { start: 0, end: endOfDay(addDays(dayOf(now, user.zone), AHEAD), user.zone) };
    const days = await this.read(user, { window, found, now });
    return days
      .reverse()
      .slice(0, MOST_DAYS_FOUND)
      .map((one) => infoOf(one, user));
  }

  /** @throws Refusal where the days are in the wrong order, or too many */
  async markdown(user: User, from: string, to: string): Promise<string> {
    if (to < from) throw badField('to', 'The last day comes before the first one.');
    const count = daysBetween(from, to) + 1;
    if (count > MOST_DAYS) throw badField('to', 'The day log is written out for a year at most.');
    const known = new Map((await this.days(user, from, to)).map((one) => [one.day, one]));
    const all = daysFrom(from, count).map((day) => known.get(day) ?? { day, entries: [] });
    // With the year, wherever it is read.
    return dayLogMarkdown(count === 1 ? all : all.filter(({ entries }) => entries.length), (day) => sayDay(day, ''), user.zone);
  }

  async addLine(user: User, { day, text, time }: LogLineInput): Promise<Added> {
    const { decision, sentence, result } = await this.kernel.transact(byUser(user), async (work) => {
      const line = await work.insert('logLine', { day, time: time ?? null, text: text.trim() });
      work.say({ action: 'change', sentence: `Written into ${sayDay(day, dayOf(work.now, user.zone))}` });
      return line.id;
    });
    return { decision, sentence, id: result };
  }

  async changeLine(user: User, id: string, { text }: LogLineChange): Promise<Done> {
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      await work.update('logLine', await work.find('logLine', id), { text: text.trim() });
      work.say({ action: 'change', sentence: 'The line was changed' });
    });
    return { decision, sentence };
  }

  async removeLine(user: User, id: string): Promise<Done> {
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      await work.remove('logLine', await work.find('logLine', id));
      work.say({ action: 'change', sentence: 'The line was taken away' });
    });
    return { decision, sentence };
  }

  private days(user: User, from: string, to: string): Promise<Day[]> {
    const window = { start: startOfDay(from, user.zone), end: endOfDay(to, user.zone) };
    return this.read(user, { window, found: null, now: this.clock.now() });
  }

  private async read(user: User, scope: Scope): Promise<Day[]> {
    const reads = [this.attended, this.worked, this.decided, this.written, this.quiet];
    const all = await Promise.all(reads.map((one) => one.within(user, scope)));
    const days = new Map<string, OnDay['entry'][]>();
    for (const { day, entry } of all.flat()) days.set(day, [...(days.get(day) ?? []), entry]);
    return [...days].map(([day, entries]) => ({ day, entries: inLogOrder(entries) })).sort((a, b) => (a.day < b.day ? -1 : 1));
  }
}

interface Day {
  day: string;
  entries: LogEntry[];
}

const infoOf = ({ day, entries }: Day, { zone }: User): DayLogInfo => ({
  day,
  entries: entries.map((entry) => ({ ...entry, at: entry.at === null ? null : isoInZone(entry.at, zone) })),
});
