import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { dayOf, endOfDay, instantOf, sayAnswer, type LogEntry } from '@corvun/core';
import { Between, In, Repository, type FindOptionsWhere } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { Note } from '../notes/note.entity';
import { DayPlan } from '../passes/day-plan.entity';
import { Pass } from '../passes/pass.entity';
import { OutboxEntry } from '../sources/outbox.entity';
import { CheckIn, CheckInAnswer } from './check-in.entities';
import { LogLine } from './log-line.entity';
import { among, type OnDay, type Scope } from './log-scope';

/** What goes out in one's own words. */
const WRITTEN_OUT = ['mail', 'reply'] as const;
const PASSES: Partial<Record<Pass['kind'], string>> = {
  'week-review': 'The week was looked back on',
  'clear-decks': 'The decks were cleared',
};
const ONE = { text: '', thing: null, parts: [], listId: null, calendarId: null };

/** What was written and sent, gone through, noted and answered. */
@Injectable()
export class WrittenReads {
  constructor(
    @InjectRepository(Note) private readonly notes: Repository<Note>,
    @InjectRepository(OutboxEntry) private readonly outbox: Repository<OutboxEntry>,
    @InjectRepository(DayPlan) private readonly plans: Repository<DayPlan>,
    @InjectRepository(Pass) private readonly passes: Repository<Pass>,
    @InjectRepository(LogLine) private readonly lines: Repository<LogLine>,
    @InjectRepository(CheckIn) private readonly checkIns: Repository<CheckIn>,
    @InjectRepository(CheckInAnswer) private readonly answers: Repository<CheckInAnswer>,
  ) {}

  async within(user: User, scope: Scope): Promise<OnDay[]> {
    const all = await Promise.all([
      this.pages(user, scope),
      this.ownLines(user, scope),
      this.answered(user, scope),
      // What is looked for is found by what stands in it; these have no words of their own.
      ...(scope.found ? [] : [this.sent(user, scope), this.gone(user, scope)]),
    ]);
    return all.flat();
  }

  private async pages(user: User, scope: Scope): Promise<OnDay[]> {
    const only = among(scope, 'note');
    if (!only) return [];
    const { start, end } = scope.window;
    const own: FindOptionsWhere<Note> = { ownerId: user.id, ...(only.ids ? { id: In(only.ids) } : {}) };
    const written = await this.writtenOn(user, scope);
    const rows = await this.notes.find({
      where: [
        { ...own, created: Between(start, end - 1) },
        { ...own, changed: Between(start, end - 1) },
        ...(only.ids ? [] : [{ ownerId: user.id, id: In([...written.keys()]) }]),
      ],
      select: { id: true, title: true, created: true, changed: true },
    });
    return rows.flatMap(({ id, title, created, changed }) => {
      const made = dayOf(created, user.zone);
      const told = (day: string, at: number, text: string): OnDay => ({
        day,
        entry: { ...ONE, kind: 'written', id: `${id} ${text}`, at, title, text, thing: thing('note', id) },
      });
      // What is in the log no more is known by its last change.
      const later = new Map([[dayOf(changed, user.zone), changed], ...(written.get(id) ?? [])]);
      return [
        told(made, created, 'a page was begun'),
        ...[...later].filter(([day]) => day !== made).map(([day, at]) => told(day, at, 'written on')),
      ].filter(({ entry: { at } }) => at !== null && at >= start && at < end);
    });
  }

  /** When pages were written on, by their ids: the last time of each day. What was taken back is not among it. */
  private async writtenOn(user: User, { window: { start, end } }: Scope): Promise<Map<string, [day: string, at: number][]>> {
    const lines = await this.notes.query<{ id: string; at: number }[]>(
      `SELECT a."rowId" AS "id", e."at" FROM "entry_about" a JOIN "entry" e ON e."revision" = a."revision"
       WHERE a."rowId" IN (SELECT "id" FROM "note" WHERE "ownerId" = ?) AND e."ownerId" = ? AND e."at" >= ? AND e."at" < ?
         AND e."sentence" <> '' AND e."state" IN ('done', 'final') ORDER BY e."revision"`,
      [user.id, user.id, start, end],
    );
    const found = new Map<string, [string, number][]>();
    for (const { id, at } of lines) found.set(id, [...(found.get(id) ?? []), [dayOf(at, user.zone), at]]);
    return found;
  }

