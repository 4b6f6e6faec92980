import { inSeriesZone, placing, seriesOccurrences, timesOn, type Noticed } from '@corvun/core';
import type { CalendarEvent } from '@corvun/formats';
import type { User } from '../accounts/user.entity';
import type { Event } from '../events/event.entity';
import { isMine } from '../events/whose';

/** Why a message must not change what is known: an older SEQUENCE or DTSTAMP (RFC 5546, 2.1.5), or another sender. */
export function refusalOf(row: Event, event: Pick<CalendarEvent, 'sequence' | 'stamp'>, sender: string): string {
  if (event.sequence < row.sequence || (event.sequence === row.sequence && event.stamp < row.stamp))
    return 'older than what you already have; nothing was changed';
  if (row.organizer && row.organizer !== sender)
    return `comes from ${sender || 'an unknown sender'}, not from the organizer ${row.organizer}; nothing was changed`;
  return '';
}

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
export const occurrenceOf = (series: Event, recurrenceId: string, reader: string): Noticed => ({
  ...noticed(series),
  ...timesOn(series, recurrenceId, reader),
  rrule: null,
});

/** The name of a date in its series: RECURRENCE-ID in the zone of the series; empty for the series itself. */
export const nameIn = (series: Event | undefined, event: Pick<CalendarEvent, 'recurrenceId' | 'zone'>, reader: string): string =>
  event.recurrenceId && series ? inSeriesZone(event.recurrenceId, event.zone, series, reader) : (event.recurrenceId ?? '');

/**
 * Changed dates that a new REQUEST for the whole series has overtaken (RFC 5546, 3.2.2): older than it and not in it, or
 * no longer dates of it.
 */
export function overtaken(series: Event, dates: readonly Event[], inMessage: ReadonlySet<string>, reader: string): Event[] {
  return dates.filter((row) => {
    if (!row.recurrenceId || inMessage.has(row.recurrenceId)) return false;
    if (row.sequence < series.sequence) return true;
    const at = placing(series, reader)(row.recurrenceId).start;
    const near = seriesOccurrences([series], at - 86_400_000, at + 2 * 86_400_000, reader);
    return !near.some(
      ({ occurrence }) => occurrence.key === row.recurrenceId || occurrence.key.slice(0, 10) === row.recurrenceId,
    );
  });
}
