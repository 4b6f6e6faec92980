import { wallOf, weekdayOf, type Day, type Instant, type Zone } from '../time/zones';

const WEEKDAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];
const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];

/** Minutes as a reader says them: `45 min`, `1 h`, `1 h 30`. */
export function sayMinutes(minutes: number): string {
  const whole = Math.round(minutes);
  if (whole < 60) return `${whole} min`;
  const rest = whole % 60;
  return rest ? `${Math.floor(whole / 60)} h ${String(rest).padStart(2, '0')}` : `${whole / 60} h`;
}

/** A day as `Tue 4 Aug`, with the year only where it differs from that of `today`. */
export function sayDay(day: Day, today: Day): string {
  const year = day.slice(0, 4);
  const named = `${WEEKDAYS[weekdayOf(day) - 1] ?? ''} ${Number(day.slice(8, 10))} ${MONTHS[Number(day.slice(5, 7)) - 1] ?? ''}`;
  return year === today.slice(0, 4) ? named : `${named} ${year}`;
}

/** A clock time, `9:00`. */
export function sayTime(instant: Instant, zone: Zone): string {
  return wallOf(instant, zone).slice(11).replace(/^0/, '');
}

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
