import type { Rule } from './rule';

/** Wall-clock time as the milliseconds it would be in UTC: rules are walked without any zone. */
export type WallTime = number;

/** Of a wall-clock time or a day, as it is written. */
export const asWall = (wall: string): WallTime => Date.parse(`${wall.length === 10 ? `${wall}T00:00` : wall}Z`);
export const wallText = (time: WallTime, allDay: boolean): string => new Date(time).toISOString().slice(0, allDay ? 10 : 16);

const SECOND = 1000;
const MINUTE = 60 * SECOND;
const HOUR = 60 * MINUTE;
const DAY = 24 * HOUR;
const LAST_YEAR = 9999;

/** How many steps a walk may take: a period, a day looked at or a time made is one. No clock is asked. */
export class Steps {
  constructor(public left: number) {}

  take(count = 1): boolean {
    this.left -= count;
    return this.left >= 0;
  }
}

/** A day with what rules ask of it. */
interface DayFacts {
  at: WallTime;
  year: number;
  month: number;
  day: number;
  weekday: number;
}

function factsOf(at: WallTime): DayFacts {
  const date = new Date(at);
  return {
    at,
    year: date.getUTCFullYear(),
    month: date.getUTCMonth() + 1,
    day: date.getUTCDate(),
    weekday: ((date.getUTCDay() + 6) % 7) + 1,
  };
}

const yearStart = (year: number) => Date.UTC(year, 0, 1);
const monthStart = (year: number, month: number) => Date.UTC(year, month - 1, 1);
const daysInMonth = ({ year, month }: DayFacts) => (monthStart(year, month + 1) - monthStart(year, month)) / DAY;
const daysInYear = (year: number) => (yearStart(year + 1) - yearStart(year)) / DAY;
const startOfDay = (at: WallTime) => Math.floor(at / DAY) * DAY;

/** First day of the week a day is in. */
const weekStartOf = (at: WallTime, weekStart: number) => startOfDay(at) - ((factsOf(at).weekday - weekStart + 7) % 7) * DAY;

/** First day of week 1 of a year: the week with at least four days of it (RFC 5545, 3.3.10; ISO 8601). */
function firstWeekOf(year: number, weekStart: number): WallTime {
  return weekStartOf(Date.UTC(year, 0, 4), weekStart);
}

/** Number of the week a day is in, and how many weeks that week's year has. */
function weekOf({ at, year }: DayFacts, weekStart: number): { week: number; weeks: number } {
  const own = [year + 1, year, year - 1].find((one) => firstWeekOf(one, weekStart) <= at) ?? year;
  const first = firstWeekOf(own, weekStart);
  return {
    week: Math.floor((at - first) / (7 * DAY)) + 1,
    weeks: Math.round((firstWeekOf(own + 1, weekStart) - first) / (7 * DAY)),
  };
}

const inSigned = (list: readonly number[], number: number, total: number) =>
  list.includes(number) || list.includes(number - total - 1);

/** Which of the same weekdays of its month or year a day is, from the front and from the back. */
function isNth(facts: DayFacts, nth: number, inYear: boolean): boolean {
  const [number, total] = inYear
    ? [(facts.at - yearStart(facts.year)) / DAY, daysInYear(facts.year)]
    : [facts.day - 1, daysInMonth(facts)];
  return nth === (nth > 0 ? Math.floor(number / 7) + 1 : -Math.floor((total - 1 - number) / 7) - 1);
}

/** Whether a day is one the rule means; `rule` already says the days DTSTART stands for. */
function isMeant(rule: Rule, facts: DayFacts): boolean {
  if (rule.byMonth.length && !rule.byMonth.includes(facts.month)) return false;
  if (rule.byMonthDay.length && !inSigned(rule.byMonthDay, facts.day, daysInMonth(facts))) return false;
  if (rule.byYearDay.length) {
    const total = daysInYear(facts.year);
    if (!inSigned(rule.byYearDay, (facts.at - yearStart(facts.year)) / DAY + 1, total)) return false;
  }
  if (rule.byWeekNo.length && rule.freq === 'YEARLY') {
    const { week, weeks } = weekOf(facts, rule.weekStart);
    if (!inSigned(rule.byWeekNo, week, weeks)) return false;
  }
  if (!rule.byDay.length) return true;
  const counts = rule.freq === 'MONTHLY' || (rule.freq === 'YEARLY' && !rule.byWeekNo.length);
  const inYear = rule.freq === 'YEARLY' && !rule.byMonth.length;
  return rule.byDay.some(({ weekday, nth }) => weekday === facts.weekday && (nth === 0 || !counts || isNth(facts, nth, inYear)));
}

