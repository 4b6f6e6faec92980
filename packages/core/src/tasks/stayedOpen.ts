import { mondayOf, weekOf, type Day } from '../time/zones';

/**
 * The day before today that a task was for: its own, or the Monday of its week where that is over.
 * @returns null where it was for none
 */
export function dayBefore(
  { plannedDay, plannedWeek }: { plannedDay: Day | null; plannedWeek: string | null },
  today: Day,
): Day | null {
  const day = plannedDay ?? (plannedWeek !== null && plannedWeek < weekOf(today) ? mondayOf(plannedWeek) : null);
  return day !== null && day < today ? day : null;
}
