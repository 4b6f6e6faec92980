import ICAL from 'ical.js';
import { Steps, readRule, walk, type ClockChange, type Rule } from '@corvun/core';

/** How the clock of a VTIMEZONE changes (RFC 5545, 3.6.5); instants in milliseconds, offsets in minutes east of UTC. */
export interface Clock {
  before: number;
  changes: ClockChange[];
  /** It changes by a rule without an end: `changes` holds those until `LAST`. */
  endless: boolean;
  /** Why not all of its rules count; empty where they do. */
  problem: string;
}

const MINUTE = 60_000;
/** What is said of earlier is where a clock begins: many writers let it begin on the first day of 1601 or 1970. */
const FIRST = Date.UTC(1970, 0, 3);
/** Changes of endless rules are counted out until then. */
export const LAST = Date.UTC(2051, 0, 1);
/** Minutes from UTC that a clock can be: no place has been further. */
const MOST_AHEAD = 18 * 60;
/** Observances of one zone: the whole history of any has fewer. */
const MOST_OBSERVANCES = 300;
const MOST_CHANGES = 2000;
/** A year is looked at day by day: enough for ten rules over all years. */
export const ZONE_STEPS = 300_000;
/** A clock does not change by the hour, whatever a file says. */
const TOO_FINE = new Set(['SECONDLY', 'MINUTELY', 'HOURLY']);

interface Observance {
  start: number;
  from: number;
  to: number;
  rule: Rule | null;
  dates: number[];
}

/** The changes of a zone's clock, in counted steps. Null where nothing in it says an offset. @param steps what is left of them */
export function clockOf(component: ICAL.Component, steps = new Steps(ZONE_STEPS)): Clock | null {
  const problems = new Set<string>();
  const observances = ['standard', 'daylight']
    .flatMap((name) => component.getAllSubcomponents(name))
    .slice(0, MOST_OBSERVANCES)
    .flatMap((one) => observanceOf(one, problems) ?? [])
    .sort((a, b) => a.start - a.from * MINUTE - (b.start - b.from * MINUTE));
  const [first] = observances;
  if (!first) return null;
  const found = new Map<number, number>();
  for (const one of observances)
    for (const wall of onsetsOf(one, steps)) {
      if (found.size >= MOST_CHANGES) break;
      found.set(wall - one.from * MINUTE, one.to);
    }
  if (found.size >= MOST_CHANGES || steps.left < 0) problems.add('Its clock changes too often.');
  const all = [...found].map(([at, to]) => ({ at, to })).sort((a, b) => a.at - b.at);
  const changes = all.filter(({ at }) => at >= FIRST && at <= LAST);
  const before = all.filter(({ at }) => at < FIRST).at(-1)?.to ?? first.from;
  const endless = observances.some(({ rule }) => rule !== null && rule.until === null && rule.count === null);
  return { before, changes, endless, problem: [...problems].join(' ') };
}

function observanceOf(component: ICAL.Component, problems: Set<string>): Observance | null {
  const start = wallsOf(component, 'dtstart')[0];
  const [from, to] = [minutesOf(component, 'tzoffsetfrom'), minutesOf(component, 'tzoffsetto')];
  if (start === undefined || (from === null && to === null)) return null;
  const offset = to ?? from ?? 0;
  if ([offset, from ?? offset].some((one) => Math.abs(one) > MOST_AHEAD)) {
    problems.add('It says an offset that no place has.');
    return null;
  }
  return {
    start,
    from: from ?? offset,
    to: offset,
    rule: ruleOf(component, problems),
    dates: wallsOf(component, 'rdate').slice(0, MOST_CHANGES),
  };
}

function ruleOf(component: ICAL.Component, problems: Set<string>): Rule | null {
  try {
    const text = String(component.getFirstPropertyValue('rrule') ?? '');
    if (!text) return null;
    const rule = readRule(text);
    if (!TOO_FINE.has(rule.freq)) return rule;
    problems.add('Its clock is said to change by the hour or oftener, which no clock does.');
  } catch {
    problems.add('A rule of its clock cannot be read.');
  }
  return null;
}

/** Wall-clock times at which an observance begins. */
function* onsetsOf({ start, from, rule, dates }: Observance, steps: Steps): Generator<number> {
  yield start;
  yield* dates;
  if (!rule) return;
  const near = rule.count === null ? Math.max(start, FIRST) : start;
  let left = (rule.count ?? Infinity) - 1;
  for (const wall of walk(rule, start, near, steps, LAST)) {
    if (wall === start) continue;
    if (left <= 0 || wall > LAST || isAfter(wall, from, rule.until)) return;
    left -= 1;
    yield wall;
  }
}

/** UNTIL is in UTC here (3.3.10); some writers give a local time or a day all the same. */
function isAfter(wall: number, from: number, until: string | null): boolean {
  if (until === null) return false;
  const [year = 0, month = 0, day = 0, hour = 0, minute = 0, second = 0] = [
    until.slice(0, 4),
    ...[4, 6, 9, 11, 13].map((at) => until.slice(at, at + 2)),
  ].map(Number);
  if (until.length === 8) return wall >= Date.UTC(year, month - 1, day + 1);
  const end = Date.UTC(year, month - 1, day, hour, minute, second);
  return (until.endsWith('Z') ? wall - from * MINUTE : wall) > end;
}

function wallsOf(component: ICAL.Component, name: string): number[] {
  return component.getAllProperties(name).flatMap((property) => {
    try {
      return property.getValues().flatMap((value: unknown) => {
        const time = value instanceof ICAL.Period ? value.start : value;
        return time instanceof ICAL.Time
          ? [Date.UTC(time.year, time.month - 1, time.day, time.hour, time.minute, time.second)]
          : [];
      });
    } catch {
      return [];
    }
  });
}

function minutesOf(component: ICAL.Component, name: string): number | null {
  try {
    const value = component.getFirstPropertyValue(name);
    return value instanceof ICAL.UtcOffset ? Math.round(value.toSeconds() / 60) : null;
  } catch {
    return null;
  }
}
