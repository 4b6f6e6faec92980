import type { WrittenEvent } from '@corvun/formats';
import type { Event } from './event.entity';

/** Rows as a file or a message has them, changed dates in the zone of their series. @param all among which the series are */
export function written(rows: readonly Event[], all: readonly Event[] = rows): WrittenEvent[] {
  const seriesOf = (row: Event) => `${row.calendarId}\n${row.uid}`;
  const zones = new Map(all.filter((row) => !row.recurrenceId).map((row) => [seriesOf(row), row.zone]));
  return rows.map((row) => {
    const zone = zones.get(seriesOf(row));
    return { ...row, seriesZone: zone === undefined ? row.zone : zone };
  });
}
