import type { Interval } from '../time/intervals';
import { MINUTE, addDays, daysBetween, instantOf, startOfDay, wallOf, type Day, type Instant, type Zone } from '../time/zones';
import { readDuration, type Duration } from './duration';

/** When an event is (RFC 5545, 3.6.1): wall-clock times in a zone, or days. */
export interface EventTimes {
  /** Wall-clock time in `zone`, or a day for an all-day event. */
  start: string;
  /** Exclusive. */
  end: string;
  allDay: boolean;
  /** IANA or POSIX zone; null for a floating time, which is read in the reader's zone. */
  zone: Zone | null;
  /** DURATION as written, where there is no DTEND: its days are nominal, its time is exact (3.8.2.5). */
  duration?: string | null;
}

/** An event on one of its dates. */
export interface Placed extends Interval {
  /** Of an all-day event: its first day and the day after its last. They are days, whatever the zone. */
  days: { first: Day; after: Day } | null;
}

/** When something ends that begins at a wall-clock time: its days are counted on the calendar, the rest on the clock. */
export function endAfter(wall: string, { days, time }: Duration, zone: Zone): Instant {
  return instantOf(days ? `${addDays(wall.slice(0, 10), days)}${wall.slice(10)}` : wall, zone) + time;
}

/**
 * Places an event on any of its dates; the only place where an end is derived from a start.
 * @returns takes a start as it is written: wall-clock time, day, or a PERIOD `start/end`
 */
export function placing(event: EventTimes, reader: Zone): (start: string) => Placed {
  if (event.allDay) {
    const length = Math.max(1, daysBetween(event.start, event.end));
    return (start) => {
      const [key = '', end] = start.split('/');
      const first = key.slice(0, 10);
      const after = end ? end.slice(0, 10) : addDays(first, length);
      return { start: startOfDay(first, reader), end: startOfDay(after, reader), days: { first, after } };
    };
  }
  const zone = event.zone ?? reader;
  const length = Math.max(0, instantOf(event.end, zone) - instantOf(event.start, zone));
  const nominal = event.duration ? readDuration(event.duration) : null;
  return (start) => {
    const [key = '', end] = start.split('/');
    const wall = key.length === 10 ? `${key}T${event.start.slice(11)}` : key;
    const at = instantOf(wall, zone);
    const own = end && !end.startsWith('P') ? instantOf(end, zone) : null;
    const last = own ?? (nominal ? endAfter(wall, nominal, zone) : at + length);
    return { start: at, end: Math.max(at, last), days: null };
  };
}

/** Start and end of an event, or of the first date of a series. @throws RangeError for times that cannot be read */
export const placeOf = (event: EventTimes, reader: Zone): Placed => placing(event, reader)(event.start);

/** The stretch within which all dates of an event lie. */
export interface Bounds {
  startAt: Instant;
  /** Null where it repeats, so that nobody knows the end without walking there. */
  endAt: Instant | null;
}

/** @throws RangeError for times that cannot be read */
export function boundsOf(
  event: EventTimes & { rrule: string | null; rdates: readonly string[]; following?: boolean },
  reader: Zone,
): Bounds {
  const place = placing(event, reader);
  const first = place(event.start);
  const extra = event.rdates.map(place);
  return {
    startAt: Math.min(first.start, ...extra.map((one) => one.start)),
    endAt: event.rrule !== null || event.following ? null : Math.max(first.end, ...extra.map((one) => one.end)),
  };
}

/** The times of a single event that fills a stretch of time. */
export const timesBetween = ({ start, end }: Interval, zone: Zone): EventTimes => ({
  start: wallOf(start, zone),
  end: wallOf(end, zone),
  allDay: false,
  zone,
  duration: null,
});

/** The times of an event of whole days, from the first to the last of them. */
export const wholeDays = (first: Day, last: Day): EventTimes => ({
  start: first,
  end: addDays(last < first ? first : last, 1),
  allDay: true,
  zone: null,
  duration: null,
});

/** A moment moved by minutes of the clock on the wall: a day later is the same time of the next day. */
export function laterBy(at: Instant, minutes: number, zone: Zone): Instant {
  const wall = wallOf(at, zone);
  const total = Number(wall.slice(11, 13)) * 60 + Number(wall.slice(14, 16)) + minutes;
  const [days, clock] = [Math.floor(total / 1440), ((total % 1440) + 1440) % 1440];
  const text = [Math.floor(clock / 60), clock % 60].map((part) => String(part).padStart(2, '0')).join(':');
  return instantOf(`${addDays(wall.slice(0, 10), days)}T${text}`, zone) + (at % MINUTE);
}

/** Where an event is to begin, an instant or, when it is all-day, a day; and how long it then lasts, in minutes. */
export interface NewPlace {
  start: Instant | Day;
  /** Left out: as long as it was. */
  minutes?: number | undefined;
  /** Whole days from now on, or times from now on; left out: as it was. */
  allDay?: boolean | undefined;
  /** The zone it is kept in from now on; left out: as it was. */
  zone?: Zone | null | undefined;
}

/** How long something is that was of whole days and gets a time. */
const AN_HOUR = 60 * MINUTE;

/** Whether a new place makes days of times, times of days, or is in another zone. */
export const isReformed = (event: EventTimes, { allDay = event.allDay, zone = event.zone }: NewPlace): boolean =>
  allDay !== event.allDay || (!allDay && zone !== event.zone);

/** The times of an event after it is moved or resized: it keeps its form and its zone unless the place says another. */
export function timesAt(event: EventTimes, place: NewPlace, reader: Zone): EventTimes {
  const { start, minutes, allDay = event.allDay, zone = event.zone } = place;
  const { duration = null } = event;
  const now = placeOf(event, reader);
  if (allDay) {
    const kept = now.days ? daysBetween(now.days.first, now.days.after) : 1;
    const length = minutes === undefined ? kept : Math.round(minutes / 1440);
    const first = typeof start === 'string' ? start.slice(0, 10) : wallOf(start, reader).slice(0, 10);
    return { start: first, end: addDays(first, Math.max(1, length)), allDay, zone: now.days ? zone : null, duration: null };
  }
  const length = now.days ? AN_HOUR : now.end - now.start;
  const own = zone ?? reader;
  const at = typeof start === 'string' ? instantOf(start, own) : start;
  const wall = wallOf(at, own);
  const nominal = duration ? readDuration(duration) : null;
  const kept = nominal && (minutes === undefined || minutes * MINUTE === length) ? nominal : null;
  const end = kept ? endAfter(wall, kept, own) : at + (minutes === undefined ? length : minutes * MINUTE);
  return { start: wall, end: wallOf(end, own), allDay, zone, duration: kept ? duration : null };
}

/** The times of one date of a series, in the zone of the series. @param key wall-clock time or day it is named by */
export function timesOn(series: EventTimes, key: string, reader: Zone): EventTimes {
  const { start, end, days } = placing(series, reader)(key);
  const { allDay, zone } = series;
  if (days) return { start: days.first, end: days.after, allDay, zone, duration: null };
  return { ...timesBetween({ start, end }, zone ?? reader), zone };
}
