import type { AgendaEntry, CalendarInfo, DayInfo } from '@corvun/contract';
import type { Placing, Target } from './planning';

/** A column of one day beside others: what of the day stands in it. */
export interface Side {
  key: string;
  name: string;
  /** Null: own time, which is in no calendar. */
  calendar: CalendarInfo | null;
  day: DayInfo;
}

const OWN = 'own';

/** A day in columns: own time, then each calendar that is shown. */
export function sidesOf(day: DayInfo, calendars: readonly CalendarInfo[]): Side[] {
  const of = (stands: (entry: AgendaEntry) => boolean): DayInfo => ({ ...day, entries: day.entries.filter(stands) });
  return [
    { key: OWN, name: 'Own time', calendar: null, day: of((entry) => entry.kind !== 'event') },
    ...calendars
      .filter(({ shown }) => shown)
      .map((calendar) => ({
        ...{ key: calendar.id, name: calendar.name, calendar },
        day: of((entry) => entry.kind === 'event' && entry.calendarId === calendar.id),
      })),
  ];
}

/** The calendar in whose column something would come to stand; null: own time. */
export function calendarAt(target: Pick<Target, 'calendarId'>, placing: Placing | null): string | null {
  const entry = placing && placing.what !== 'cards' ? placing.entry : null;
  return entry?.kind === 'event' ? (target.calendarId ?? entry.calendarId) : (target.calendarId ?? null);
}

/** Whether an event can be put into another calendar by dragging it there: one date of a series cannot. */
export const changesCalendar = (placing: Placing): boolean =>
  placing.what === 'move' && placing.entry.kind === 'event' && !placing.entry.occurrence;