/** The rule with the days and times that DTSTART stands for where the rule says none. */
function filledIn(rule: Rule, start: WallTime): Rule {
  const { month, day, weekday } = factsOf(startOfDay(start));
  const date = new Date(start);
  const filled = { ...rule };
  const saysDay = rule.byWeekNo.length || rule.byYearDay.length || rule.byMonthDay.length || rule.byDay.length;
  if (!saysDay && rule.freq === 'YEARLY') {
    if (!rule.byMonth.length) filled.byMonth = [month];
    filled.byMonthDay = [day];
  } else if (!saysDay && rule.freq === 'MONTHLY') filled.byMonthDay = [day];
  else if (!rule.byDay.length && rule.freq === 'WEEKLY') filled.byDay = [{ weekday, nth: 0 }];
  // A week without a day means the weekday it began on.
  if (rule.freq === 'YEARLY' && rule.byWeekNo.length && !rule.byDay.length) filled.byDay = [{ weekday, nth: 0 }];
  const finest = ['SECONDLY', 'MINUTELY', 'HOURLY'].indexOf(rule.freq);
  if (!rule.byHour.length && finest < 0) filled.byHour = [date.getUTCHours()];
  if (!rule.byMinute.length && (finest < 0 || finest === 2)) filled.byMinute = [date.getUTCMinutes()];
  if (!rule.bySecond.length && finest !== 0) filled.bySecond = [date.getUTCSeconds()];
  for (const part of ['byHour', 'byMinute', 'bySecond'] as const) filled[part] = [...filled[part]].sort((a, b) => a - b);
  return filled;
}

/**
 * Dates that a rule gives, in order, from DTSTART on; DTSTART itself only where the rule gives it. COUNT and UNTIL are the
 * caller's. Ends when the steps are used up.
 * @param near where nobody needs what comes before it: the walk begins close to it
 * @param last where nobody needs what comes after it
 */
export function* walk(
  asked: Rule,
  start: WallTime,
  near: WallTime,
  steps: Steps,
  last: WallTime = Infinity,
): Generator<WallTime> {
  const rule = filledIn(asked, start);
  let before = -Infinity;
  for (const period of periodsOf(rule, start, { near, last }, steps)) {
    const times: WallTime[] = [];
    for (const day of period.days) for (const time of timesOn(rule, day, period, steps)) times.push(time);
    for (const time of rule.bySetPos.length ? pick(times, rule.bySetPos) : times) {
      if (time < start || time <= before) continue;
      before = time;
      yield time;
    }
  }
}

/** Positions of a set, counted from the front and from the back, in order. */
function pick(times: readonly WallTime[], positions: readonly number[]): WallTime[] {
  const found = positions.map((position) => times[position > 0 ? position - 1 : times.length + position]);
  return [...new Set(found.filter((time) => time !== undefined))].sort((a, b) => a - b);
}

/** One turn of the frequency: its days that are meant, and for what is finer than a day, its beginning. */
interface Period {
  days: WallTime[];
  at?: WallTime;
}

interface Stretch {
  near: WallTime;
  last: WallTime;
}

