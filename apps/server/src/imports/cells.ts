import { isDay, parseLine, type Priority } from '@corvun/core';
import type { User } from '../accounts/user.entity';

/** A day written as ISO 8601, as 31.12.2026, or in words. */
export function dayIn(text: string, { user, now }: { user: User; now: number }): string | null {
  if (!text) return null;
  if (isDay(text.slice(0, 10))) return text.slice(0, 10);
  const german = /^(\d{1,2})\.(\d{1,2})\.(\d{4})$/.exec(text);
  const iso = german ? `${german[3]}-${german[2]?.padStart(2, '0')}-${german[1]?.padStart(2, '0')}` : '';
  if (isDay(iso)) return iso;
  return parseLine(`x ${text}`, { now, zone: user.zone, lists: [], people: [] }).date;
}

/** Minutes written as 90, 1:30 or 1.5 h. */
export function minutesIn(text: string): number | null {
  const hours = /^(\d+(?:[.,]\d+)?)\s*h/i.exec(text);
  const clock = /^(\d+):(\d{2})$/.exec(text);
  const minutes = hours
    ? Number(hours[1]?.replace(',', '.')) * 60
    : clock
      ? Number(clock[1]) * 60 + Number(clock[2])
      : parseInt(text, 10);
  return Number.isFinite(minutes) && minutes > 0 && minutes <= 6000 ? Math.round(minutes) : null;
}

/** A priority in words, letters, or as iCalendar numbers it. */
export function priorityIn(text: string): Priority {
  if (/^(?:high|hoch|1|2|3|4|a)$/i.test(text)) return 'high';
  return /^(?:low|niedrig|[6-9]|c)$/i.test(text) ? 'low' : 'normal';
}
