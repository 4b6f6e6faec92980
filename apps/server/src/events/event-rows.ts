import type { Interval } from '@corvun/core';
import type { Repository } from 'typeorm';
import type { Event } from './event.entity';

/** What takes longer is looked for by itself: nearly nothing does, and without it only what is near has to be looked at. */
export const LONG = 31 * 86_400_000;

/** Ids of what can touch a window, each part by an index of its own. */
export const IN_WINDOW = `
  SELECT "id" FROM "event" WHERE "ownerId" = :owner AND "startAt" >= :near AND "startAt" < :end AND ("endAt" > :start OR "startAt" >= :start)
  UNION SELECT "id" FROM "event" WHERE "ownerId" = :owner AND "endAt" - "startAt" > ${LONG} AND "endAt" > :start AND "startAt" < :end
  UNION SELECT "id" FROM "event" WHERE "ownerId" = :owner AND "endAt" IS NULL AND "startAt" < :end`;

/** Rows whose occurrences can touch a window, with everything of their series, by series. */
export async function eventRowsIn(events: Repository<Event>, ownerId: string, { start, end }: Interval): Promise<Event[][]> {
  const rows = await events
    .createQueryBuilder('e')
    .where(`e.id IN (${IN_WINDOW})`, { owner: ownerId, start, end, near: start - LONG })
    // Of those at the same time the one that was there first.
    .orderBy('e.startAt')
    .addOrderBy('e.endAt')
    .addOrderBy('e.rowid')
    .getMany();
  return withTheirSeries(events, ownerId, rows);
}

/** Rows with everything of their series, by series. */
export async function withTheirSeries(events: Repository<Event>, ownerId: string, rows: readonly Event[]): Promise<Event[][]> {
  const repeating = [...new Set(rows.filter((row) => row.rrule || row.recurrenceId || row.rdates.length).map((row) => row.uid))];
  const others = repeating.length
    ? await events
        .createQueryBuilder('e')
        .where('e.ownerId = :owner AND e.uid IN (SELECT value FROM json_each(:uids))', {
          owner: ownerId,
          uids: JSON.stringify(repeating),
        })
        .getMany()
    : [];
  const series = new Map<string, Map<string, Event>>();
  for (const row of [...rows, ...others]) {
    const key = `${row.calendarId}\n${row.uid}`;
    series.set(key, (series.get(key) ?? new Map<string, Event>()).set(row.id, row));
  }
  return [...series.values()].map((parts) => [...parts.values()]);
}
