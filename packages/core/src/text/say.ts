import { wallOf, type Day, type Instant, type Zone } from '../time/zones';
import { manner } from './manner';

const FORMAT = new Intl.DateTimeFormat('en-US', { weekday: 'short', day: 'numeric', month: 'short', timeZone: 'UTC' });
const named = new Map<Day, { weekday: string; month: string; date: string }>();
/** Days of which the names are kept at hand. */
const MOST_NAMED = 4000;

/** Minutes as a reader says them: `45 min`, `1 h`, `1 h 30`. */
export function sayMinutes(minutes: number): string {
  const whole = Math.round(minutes);
  if (whole < 60) return `${whole} min`;
  const rest = whole % 60;
  return rest ? `${Math.floor(whole / 60)} h ${String(rest).padStart(2, '0')}` : `${whole / 60} h`;
}

/** A day as `Tue 4 Aug`, or in the order the reader chose, with the year only where it differs from that of `today`. */
export function sayDay(day: Day, today: Day): string {
  const { dates } = manner();
  const { weekday, month, date } = namesOf(day);
  if (dates === 'numbers') return `${weekday} ${day}`;
  const year = day.slice(0, 4);
  const other = year === today.slice(0, 4) ? '' : year;
  if (dates === 'month-day') return `${weekday} ${month} ${date}${other && `, ${other}`}`;
  return `${weekday} ${date} ${month}${other && ` ${other}`}`;
}

function namesOf(day: Day) {
  const known = named.get(day);
  if (known) return known;
  const instant = Date.parse(`${day}T00:00Z`);
  const parts = new Map(Number.isNaN(instant) ? [] : FORMAT.formatToParts(instant).map(({ type, value }) => [type, value]));
  const names = { weekday: parts.get('weekday') ?? '', month: parts.get('month') ?? '', date: parts.get('day') ?? '' };
  if (named.size >= MOST_NAMED) named.clear();
  named.set(day, names);
  return names;
}

/** A clock time, `9:00`, or `9:00 am` where the reader chose twelve hours. */
export const sayTime = (instant: Instant, zone: Zone): string => sayClock(wallOf(instant, zone).slice(11));

/** From one clock time to another, `9:00 – 11:30`; what halves of the day have in common is said once. */
export function saySpan(start: Instant, end: Instant, zone: Zone): string {
  const [from, to] = [sayTime(start, zone), sayTime(end, zone)];
  return `${from.slice(-3) === to.slice(-3) && / [ap]m$/.test(to) ? from.slice(0, -3) : from} – ${to}`;
}

/** @param time `HH:MM`, with whatever follows cut off */
export function sayClock(time: string): string {
  const hour = Number(time.slice(0, 2));
  const minutes = time.slice(3, 5);
  return manner().clock === 12 ? `${hour % 12 || 12}:${minutes} ${hour % 24 < 12 ? 'am' : 'pm'}` : `${hour}:${minutes}`;
}

/** A day or a wall-clock time of a deadline or a reminder: `Fri 14 Aug`, `Fri 14 Aug 12:00`. */
export const sayMoment = (moment: string, today: Day): string =>
  `${sayDay(moment.slice(0, 10), today)}${moment.length > 10 ? ` ${sayClock(moment.slice(11))}` : ''}`;

/** A whole hour down the side of a day: `14`, or `2 pm`. */
export const sayHour = (hour: number): string =>
  manner().clock === 12 ? `${hour % 12 || 12} ${hour % 24 < 12 ? 'am' : 'pm'}` : `${hour}`;

/** How long ago, in one unit: `just now`, `12 min`, `3 h`, `2 d`, `5 wk`. */
export function sayAge(then: Instant, now: Instant): string {
  const minutes = Math.max(0, Math.floor((now - then) / 60_000));
  if (minutes < 1) return 'just now';
  if (minutes < 60) return `${minutes} min`;
  if (minutes < 24 * 60) return `${Math.floor(minutes / 60)} h`;
  if (minutes < 21 * 24 * 60) return `${Math.floor(minutes / 1440)} d`;
  return `${Math.floor(minutes / 10080)} wk`;
}

/** A size in bytes as `84 kB`. */
export function saySize(bytes: number): string {
  if (bytes < 1000) return `${bytes} B`;
  if (bytes < 1_000_000) return `${Math.round(bytes / 1000)} kB`;
  return `${(bytes / 1_000_000).toFixed(1)} MB`;
}

/** A number with its noun: `1 ask`, `3 asks`. */
export function count(number: number, noun: string, plural = `${noun}s`): string {
  return `${number} ${number === 1 ? noun : plural}`;
}
