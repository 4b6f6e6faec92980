import { Injectable } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import { DESTINATIONS, dayOf, runsOf, tellRun, type Destination, type LogEntry } from '@corvun/core';
import { DataSource } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { among, type OnDay, type Scope } from './log-scope';

interface DecidedRow {
  id: string;
  subject: string;
  outcome: Destination;
  decided: number;
}

const isDestination = (outcome: string): outcome is Destination => outcome in DESTINATIONS;

/** What was decided of what came in, as it was done in one go. */
@Injectable()
export class DecidedReads {
  constructor(@InjectDataSource() private readonly source: DataSource) {}

  async within(user: User, scope: Scope): Promise<OnDay[]> {
    const only = among(scope, 'incoming');
    if (!only) return [];
    const { start, end } = scope.window;
    const [some, values] = only.ids ? [`AND "id" IN (SELECT value FROM json_each(?))`, [JSON.stringify(only.ids)]] : ['', []];
    const rows = await this.source.query<DecidedRow[]>(
      `SELECT "id", "subject", "outcome", "decided" FROM "incoming"
       WHERE "ownerId" = ? AND "decided" >= ? AND "decided" < ? AND "state" = 'decided' AND "outcome" IS NOT NULL ${some}`,
      [user.id, start, end, ...values],
    );
    const decisions = rows
      .filter(({ outcome }) => isDestination(outcome))
      .map(({ id, subject, outcome, decided }) => ({ id, at: decided, title: subject || 'No subject', to: outcome }));
    const days = new Map<string, typeof decisions>();
    for (const one of decisions) {
      const day = dayOf(one.at, user.zone);
      days.set(day, [...(days.get(day) ?? []), one]);
    }
    return [...days].flatMap(([day, own]) => runsOf(own).map((run) => ({ day, entry: entryOf(run) })));
  }
}

const thingOf = (id: string) => ({ kind: 'incoming', id, occurrence: null }) as const;

function entryOf(run: ReturnType<typeof runsOf>[number]): LogEntry {
  const [first] = run;
  const own = { kind: 'sorted', id: `sorted ${first?.id ?? ''}`, at: first?.at ?? null, listId: null, calendarId: null } as const;
  return run.length === 1 && first
    ? { ...own, title: first.title, text: `sorted: ${DESTINATIONS[first.to].counted}`, thing: thingOf(first.id), parts: [] }
    : {
        ...{ ...own, title: `Sorted ${run.length} incoming`, text: tellRun(run), thing: null },
        parts: run.map(({ id, title, to }) => ({ title, text: DESTINATIONS[to].counted, thing: thingOf(id) })),
      };
}
