import type { Concentration } from '../settings/settings';
import type { Priority } from '../capture/draft';
import { sayMinutes, sayMoment } from '../text/say';
import { daysBetween, weekOf, type Day } from '../time/zones';
import type { PlanningRules } from './stretch';

/** An open task as one looks for what fits. */
export interface Fitting {
  id: string;
  title: string;
  /** Minutes that are still to be done. */
  minutes: number;
  priority: Priority;
  concentration: Concentration;
  deadline: string | null;
  plannedDay: Day | null;
  plannedWeek: string | null;
  notBefore: Day | null;
  /** Whether it was begun already. */
  begun: boolean;
}

/** The time there is. */
export interface Moment {
  minutes: number;
  today: Day;
  /** Whether it lies in hours for deep work. */
  deep: boolean;
  parts: PlanningRules['parts'];
  /** Ids of tasks whose deadline is in danger. */
  atRisk: ReadonlySet<string>;
}

/** A task that fits. */
export interface Fit {
  id: string;
  /** Of the time there is. */
  minutes: number;
  /** Whether it is only a part of it. */
  part: boolean;
  /** Why it stands where it stands, the weightiest first. */
  reasons: string[];
}

/** What speaks for doing something now. */
const POINTS = { atRisk: 60, begun: 12, today: 24, week: 8, full: 10, part: -8, kind: 8, wrongKind: -14 };
const PRIORITY: Record<Priority, number> = { high: 18, normal: 6, low: 0 };
/** Days in which a deadline counts. */
const NEAR = 14;
/** Deep work needs so many minutes to be worth beginning. */
const DEEP = 40;

/**
 * What can be done in so many minutes, the best first: what would be late otherwise, what is planned for now, what matters,
 * what fills the time and suits the hour. Long work counts where a part of it fits.
 */
export function whatFits(tasks: readonly Fitting[], moment: Moment): Fit[] {
  return tasks
    .flatMap((task) => {
      const fit = fitOf(task, moment);
      return fit ? [{ ...fit, task }] : [];
    })
    .sort((a, b) => b.points - a.points || b.minutes - a.minutes || (a.task.id < b.task.id ? -1 : 1))
    .map(({ task, minutes, part, said }) => ({ id: task.id, minutes, part, reasons: said }));
}

function fitOf(task: Fitting, { minutes, today, deep, parts, atRisk }: Moment) {
  if (task.notBefore !== null && task.notBefore > today) return null;
  const part = task.minutes > minutes;
  if (part && (task.minutes < parts.from || minutes < parts.least)) return null;
  const said: string[] = [];
  let points = PRIORITY[task.priority] + (part ? POINTS.part : 0);
  const counts = (by: number, words = '') => {
    points += by;
    if (words) said.push(words);
  };
  if (atRisk.has(task.id)) counts(POINTS.atRisk, 'late otherwise');
  if (task.deadline) {
    const left = daysBetween(today, task.deadline.slice(0, 10));
    if (left <= NEAR) counts(2 * (NEAR - Math.max(left, -2)), `due ${sayMoment(task.deadline, today)}`);
  }
  if (task.begun) counts(POINTS.begun, 'begun already');
  if (task.plannedDay !== null && task.plannedDay <= today)
    counts(POINTS.today, task.plannedDay === today ? 'planned for today' : 'still open');
  else if (task.plannedWeek !== null && task.plannedWeek <= weekOf(today)) counts(POINTS.week, 'for this week');
  if (task.priority === 'high') said.push('high');
  const own = Math.min(task.minutes, minutes);
  counts((POINTS.full * own) / minutes, part ? `a part of ${sayMinutes(task.minutes)}` : '');
  if (task.concentration === 'deep' && minutes < DEEP) counts(POINTS.wrongKind);
  else if (task.concentration === 'deep' && deep) counts(POINTS.kind, 'deep work, and now is the hour for it');
  else if (task.concentration === 'light' && !deep) counts(POINTS.kind, 'light work');
  return { minutes: own, part, points, said };
}
