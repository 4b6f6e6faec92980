import type { Interval } from '@corvun/core';
import { Between, IsNull, LessThan, MoreThan, type Repository } from 'typeorm';
import type { Event } from './event.entity';

/** Rows whose occurrences can touch a window, with everything of their series, by series. */
export async function eventRowsIn(events: Repository<Event>, ownerId: string, { start, end }: Interval): Promise<Event[][]> {
  const rows = await events.find({
    where: [
      { ownerId, startAt: LessThan(end), endAt: MoreThan(start) },
      { ownerId, startAt: LessThan(end), endAt: IsNull() },
      { ownerId, startAt: Between(start, end - 1) },
    ],
  });
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
