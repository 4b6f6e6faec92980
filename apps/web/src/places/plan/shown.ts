import type { Settings } from '@corvun/core';
import { addDays, daysFrom, firstShown, weekBegin, weekdayOf } from '@corvun/core';

export type View = 'grid' | 'weeks' | 'spread';

/** The days a view shows, and the stretch they are asked for in. */
export interface Shown {
  first: string;
  span: number;
  days: string[];
  /** By how many days one goes on. */
  step: number;
}

type Working = Pick<Settings, 'weekStart' | 'hours'>;

/** Whether a day has no working hours in any week; where none are set it is Saturday and Sunday. */
export function isWeekend(day: string, { hours }: Pick<Working, 'hours'>): boolean {
  const works = (weekday: number) => (hours[weekday] ?? []).length > 0;
  const weekday = weekdayOf(day);
  return [1, 2, 3, 4, 5, 6, 7].some(works) ? !works(weekday) : weekday > 5;
}

/** @param count days of the time grid */
export function shownDays(anchor: string, view: View, count: number, weekends: boolean, settings: Working): Shown {
  const kept = (day: string) => weekends || !isWeekend(day, settings);
  if (view !== 'grid') {
    const first = weekBegin(anchor, settings.weekStart);
    const span = view === 'weeks' ? 28 : 7;
    return { first, span, days: daysFrom(first, span).filter(kept), step: 7 };
  }
  const first = firstShown(anchor, count, settings);
  if (count === 1) return { first, span: 1, days: [first], step: 1 };
  if (count === 7) return { first, span: 7, days: daysFrom(first, 7).filter(kept), step: 7 };
  const days: string[] = [];
  let day = first;
  for (; days.length < count; day = addDays(day, 1)) if (kept(day)) days.push(day);
  const span = days.length ? daysFrom(first, 400).indexOf(days.at(-1) ?? first) + 1 : count;
  return { first, span, days, step: count === 5 ? 7 : span };
}
