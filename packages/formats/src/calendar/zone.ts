import ICAL from 'ical.js';
import { isZone, listedName, offsetAt, posixName, wallOf, type Steps, type Zone } from '@corvun/core';
import { findIana } from 'windows-iana';
import { clockOf, type Clock } from './observances';

/** Noon of each month of the years that are looked at, and of each day: rules that differ by a week are not the same. */
const monthly = Array.from({ length: 48 }, (_, month) => Date.UTC(2024 + Math.floor(month / 12), month % 12, 3, 12));
const daily = Array.from({ length: 4 * 365 }, (_, day) => Date.UTC(2024, 0, 1, 12) + day * 86_400_000);

/** A zone as a calendar file names or defines it. */
export interface FoundZone {
  zone: Zone;
  /** A sentence, where the file's rules could be kept for single dates only. */
  problem: string;
}

/** The zones that a calendar defines, by the names it uses. */
export type Zones = ReadonlyMap<string, FoundZone>;

const known = new Map<string, FoundZone>();

/**
 * The zone for one defined inside a calendar file: its name where that is known; else a zone whose offsets always agree,
 * the reader's own first; else the rules of the file, or its changes one by one. The reader's zone is never taken for another.
 * @param steps what is left of them for the whole calendar
 */
export function resolveZone(id: string, component: ICAL.Component, reader: Zone, steps?: Steps): FoundZone {
  const location = component.getFirstPropertyValue('x-lic-location');
  const named = zoneNamed(id) ?? (typeof location === 'string' ? zoneNamed(location) : null);
  if (named) return { zone: named, problem: '' };
  const key = `${reader}\n${component.toString()}`;
  const found = known.get(key) ?? byRules(id, component, reader, steps);
  if (known.size > 500) known.clear();
  known.set(key, found);
  return found;
}

