import ICAL from 'ical.js';
import { endAfter, instantOf, readDuration, wallOf, type Zone } from '@corvun/core';
import { zoneNamed, type Zones } from './zone';

const pad = (number: number) => String(number).padStart(2, '0');
const dayText = (time: ICAL.Time) => `${String(time.year).padStart(4, '0')}-${pad(time.month)}-${pad(time.day)}`;
export const wallText = (time: ICAL.Time) =>
  time.isDate ? dayText(time) : `${dayText(time)}T${pad(time.hour)}:${pad(time.minute)}`;

/** The times of one component, in the zone of its DTSTART. What cannot be known is said, never guessed. */
export class Times {
  readonly start: ICAL.Time | null;
  /** Null for a floating time. */
  readonly zone: Zone | null;
  unplaced: string | null = null;

  constructor(
    private readonly component: ICAL.Component,
    private readonly zones: Zones,
    private readonly problems: string[],
  ) {
    const property = component.getFirstProperty('dtstart');
    this.start = property ? (this.timesIn(property)[0] ?? null) : null;
    this.zone = property && this.start && !this.start.isDate ? this.zoneOf(property, this.start) : null;
  }

  /** Values of a property as wall-clock times or days of the event's zone; a period is `start/end`. */
  walls(name: string): string[] {
    return this.component.getAllProperties(name).flatMap((property) =>
      this.valuesOf(property).flatMap((value) => {
        if (value instanceof ICAL.Time) return [this.wallIn(property, value)];
        if (!(value instanceof ICAL.Period)) return [];
        const start = this.wallIn(property, value.start);
        // A period that gives a length has no end of its own in this parser.
        const end = value.end as ICAL.Time | null;
        if (end) return [`${start}/${this.wallIn(property, end)}`];
        const length = readDuration(String(value.duration));
        return [length ? `${start}/${this.after(start, length)}` : start];
      }),
    );
  }

  /** DTEND as wall-clock time, or what DURATION makes of it: its days on the calendar, its hours on the clock (3.8.2.5). */
  end(): { end: string; duration: string | null; endZone: Zone | null } {
    const start = this.start as ICAL.Time;
    const property = this.component.getFirstProperty('dtend');
    const end = property ? this.timesIn(property)[0] : undefined;
    if (property && end) {
      const zone = end.isDate || !this.zone ? null : this.zoneOf(property, end);
      return {
        end: this.wallIn(property, end),
        duration: null,
        endZone: zone && zone !== 'UTC' && zone !== this.zone ? zone : null,
      };
    }
    const given = this.component.getFirstProperty('duration');
    const value = given ? this.valuesOf(given)[0] : undefined;
    const duration = value instanceof ICAL.Duration ? value.toString() : '';
    const length = readDuration(duration);
    const later = start.clone();
    if (!length) {
      if (start.isDate) later.adjust(1, 0, 0, 0);
      return { end: wallText(later), duration: null, endZone: null };
    }
    if (start.isDate) {
      later.adjust(Math.max(1, length.days), 0, 0, 0);
      return { end: wallText(later), duration: null, endZone: null };
    }
    return { end: this.after(wallText(start), length), duration, endZone: null };
  }

  private after(wall: string, length: { days: number; time: number }): string {
    const zone = this.zone ?? 'UTC';
    return wallOf(endAfter(wall, length, zone), zone);
  }

  private valuesOf(property: ICAL.Property): unknown[] {
    try {
      return property.getValues();
    } catch {
      this.problems.push(`${property.name.toUpperCase()} could not be read.`);
      return [];
    }
  }

  private timesIn(property: ICAL.Property): ICAL.Time[] {
    return this.valuesOf(property).filter((value): value is ICAL.Time => value instanceof ICAL.Time && isTime(value));
  }

  private zoneOf(property: ICAL.Property, time: ICAL.Time): Zone | null {
    const id = property.getFirstParameter('tzid');
    if (!id) return time.zone === ICAL.Timezone.utcTimezone ? 'UTC' : null;
    const found = this.zones.get(id);
    if (found?.problem) this.problems.push(found.problem);
    const zone = found?.zone ?? zoneNamed(id);
    if (!zone)
      this.unplaced ??= `Its time zone “${id.slice(0, 80)}” is not known here and not explained in the invitation; it says ${wallText(time).replace('T', ' ')} there.`;
    return zone;
  }

  /** In wall-clock time of the event's zone: EXDATE and RECURRENCE-ID are often written in UTC. */
  private wallIn(property: ICAL.Property, time: ICAL.Time): string {
    const from = time.isDate ? null : this.zoneOf(property, time);
    if (!from || !this.zone || from === this.zone) return wallText(time);
    return wallOf(instantOf(wallText(time), from), this.zone);
  }
}

/** The instant of a time that is said as one, as DTSTAMP; null for a day, or in a zone that is not known. The parser’s own reckoning has no limit. */
export function instantSaid(property: ICAL.Property, time: ICAL.Time, zones: Zones): number | null {
  if (time.isDate || !isTime(time)) return null;
  const id = property.getFirstParameter('tzid');
  const zone = id ? (zones.get(id)?.zone ?? zoneNamed(id)) : 'UTC';
  return zone ? instantOf(wallText(time), zone) + time.second * 1000 : null;
}

/** The parser keeps a 13th month and a 32nd day; no calendar has them. */
const isTime = ({ year, month, day }: ICAL.Time) =>
  year > 0 && year <= 9999 && new Date(Date.UTC(year, month - 1, day)).getUTCDate() === day && month >= 1 && month <= 12;