function* periodsOf(rule: Rule, start: WallTime, { near, last }: Stretch, steps: Steps): Generator<Period> {
  if (rule.freq === 'HOURLY' || rule.freq === 'MINUTELY' || rule.freq === 'SECONDLY')
    return void (yield* shortPeriods(rule, start, { near, last }, steps));
  const from = Math.max(start, near);
  const { year, month } = factsOf(startOfDay(start));
  const target = factsOf(startOfDay(from));
  const [unit, distance] = {
    YEARLY: [0, target.year - year],
    MONTHLY: [0, (target.year - year) * 12 + target.month - month],
    WEEKLY: [7 * DAY, (startOfDay(from) - weekStartOf(start, rule.weekStart)) / (7 * DAY)],
    DAILY: [DAY, (startOfDay(from) - startOfDay(start)) / DAY],
  }[rule.freq] as [number, number];
  // One turn earlier, for weeks that reach into the year before.
  for (let turn = Math.max(0, Math.floor(distance / rule.interval) - 1); steps.take(); turn += 1) {
    const ahead = turn * rule.interval;
    const [first, count] = daysOf(rule, start, { year, month }, ahead, unit);
    if (Number.isNaN(first) || first > last || new Date(first).getUTCFullYear() > LAST_YEAR || !steps.take(count)) return;
    const days: WallTime[] = [];
    for (let at = 0; at < count; at += 1) if (isMeant(rule, factsOf(first + at * DAY))) days.push(first + at * DAY);
    yield { days };
  }
}

/** First day and number of days of a turn. */
function daysOf(
  rule: Rule,
  start: WallTime,
  { year, month }: { year: number; month: number },
  ahead: number,
  unit: number,
): [WallTime, number] {
  if (rule.freq === 'YEARLY') return [yearStart(year + ahead), daysInYear(year + ahead)];
  if (rule.freq === 'MONTHLY') {
    const first = monthStart(year, month + ahead);
    return [first, daysInMonth(factsOf(first))];
  }
  return rule.freq === 'WEEKLY' ? [weekStartOf(start, rule.weekStart) + ahead * unit, 7] : [startOfDay(start) + ahead * unit, 1];
}

/** Hours, minutes or seconds; days, hours and minutes that are not meant are passed over in one step. */
function* shortPeriods(rule: Rule, start: WallTime, { near, last }: Stretch, steps: Steps): Generator<Period> {
  const size = { HOURLY: HOUR, MINUTELY: MINUTE, SECONDLY: SECOND }[rule.freq as 'HOURLY'];
  const step = size * rule.interval;
  const base = Math.floor(start / size) * size;
  let at = base + Math.max(0, Math.floor((near - base) / step)) * step;
  const onTo = (time: WallTime) => base + Math.max(Math.ceil((time - base) / step), (at - base) / step + 1) * step;
  while (steps.take() && at <= last && at < Date.UTC(LAST_YEAR, 11, 31)) {
    const day = startOfDay(at);
    const date = new Date(at);
    if (!isMeant(rule, factsOf(day))) at = onTo(day + DAY);
    else if (rule.byHour.length && !rule.byHour.includes(date.getUTCHours())) at = onTo(Math.floor(at / HOUR) * HOUR + HOUR);
    else if (size < HOUR && rule.byMinute.length && !rule.byMinute.includes(date.getUTCMinutes()))
      at = onTo(Math.floor(at / MINUTE) * MINUTE + MINUTE);
    else {
      yield { days: [day], at };
      at += step;
    }
  }
}

/** The times of a day, or of the hour, minute or second that a short period is. */
function* timesOn(rule: Rule, day: WallTime, { at }: Period, steps: Steps): Generator<WallTime> {
  const date = new Date(at ?? 0);
  const hours = at === undefined ? rule.byHour : [date.getUTCHours()];
  const minutes = at === undefined || rule.freq === 'HOURLY' ? rule.byMinute : [date.getUTCMinutes()];
  const seconds = at !== undefined && rule.freq === 'SECONDLY' ? secondsOf(rule, date.getUTCSeconds()) : rule.bySecond;
  for (const hour of hours)
    for (const minute of minutes)
      for (const second of seconds) {
        if (!steps.take()) return;
        yield day + hour * HOUR + minute * MINUTE + second * SECOND;
      }
}

const secondsOf = ({ bySecond }: Rule, second: number) => (!bySecond.length || bySecond.includes(second) ? [second] : []);
