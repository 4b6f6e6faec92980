import { addDays, daysBetween, instantOf, weekdayOf, type Day, type Zone } from '../time/zones';
import { linesOf, untilInWall, type Recurring } from './recur';
import { WEEKDAYS, readRule, type Rule } from './rule';
import { withParts } from './ending';
import { asWall, wallText, type WallTime } from './walk';

const DAY = 86_400_000;

/** How all dates of a series move: in wall-clock time, from one of its dates to where that is put. */
export interface Shift {
  /** Milliseconds of wall-clock time. */
  by: number;
  /** The date as it was named, and the start it gets. */
  from: string;
  to: string;
}

/** A rule whose dates cannot be moved by moving one of them. */
export class FixedRule extends RangeError {}

/** A name or an extra date of a series, moved: a time, a day, or a PERIOD. */
export function shiftedName(name: string, { by, from, to }: Shift, allDay: boolean): string {
  const [start = '', end] = name.split('/');
  const days = daysBetween(from.slice(0, 10), to.slice(0, 10));
  const move = (wall: string) =>
    wall.length === 10 ? addDays(wall, allDay ? Math.round(by / DAY) : days) : wallText(asWall(wall) + by, false);
  return end ? `${move(start)}/${end.startsWith('P') ? end : move(end)}` : move(start);
}

/**
 * The rules of a series whose dates all move the same way.
 * @throws FixedRule where a rule names days or hours that such a move does not say how to change
 */
export function shiftedRules(series: Recurring, shift: Shift, reader: Zone): { rrule: string | null; exrule: string | null } {
  const all = (rules: string | null | undefined) =>
    linesOf(rules)
      .map((rule) => shiftedRule(rule, series, shift, reader))
      .join('\n') || null;
  return { rrule: all(series.rrule), exrule: all(series.exrule) };
}

function shiftedRule(text: string, series: Recurring, shift: Shift, reader: Zone): string {
  const rule = readRule(text);
  const days = daysBetween(shift.from.slice(0, 10), shift.to.slice(0, 10));
  return withParts(text, {
    ...clockParts(rule, series, shift),
    ...dayParts(rule, shift, days),
    ...untilPart(rule, series, shift, reader),
  });
}

/** BYHOUR and BYMINUTE that only say again when it begins. */
function clockParts(rule: Rule, series: Recurring, { by, to }: Shift): Record<string, string> {
  if (series.allDay || by % DAY === 0 || (!rule.byHour.length && !rule.byMinute.length)) return {};
  if (rule.byHour.length > 1 || rule.byMinute.length > 1 || rule.freq === 'HOURLY')
    throw new FixedRule('It repeats at several times of the day; change how it repeats instead of moving it.');
  return {
    ...(rule.byHour.length ? { BYHOUR: String(Number(to.slice(11, 13))) } : {}),
    ...(rule.byMinute.length ? { BYMINUTE: String(Number(to.slice(14, 16))) } : {}),
  };
}

function dayParts(rule: Rule, { to }: Shift, days: number): Record<string, string> {
  if (days === 0) return {};
  const day = to.slice(0, 10);
  const fixed = new FixedRule('Its rule names its days in a way that moving one date cannot change; change how it repeats.');
  if (rule.byYearDay.length || rule.byWeekNo.length || rule.bySetPos.length) throw fixed;
  if (rule.freq === 'DAILY' || rule.freq === 'WEEKLY') {
    if (rule.byMonth.length || rule.byMonthDay.length) throw fixed;
    if (!rule.byDay.length) return {};
    // The week begins as many days later, so that every second week stays the same one.
    const turned = (weekday: number) => WEEKDAYS[(((weekday - 1 + days) % 7) + 7) % 7] ?? 'MO';
    return {
      BYDAY: rule.byDay.map(({ weekday }) => turned(weekday)).join(','),
      ...(rule.interval > 1 ? { WKST: turned(rule.weekStart) } : {}),
    };
  }
  if (rule.freq !== 'MONTHLY' && rule.freq !== 'YEARLY') return {};
  if (rule.byDay.length + rule.byMonthDay.length > 1 || rule.byMonth.length > 1) throw fixed;
  const [named] = rule.byDay;
  if (named && (!named.nth || (rule.freq === 'YEARLY' && !rule.byMonth.length))) throw fixed;
  return {
    ...(named ? { BYDAY: nthWeekday(day, named.nth) } : {}),
    ...(rule.byMonthDay.length ? { BYMONTHDAY: String(Number(day.slice(8))) } : {}),
    ...(rule.byMonth.length ? { BYMONTH: String(Number(day.slice(5, 7))) } : {}),
  };
}

/** `2TU` for the second Tuesday of its month, `-1TU` for the last where the rule counted from the back. */
function nthWeekday(day: Day, counted: number): string {
  const last = addDays(day, 7).slice(5, 7) !== day.slice(5, 7);
  const nth = counted < 0 && last ? -1 : Math.ceil(Number(day.slice(8)) / 7);
  return `${nth}${WEEKDAYS[weekdayOf(day) - 1] ?? ''}`;
}

function untilPart(rule: Rule, series: Recurring, { by }: Shift, reader: Zone): Record<string, string> {
  if (rule.until === null) return {};
  const zone = series.zone ?? reader;
  const last: WallTime = untilInWall(rule.until, series.allDay, zone) + by;
  if (!Number.isFinite(last)) return {};
  if (series.allDay) return { UNTIL: wallText(last, true).replaceAll('-', '') };
  const utc = new Date(instantOf(wallText(last, false), zone) + (last % 60_000)).toISOString();
  return { UNTIL: utc.replace(/[-:]|\.\d{3}/g, '') };
}

/** From one date of a series to where it is put. @param to wall-clock time in the series' zone, or a day */
export function shiftTo(from: string, to: string): Shift {
  const full = from.length === 10 && to.length > 10 ? `${from}${to.slice(10)}` : from;
  return { by: asWall(to) - asWall(full), from: full, to };
}
