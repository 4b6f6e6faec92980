import { inSeriesZone, instantOf, readRule, seriesOccurrences, wallOf, type Noticed } from '@corvun/core';
import type { CalendarEvent } from '@corvun/formats';
import type { User } from '../accounts/user.entity';
import type { EventRow } from '../events/event.entity';

/** Why a message must not change what is known: an older SEQUENCE or DTSTAMP (RFC 5546, 2.1.5), or another sender. */
export function refusalOf(row: EventRow, event: CalendarEvent, sender: string): string {
  if (event.sequence < row.sequence || (event.sequence === row.sequence && event.stamp < row.stamp))
    return 'older than what you already have; nothing was changed';
  if (row.organizer && row.organizer !== sender)
    return `comes from ${sender || 'an unknown sender'}, not from the organizer ${row.organizer}; nothing was changed`;
  return '';
}

export const isMine = (address: string, user: User) => [user.email, user.captureAddress].includes(address.toLowerCase());
export const isOther = (address: string | undefined, user: User) => Boolean(address) && !isMine(address ?? '', user);

export const noticed = ({ title, start, end, allDay, zone, location, rrule, status }: Noticed): Noticed => ({
  title,
  start,
  end,
  allDay,
  zone,
  location,
  rrule,
  status,
});

/** How an occurrence of a series stood before it was changed. */
export function occurrenceOf(series: EventRow, recurrenceId: string, reader: string): Noticed {
  const zone = series.zone ?? reader;
  if (series.allDay) return { ...noticed(series), start: recurrenceId, end: recurrenceId, rrule: null };
  const length = instantOf(series.end, zone) - instantOf(series.start, zone);
  const start = recurrenceId.length === 10 ? `${recurrenceId}${series.start.slice(10)}` : recurrenceId;
  return { ...noticed(series), start, end: wallOf(instantOf(start, zone) + length, zone), rrule: null };
}

/** The name of a date in its series: RECURRENCE-ID in the zone of the series; empty for the series itself. */
export const nameIn = (series: EventRow | undefined, event: CalendarEvent, reader: string): string =>
  event.recurrenceId && series ? inSeriesZone(event.recurrenceId, event.zone, series, reader) : (event.recurrenceId ?? '');

/**
 * Changed dates that a new REQUEST for the whole series has overtaken (RFC 5546, 3.2.2): older than it and not in it, or
 * no longer dates of it.
 */
export function overtaken(
  series: EventRow,
  dates: readonly EventRow[],
  inMessage: ReadonlySet<string>,
  reader: string,
): EventRow[] {
  return dates.filter((row) => {
    if (!row.recurrenceId || inMessage.has(row.recurrenceId)) return false;
    if (row.sequence < series.sequence) return true;
    const at = instantOf(occurrenceOf(series, row.recurrenceId, reader).start, series.zone ?? reader);
    const near = seriesOccurrences([series], at - 86_400_000, at + 2 * 86_400_000, reader);
    return !near.some(
      ({ occurrence }) => occurrence.key === row.recurrenceId || occurrence.key.slice(0, 10) === row.recurrenceId,
    );
  });
}

/** The rules of a series that ends before one of its dates. */
export function endedBefore(series: EventRow, recurrenceId: string, reader: string): string | null {
  const at = instantOf(occurrenceOf(series, recurrenceId, reader).start, series.zone ?? reader) - 1000;
  const until = series.allDay
    ? wallOf(at, reader).slice(0, 10).replaceAll('-', '')
    : new Date(at).toISOString().replace(/[-:]|\.\d{3}/g, '');
  const ended = (series.rrule ?? '').split('\n').flatMap((rule) => {
    const { count } = readRule(rule);
    const open = rule.replace(/;?(?:COUNT|UNTIL)=[^;]*/gi, '').replace(/^;/, '');
    // What is counted may end earlier by itself; both limits cannot stand in one rule.
    return [count === null ? `${open};UNTIL=${until}` : `${rule.replace(/;?UNTIL=[^;]*/gi, '')}`];
  });
  return ended.join('\n') || null;
}
