import type { MessageFacts } from '../message/facts';
import { titleOf } from '../message/title';
import { sayMinutes } from '../text/say';

/** Where a decision sends an incoming. */
export type Destination =
  | 'list' | 'day' | 'week' | 'time' | 'event' | 'answer' | 'person' | 'hand-over' | 'shelf' | 'reference' | 'done' | 'drop';

/** How often this user sent things from one address to one place. */
export interface Habit {
  to: Destination;
  list: string | null;
  count: number;
}

/** A whole proposed decision. Reasons are short sentences with numbers in them. */
export interface Suggestion {
  to: Destination;
  title: string;
  list: string | null;
  day: string | null;
  start: string | null;
  deadline: string | null;
  deadlineFixed: boolean;
  minutes: number | null;
  reasons: string[];
  /** Nothing is known beyond the subject: the interface then proposes nothing. */
  sure: boolean;
}

export interface ToSuggest {
  text: string;
  subject: string;
  facts: MessageFacts;
  bulk: boolean;
  habits: readonly Habit[];
  /** The user's today; past days are not proposed. */
  today: string;
}

const LEAST_HABIT = 3;
const LEAST_SHARE = 0.6;

/** Proposes what to do with an incoming, from its text and from what the user did with the same sender's before. */
export function suggest({ text, subject, facts, bulk, habits, today }: ToSuggest): Suggestion {
  const ahead = facts.dates.filter((date) => date.value >= today || date.value.includes('W'));
  const deadline = ahead.find((date) => date.role === 'deadline' && !date.value.includes('W'));
  const meeting = ahead.find((date) => date.role === 'meeting' && date.value.includes('T'));
  const total = habits.reduce((sum, habit) => sum + habit.count, 0);
  const top = [...habits].sort((a, b) => b.count - a.count)[0];
  const habit = top && top.count >= LEAST_HABIT && top.count / total >= LEAST_SHARE ? top : null;
  const reasons: string[] = [];
  if (facts.asks.length > 0) reasons.push(facts.asks.length === 1 ? 'asks one thing of you' : `asks ${facts.asks.length} things of you`);
  if (deadline) reasons.push(`the text says “${deadline.text.replace(/\s+/g, ' ')}”${deadline.fixed ? ', and that it will not move' : ''}`);
  if (facts.minutes) reasons.push(`the text speaks of ${sayMinutes(facts.minutes)}`);
  if (bulk) reasons.push('sent to many at once');
  if (habit) reasons.push(`${habit.count} of ${total} from this address ${placeOf(habit)}`);
  const to = destinationOf(facts, habit, meeting !== undefined && facts.asks.length < 2);
  return {
    to,
    title: titleOf(text, facts, subject),
    list: habit?.list ?? null,
    day: null,
    start: to === 'event' ? (meeting?.value ?? null) : null,
    deadline: to === 'event' ? null : (deadline?.value ?? null),
    deadlineFixed: deadline?.fixed ?? false,
    minutes: facts.minutes,
    reasons,
    sure: habit !== null || facts.asks.length > 0 || deadline !== undefined || (to === 'event'),
  };
}

function destinationOf(facts: MessageFacts, habit: Habit | null, meets: boolean): Destination {
  if (meets && (!habit || habit.to === 'event')) return 'event';
  if (habit && facts.asks.length === 0) return habit.to;
  if (habit && ['list', 'day', 'time'].includes(habit.to)) return 'list';
  return 'list';
}

function placeOf({ to, list }: Habit): string {
  if (list && to !== 'reference') return `went to ${list}`;
  const places: Partial<Record<Destination, string>> = {
    drop: 'were dropped', reference: 'were kept for reference', shelf: 'were shelved', event: 'became events', day: 'were put on a day', done: 'were done at once',
  };
  return places[to] ?? 'became tasks';
}