  private async sent(user: User, { window: { start, end } }: Scope): Promise<OnDay[]> {
    const rows = await this.outbox.find({
      where: { ownerId: user.id, kind: In([...WRITTEN_OUT]), state: 'sent', sentAt: Between(start, end - 1) },
      select: { id: true, what: true, sentAt: true, payload: true },
    });
    return rows.flatMap(({ id, what, sentAt, payload }) =>
      sentAt === null || isToSelf(payload)
        ? []
        : [
            {
              day: dayOf(sentAt, user.zone),
              entry: { ...ONE, kind: 'sent' as const, id, at: sentAt, title: what, text: 'sent' },
            },
          ],
    );
  }

  private async gone(user: User, { window: { start, end } }: Scope): Promise<OnDay[]> {
    const from = dayOf(start, user.zone);
    const [plans, passes] = await Promise.all([
      this.plans.findBy({ ownerId: user.id, day: Between(from, dayOf(end - 1, user.zone)) }),
      this.passes.findBy({ ownerId: user.id, state: 'done', ended: Between(start, end - 1), kind: In(Object.keys(PASSES)) }),
    ]);
    const told = (at: number | null, id: string, title: string): OnDay[] =>
      at === null || at < start || at >= end
        ? []
        : [{ day: dayOf(at, user.zone), entry: { ...ONE, kind: 'pass', id, at, title } satisfies LogEntry }];
    return [
      ...plans.flatMap(({ id, opened, closed }) => [
        ...told(opened, `${id} opened`, 'The day was opened'),
        ...told(closed, `${id} closed`, 'The day was closed'),
      ]),
      ...passes.flatMap(({ id, kind, ended }) => told(ended, id, PASSES[kind] ?? '')),
    ];
  }

  private async ownLines(user: User, scope: Scope): Promise<OnDay[]> {
    const only = among(scope, 'log_line');
    if (!only) return [];
    const rows = await this.lines.findBy({ ownerId: user.id, ...this.onDays(user, scope, only.ids) });
    return rows.map(({ id, day, time, text }) => ({
      day,
      entry: {
        ...{ ...ONE, kind: 'line', id, title: text, thing: thing('line', id) },
        at: time === null ? null : instantOf(`${day}T${time}`, user.zone),
      },
    }));
  }

  private async answered(user: User, scope: Scope): Promise<OnDay[]> {
    const only = among(scope, 'check_in_answer');
    if (!only) return [];
    const rows = await this.answers.findBy({ ownerId: user.id, ...this.onDays(user, scope, only.ids) });
    const own = await this.checkIns.findBy({ ownerId: user.id, id: In([...new Set(rows.map(({ checkInId }) => checkInId))]) });
    return rows
      .filter(({ answers }) => answers.length)
      .map(({ id, checkInId, day, answers, answeredAt }) => ({
        day,
        entry: {
          ...{ ...ONE, kind: 'check-in', id, title: own.find((one) => one.id === checkInId)?.name ?? '' },
          at: Math.min(answeredAt, endOfDay(day, user.zone) - 1),
          thing: thing('checkIn', checkInId),
          parts: answers.map((one) => ({ title: one.question.text, text: sayAnswer(one), thing: null })),
        },
      }));
  }

  private onDays(user: User, { window: { start, end } }: Scope, ids: readonly string[] | undefined) {
    return {
      day: Between(dayOf(start, user.zone), dayOf(end - 1, user.zone)),
      ...(ids ? { id: In(ids) } : {}),
    };
  }
}

/** What Corvun itself mailed to its user. */
function isToSelf({ to, from }: Record<string, unknown>): boolean {
  const addresses = (Array.isArray(to) ? to : []) as { address?: string }[];
  return addresses.length === 1 && addresses[0]?.address === (from as { address?: string } | undefined)?.address;
}

const thing = (kind: 'note' | 'line' | 'checkIn', id: string) => ({ kind, id, occurrence: null });
