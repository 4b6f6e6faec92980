import type { DayInfo } from '@corvun/contract';

const STRIP_DAYS = 5;

/** The days the strip shows: today, and the next with working time or something on them. */
export function stripDays(days: DayInfo[], today: string): DayInfo[] {
  const worth = days.filter(
    (day) => day.day === today || day.working.length > 0 || day.entries.some((entry) => entry.kind !== 'task' && !entry.allDay),
  );
  return worth.slice(0, STRIP_DAYS);
}
