import type { Concentration } from '../settings/settings';
import type { Priority } from '../capture/draft';
import { sayMinutes, sayMoment } from '../text/say';
import { daysBetween, weekOf, type Day } from '../time/zones';
import type { PlanningRules } from './stretch';

/** An open task as one looks for what fits. */
export interface Fitting {
  id: string;
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
 * @param most how many of them are told
 */
export function whatFits(tasks: readonly Fitting[], moment: Moment, most = Infinity): Fit[] {
  const week = weekOf(moment.today);
  const best: Weighed[] = [];
  // There may be tens of thousands, of which a few are told: only those are put in order, and only theirs are the words.
  for (const task of tasks) {
    const points = weigh(task, moment, week, null);
    if (points === null) continue;
    const one = { task, points, minutes: Math.min(task.minutes, moment.minutes) };
    const worst = best.at(-1);
    if (best.length >= most && worst && inOrder(worst, one) < 0) continue;
    best.push(one);
    if (most === Infinity) continue;
    best.sort(inOrder);
    if (best.length > most) best.pop();
  }
  return best.sort(inOrder).map(({ task, minutes }) => {
    const reasons: string[] = [];
    weigh(task, moment, week, (words) => reasons.push(words));
    return { id: task.id, minutes, part: task.minutes > moment.minutes, reasons };
  });
}

/** A task that fits, and what speaks for it. */
interface Weighed {
  task: Fitting;
  points: number;
  minutes: number;
}

const inOrder = (a: Weighed, b: Weighed): number =>
  b.points - a.points || b.minutes - a.minutes || (a.task.id < b.task.id ? -1 : 1);

/**
 * What speaks for a task now; null: it does not fit.
 * @param say is told why, the weightiest first
 */
function weigh(task: Fitting, moment: Moment, week: string, say: ((words: string) => void) | null): number | null {
  const { minutes, today, deep, parts, atRisk } = moment;
  if (task.notBefore !== null && task.notBefore > today) return null;
  const part = task.minutes > minutes;
  if (part && (task.minutes < parts.from || minutes < parts.least)) return null;
  let points = PRIORITY[task.priority] + (part ? POINTS.part : 0);
  if (atRisk.has(task.id)) {
    points += POINTS.atRisk;
    say?.('late otherwise');
  }
  if (task.deadline) {
    const left = daysBetween(today, task.deadline.slice(0, 10));
    if (left <= NEAR) {
      points += 2 * (NEAR - Math.max(left, -2));
      say?.(`due ${sayMoment(task.deadline, today)}`);
    }
  }
  if (task.begun) {
    points += POINTS.begun;
    say?.('begun already');
  }
  if (task.plannedDay !== null && task.plannedDay <= today) {
    points += POINTS.today;
    say?.(task.plannedDay === today ? 'planned for today' : 'still open');
  } else if (task.plannedWeek !== null && task.plannedWeek <= week) {
    points += POINTS.week;
    say?.('for this week');
  }
  if (task.priority === 'high') say?.('high');
  points += (POINTS.full * Math.min(task.minutes, minutes)) / minutes;
  if (part) say?.(`a part of ${sayMinutes(task.minutes)}`);
  if (task.concentration === 'deep' && minutes < DEEP) return points + POINTS.wrongKind;
  if (task.concentration === 'deep' && deep) {
    say?.('deep work, and now is the hour for it');
    return points + POINTS.kind;
  }
  if (task.concentration === 'light' && !deep) {
    say?.('light work');
    return points + POINTS.kind;
  }
  return points;
}
