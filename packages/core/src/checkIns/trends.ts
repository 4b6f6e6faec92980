import { addDays, type Day } from '../time/zones';
import { SCALE, type AnswerValue, type Question } from './questions';

/** What was answered to a question on a day. */
export interface Answered {
  day: Day;
  value: AnswerValue;
}

/** How answers to one question went over time. */
export type Trend =
  | { kind: 'scale'; points: { day: Day; value: number }[]; lately: number | null; before: number | null }
  | { kind: 'yes-no'; points: { day: Day; value: number }[]; yes: number }
  | { kind: 'choice'; counts: { choice: string; times: number }[] };

/** Days that are held against as many before them. */
export const LATELY = 28;

const mean = (values: readonly number[]): number | null =>
  values.length ? values.reduce((sum, value) => sum + value, 0) / values.length : null;

/** How the answers went, in the order of their days; null for words, and where there are none. */
export function trendOf({ kind, choices }: Question, answered: readonly Answered[], today: Day): Trend | null {
  const inOrder = [...answered].sort((a, b) => (a.day < b.day ? -1 : 1));
  if (!inOrder.length || kind === 'words') return null;
  if (kind === 'choice') {
    const words = [...new Set([...choices, ...inOrder.map(({ value }) => String(value))])];
    const times = (choice: string) => inOrder.filter(({ value }) => value === choice).length;
    return { kind, counts: words.map((choice) => ({ choice, times: times(choice) })) };
  }
  if (kind === 'yes-no') {
    const points = inOrder.map(({ day, value }) => ({ day, value: value === true ? 1 : 0 }));
    return { kind, points, yes: points.filter(({ value }) => value).length };
  }
  const points = inOrder.flatMap(({ day, value }) => (typeof value === 'number' ? [{ day, value }] : []));
  const since = addDays(today, -LATELY);
  const within = (from: Day, to: Day) => points.filter(({ day }) => day > from && day <= to).map(({ value }) => value);
  return { kind, points, lately: mean(within(since, today)), before: mean(within(addDays(since, -LATELY), since)) };
}

const rounded = (value: number) => String(Math.round(value * 10) / 10);

/** A trend in words: `3.4 of 5 in four weeks, 3 in the four before`, `yes 7 of 9 times`, `alone 4, with others 2`. */
export function sayTrend(trend: Trend): string {
  switch (trend.kind) {
    case 'yes-no':
      return `yes ${trend.yes} of ${trend.points.length} ${trend.points.length === 1 ? 'time' : 'times'}`;
    case 'choice':
      return trend.counts
        .filter(({ times }) => times)
        .map(({ choice, times }) => `${choice} ${times}`)
        .join(', ');
    case 'scale': {
      const { lately, before } = trend;
      if (lately === null)
        return before === null ? '' : `${rounded(before)} of ${SCALE.most} in the four weeks before the last four`;
      return `${rounded(lately)} of ${SCALE.most} in four weeks${before === null ? '' : `, ${rounded(before)} in the four before`}`;
    }
  }
}
