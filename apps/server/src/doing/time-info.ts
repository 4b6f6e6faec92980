import type { TimeEntryInfo } from '@corvun/contract';
import { MINUTE, isoInZone, ranFor } from '@corvun/core';
import type { TimeEntry } from './time-entry.entity';

/** What is said of time of which the beginning is still to come. */
export const CLOCK_SET_BACK = 'The clock was set back while this ran; how long it was is not known.';

export const timeInfo = (row: TimeEntry, now: number, zone: string): TimeEntryInfo => ({
  ...{ id: row.id, by: row.by, version: row.version },
  ...{ start: isoInZone(row.startAt, zone), end: row.endAt === null ? null : isoInZone(row.endAt, zone) },
  minutes: Math.round(ranFor({ start: row.startAt, end: row.endAt }, now) / MINUTE),
  note: row.endAt === null && row.startAt > now ? CLOCK_SET_BACK : row.note,
});