/** The IANA zone of a name: itself, a Windows name (Unicode CLDR, windowsZones), or the end of a path; null when unknown. */
export function zoneNamed(name: string): Zone | null {
  const plain = name.trim().replace(/^["']|["']$/g, '');
  // Only names of places: "+02:00" and the like are read by their offset.
  if (/^[A-Za-z]/.test(plain) && isZone(plain)) return plain;
  const windows = findIana(plain)[0];
  if (windows && isZone(windows)) return windows;
  const offset = /^(?:UTC|GMT)?\s*([+-])(\d{1,2}):?(\d{2})?$/i.exec(plain);
  if (offset) return posixName((offset[1] === '-' ? -1 : 1) * (Number(offset[2]) * 60 + Number(offset[3] ?? 0)));
  const parts = plain.split('/').filter(Boolean);
  for (const count of [3, 2]) {
    const tail = parts.slice(-count).join('/');
    if (parts.length >= count && tail !== plain && /^[A-Z]/.test(tail) && isZone(tail)) return tail;
  }
  return null;
}

function byRules(id: string, component: ICAL.Component, reader: Zone, steps?: Steps): FoundZone {
  const clock = clockOf(component, steps);
  if (!clock) return { zone: posixName(0), problem: `The zone “${id.slice(0, 80)}” does not say how far it is from UTC.` };
  const said = clock.problem && `The zone “${id.slice(0, 80)}” is only kept in part. ${clock.problem}`;
  const regular = clock.endless || clock.changes.every(({ to }) => to === clock.before);
  const zone = regular ? (alwaysLike(clock, reader) ?? posixOf(component)) : likeWhere(clock, reader);
  return { zone: zone ?? listedName(clock), problem: said };
}

/** A zone that agrees through all the years that are looked at: what changes by rules without an end does so in them. */
function alwaysLike(clock: Clock, reader: Zone): Zone | null {
  const [coarse, fine] = [monthly, daily].map((all) => all.map((instant) => offsetAt(clock, instant)).join());
  return candidates(reader).find((one) => monthlyOf(one) === coarse && offsetsOf(one, daily) === fine) ?? null;
}

/** A zone that agrees before, at and between all the changes that are listed. */
function likeWhere(clock: Clock, reader: Zone): Zone | null {
  const instants = clock.changes.flatMap(({ at }, index) => {
    const next = clock.changes[index + 1]?.at ?? at + 3600_000;
    return [at - 60_000, at, (at + next) / 2];
  });
  // Nearly all zones differ at one of the first.
  return (
    candidates(reader).find((one) => instants.every((instant) => offsetIn(one, instant) === offsetAt(clock, instant))) ?? null
  );
}

const candidates = (reader: Zone): Zone[] => [reader, 'UTC', ...Intl.supportedValuesOf('timeZone')];
const offsetsOf = (zone: Zone, instants: readonly number[]): string => instants.map((instant) => offsetIn(zone, instant)).join();

const months = new Map<Zone, string>();
function monthlyOf(zone: Zone): string {
  let found = months.get(zone);
  if (found === undefined) months.set(zone, (found = offsetsOf(zone, monthly)));
  return found;
}

/** The rules of a VTIMEZONE as POSIX TZ: an offset, or two with the yearly dates of their changes; null for any others. */
function posixOf(component: ICAL.Component): Zone | null {
  try {
    return posixIn(component);
  } catch {
    // The parser refuses a value only when it is asked for.
    return null;
  }
}

function posixIn(component: ICAL.Component): Zone | null {
  const standard = latest(component, 'standard');
  const daylight = latest(component, 'daylight');
  const only = standard ?? daylight;
  if (!only) return null;
  if (!standard || !daylight) return posixName(offsetTo(only));
  const [from, until] = [changeOf(daylight), changeOf(standard)];
  return from && until ? `${posixName(offsetTo(standard))}${posixName(offsetTo(daylight))},${from},${until}` : null;
}

function latest(component: ICAL.Component, name: string): ICAL.Component | null {
  const start = (one: ICAL.Component) => String(one.getFirstPropertyValue('dtstart') ?? '');
  return (
    component
      .getAllSubcomponents(name)
      .sort((a, b) => start(a).localeCompare(start(b)))
      .at(-1) ?? null
  );
}

function offsetTo(component: ICAL.Component): number {
  const value = component.getFirstPropertyValue('tzoffsetto');
  return value instanceof ICAL.UtcOffset ? Math.round(value.toSeconds() / 60) : 0;
}

/** `Mm.n.d/time` of a yearly rule such as `FREQ=YEARLY;BYMONTH=3;BYDAY=2SU`; null for one that is written otherwise or has ended. */
function changeOf(component: ICAL.Component): string | null {
  const rule = component.getFirstPropertyValue('rrule');
  const start = component.getFirstPropertyValue('dtstart');
  if (!(rule instanceof ICAL.Recur) || !(start instanceof ICAL.Time) || rule.freq !== 'YEARLY' || rule.until || rule.count)
    return null;
  const parts = rule.parts as Record<string, (string | number)[] | undefined>;
  const month = Number(parts['BYMONTH']?.[0] ?? start.month);
  const day = /^([+-]?\d)?(SU|MO|TU|WE|TH|FR|SA)$/.exec(String(parts['BYDAY']?.[0] ?? ''));
  if (!day || (parts['BYDAY']?.length ?? 0) > 1 || (rule.interval ?? 1) !== 1) return null;
  const from = Number(parts['BYMONTHDAY']?.[0] ?? NaN);
  const nth = day[1] ? Number(day[1]) : [1, 8, 15, 22].indexOf(from) + 1;
  if (nth === 0 || nth < -1 || nth > 5) return null;
  const weekday = ['SU', 'MO', 'TU', 'WE', 'TH', 'FR', 'SA'].indexOf(day[2] ?? '');
  const minutes = start.minute ? `:${String(start.minute).padStart(2, '0')}` : '';
  return `M${month}.${nth === -1 ? 5 : nth}.${weekday}/${start.hour}${minutes}`;
}

function offsetIn(zone: Zone, instant: number): number {
  return Math.round((Date.parse(`${wallOf(instant, zone)}Z`) - instant) / 60_000);
}
