import type { MessageFacts } from '../message/facts';
import type { Priority } from '../capture/draft';
import { sayMinutes } from '../text/say';

/** Where a decision sends an incoming. */
export type Destination =
  'list' | 'day' | 'week' | 'time' | 'event' | 'answer' | 'person' | 'hand-over' | 'shelf' | 'reference' | 'done' | 'drop';

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
  tags: string[];
  priority: Priority;
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
  /** Title read from the text, see `titleOf`. */
  title: string;
  /** The subject without reply marks: what an event is called. */
  subject: string;
  facts: MessageFacts;
  /** What the user typed with marks: these are not guesses. */
  tags?: string[];
  priority?: Priority;
  bulk: boolean;
  /** Of an invitation that can be answered: what else stands in the calendar at that time. */
  invitation?: { overlaps: readonly string[] } | null;
  habits: readonly Habit[];
  /** The user's today; past days are not proposed. */
  today: string;
}

const LEAST_HABIT = 3;
const LEAST_SHARE = 0.5;

/** Proposes what to do with an incoming, from its text and from what the user did with the same sender's before. */
export function suggest({
  title,
  subject,
  facts,
  tags = [],
  priority = 'normal',
  bulk,
  invitation,
  habits,
  today,
}: ToSuggest): Suggestion {
  if (invitation) return answering(title, subject, invitation.overlaps);
  const ahead = facts.dates.filter((date) => date.value >= today || date.value.includes('W'));
  const deadline = ahead.find((date) => date.role === 'deadline' && !date.value.includes('W'));
  const meeting = ahead.find((date) => date.role === 'meeting' && date.value.includes('T'));
  const asked = facts.asks.length > 0;
  const habit = usual(asked ? habits.filter((one) => one.list !== null || one.to === 'event') : habits);
  const to = destinationOf(habit?.habit ?? null, meeting !== undefined && facts.asks.length < 2, asked);
  const reasons: string[] = [];
  if (asked) reasons.push(facts.asks.length === 1 ? 'asks one thing of you' : `asks ${facts.asks.length} things of you`);
  if (deadline)
    reasons.push(`the text says “${deadline.text.replace(/\s+/g, ' ')}”${deadline.fixed ? ', and that it will not move' : ''}`);
  if (meeting && to === 'event') reasons.push(`the text proposes “${meeting.text.replace(/\s+/g, ' ')}”`);
  if (facts.minutes) reasons.push(`the text speaks of ${sayMinutes(facts.minutes)}`);
  if (bulk) reasons.push('sent to many at once');
  if (habit) reasons.push(`${habit.habit.count} of ${habit.total} from this address ${placeOf(habit.habit)}`);
  return {
    to,
    title: to === 'event' && subject ? subject : title,
    list: to === 'list' ? (habit?.habit.list ?? null) : null,
    tags,
    priority,
    day: null,
    start: to === 'event' ? (meeting?.value ?? null) : null,
    deadline: to === 'event' ? null : (deadline?.value ?? null),
    deadlineFixed: deadline?.fixed ?? false,
    minutes: facts.minutes,
    reasons,
    sure: habit !== null || asked || deadline !== undefined || to === 'event',
  };
}

/** An invitation is answered; with yes where nothing else stands at that time, else the user says. */
function answering(title: string, subject: string, overlaps: readonly string[]): Suggestion {
  return {
    to: 'answer',
    title: subject || title,
    list: null,
    tags: [],
    priority: 'normal',
    day: null,
    start: null,
    deadline: null,
    deadlineFixed: false,
    minutes: null,
    reasons: overlaps.length
      ? [`at that time there is ${overlaps.slice(0, 2).join(' and ')}`]
      : ['an invitation', 'nothing else is at that time'],
    sure: overlaps.length === 0,
  };
}

/** The commonest place, when it is common enough to count; what went to one list counts together. */
function usual(habits: readonly Habit[]): { habit: Habit; total: number } | null {
  const places = new Map<string, Habit>();
  for (const one of habits) {
    const key = one.list ?? one.to;
    const known = places.get(key);
    const top = !known || one.count > known.count ? one : known;
    places.set(key, { ...top, count: (known?.count ?? 0) + one.count });
  }
  const total = habits.reduce((sum, one) => sum + one.count, 0);
  const top = [...places.values()].sort((a, b) => b.count - a.count)[0];
  return top && top.count >= LEAST_HABIT && top.count / total >= LEAST_SHARE ? { habit: top, total } : null;
}

function destinationOf(habit: Habit | null, meets: boolean, asked: boolean): Destination {
  if (meets && (!habit || habit.to === 'event' || asked)) return 'event';
  if (habit && !asked && habit.to !== 'time' && habit.to !== 'day' && habit.to !== 'event') return habit.to;
  return 'list';
}

function placeOf({ to, list }: Habit): string {
  if (list && to !== 'reference') return `went to ${list}`;
  const places: Partial<Record<Destination, string>> = {
    drop: 'were dropped',
    reference: 'were kept for reference',
    shelf: 'were shelved',
    event: 'became events',
    day: 'were put on a day',
    done: 'were done at once',
  };
  return places[to] ?? 'became tasks';
}
