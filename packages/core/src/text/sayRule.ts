import { isRule } from '../calendar/rule';
import { sayDay } from './say';
import type { Day } from '../time/zones';

const DAYS: Record<string, string> = { MO: 'Mon', TU: 'Tue', WE: 'Wed', TH: 'Thu', FR: 'Fri', SA: 'Sat', SU: 'Sun' };
const UNITS: Record<string, string> = { DAILY: 'day', WEEKLY: 'week', MONTHLY: 'month', YEARLY: 'year' };
const NTH: Record<string, string> = { '1': 'first', '2': 'second', '3': 'third', '4': 'fourth', '-1': 'last' };
const KNOWN = new Set(['FREQ', 'INTERVAL', 'BYDAY', 'BYMONTHDAY', 'BYSETPOS', 'COUNT', 'UNTIL', 'WKST']);

const ordinal = (day: number): string => {
  const last = day % 10;
  const ending = Math.floor(day / 10) === 1 ? 'th' : ({ 1: 'st', 2: 'nd', 3: 'rd' }[last] ?? 'th');
  return `${day}${ending}`;
};

const listed = (words: readonly string[]): string =>
  words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`;

/**
 * A repeat rule in words that the capture line reads back: `every Mon and Thu`, `every 2 weeks on Fri`, `every last Fri of
 * the month`. A rule that has no such words is given as it is.
 * @param rule RRULE without its prefix (RFC 5545, 3.3.10)
 * @param today the year is said only where it is another
 */
export function sayRule(rule: string, today: Day): string {
  const parts = new Map(
    rule
      .toUpperCase()
      .split(';')
      .map((part) => part.split('=') as [string, string]),
  );
  const unit = UNITS[parts.get('FREQ') ?? ''];
  if (!unit || !isRule(rule) || [...parts.keys()].some((name) => !KNOWN.has(name))) return `by the rule ${rule}`;
  const said = repeated(unit, Number(parts.get('INTERVAL') ?? 1), parts);
  return said === null ? `by the rule ${rule}` : `${said}${ending(parts, today)}`;
}

function repeated(unit: string, interval: number, parts: ReadonlyMap<string, string>): string | null {
  const days = parts.get('BYDAY')?.split(',') ?? [];
  const monthDays = parts.get('BYMONTHDAY')?.split(',') ?? [];
  const plain = interval === 1 ? `every ${unit}` : `every ${interval} ${unit}s`;
  if (!days.length && !monthDays.length) return parts.has('BYSETPOS') ? null : plain;
  if (unit === 'week' && !monthDays.length && !parts.has('BYSETPOS')) return weekly(plain, interval, days);
  if (unit !== 'month' || interval !== 1) return null;
  if (monthDays.length === 1 && !days.length && !parts.has('BYSETPOS')) {
    const day = Number(monthDays[0]);
    return day === -1 ? 'every last day of the month' : day > 0 ? `every ${ordinal(day)} of the month` : null;
  }
  if (days.length !== 1 || monthDays.length) return null;
  const match = /^([+-]?\d)?([A-Z]{2})$/.exec(days[0] ?? '');
  const nth = NTH[parts.get('BYSETPOS') ?? match?.[1]?.replace('+', '') ?? ''];
  const day = DAYS[match?.[2] ?? ''];
  return nth && day && !(parts.has('BYSETPOS') && match?.[1]) ? `every ${nth} ${day} of the month` : null;
}

function weekly(plain: string, interval: number, days: readonly string[]): string | null {
  const names = days.map((day) => DAYS[day]);
  if (names.some((name) => name === undefined)) return null;
  const said = listed(names as string[]);
  if (interval > 1) return `${plain} on ${said}`;
  if (days.join() === 'MO,TU,WE,TH,FR') return 'every working day';
  return days.join() === 'SA,SU' ? 'every weekend' : `every ${said}`;
}

function ending(parts: ReadonlyMap<string, string>, today: Day): string {
  const until = /^(\d{4})(\d{2})(\d{2})/.exec(parts.get('UNTIL') ?? '');
  if (until) return `, until ${sayDay(until.slice(1, 4).join('-'), today)}`;
  const times = parts.get('COUNT');
  return times ? `, ${times} times` : '';
}
