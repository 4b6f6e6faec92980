import type { MessageFacts } from '../message/facts';
import type { Priority } from '../capture/draft';
import type { Destination } from '../decide/destinations';
import { sayMinutes } from '../text/say';
import { addDays, weekdayOf, type Day } from '../time/zones';
import type { Guess, Recalled } from './memory';

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
  /** What the user did with like things; null where nothing was decided yet. */
  recalled: Recalled | null;
  /** How concentrated the work of each list is, by its name: it gives a duration where nothing else does. */
  concentration?: ReadonlyMap<string, Concentration>;
  /** The user's today; past days are not proposed. */
  today: string;
}

export type Concentration = 'deep' | 'medium' | 'light';
/** Minutes set aside where nothing is known of how long like things take. */
export const USUAL_MINUTES: Record<Concentration, number> = { deep: 90, medium: 60, light: 30 };
/** Below this chance a list is not proposed. */
const LEAST_CHANCE = 0.4;
const LEAST_ALIKE = 3;
/** From this chance on, what was always dropped or kept is so again, though it asks something. */
const QUIET_CHANCE = 0.9;

/** Proposes what to do with an incoming, from its text and from what the user did with the same sender's before. */
export function suggest({
  title,
  subject,
  facts,
  tags = [],
  priority = 'normal',
  bulk,
  invitation,
  recalled,
  concentration,
  today,
}: ToSuggest): Suggestion {
  if (invitation) return answering(title, subject, invitation.overlaps);
  const ahead = facts.dates.filter((date) => date.value >= today || date.value.includes('W'));
  const deadline = deadlineOf(facts, today);
  const meeting = ahead.find((date) => date.role === 'meeting' && date.value.includes('T'));
  const asked = facts.asks.length > 0;
  const habit = usual(recalled, asked);
  const to = destinationOf(habit, meeting !== undefined && facts.asks.length < 2, asked);
  const isTask = to === 'list';
  const list = isTask ? (habit?.list ?? null) : null;
  const day = isTask && list && recalled?.ahead ? dayAhead(today, recalled.ahead.days, deadline?.value ?? null) : null;
  const reasons: string[] = [];
  if (asked) reasons.push(facts.asks.length === 1 ? 'asks one thing of you' : `asks ${facts.asks.length} things of you`);
  if (deadline)
    reasons.push(`the text says “${deadline.text.replace(/\s+/g, ' ')}”${deadline.fixed ? ', and that it will not move' : ''}`);
  if (day && recalled?.ahead)
    reasons.push(`things like this usually ${sayAhead(recalled.ahead.days)} (median of ${recalled.ahead.of})`);
  if (meeting && to === 'event') reasons.push(`the text proposes “${meeting.text.replace(/\s+/g, ' ')}”`);
  if (facts.minutes) reasons.push(`the text speaks of ${sayMinutes(facts.minutes)}`);
  if (bulk) reasons.push('sent to many at once');
  if (habit && (habit.to === to || list)) reasons.push(...habit.reasons);
  const took = isTask && !facts.minutes ? (recalled?.took ?? null) : null;
  if (took) reasons.push(`things like this took ${sayMinutes(took.minutes)} (median of ${took.of})`);
  const usualFor = list ? concentration?.get(list) : undefined;
  const guessed = facts.minutes ?? took?.minutes ?? (usualFor ? USUAL_MINUTES[usualFor] : null);
  return {
    to: day ? (recalled?.ahead?.timed ? 'time' : 'day') : to,
    title: to === 'event' && subject ? subject : title,
    list,
    tags: [...new Set([...tags, ...(isTask ? (recalled?.tags ?? []) : [])])],
    priority: priority === 'normal' && isTask ? (recalled?.priority ?? 'normal') : priority,
    day,
    start: to === 'event' ? (meeting?.value ?? null) : null,
    deadline: to === 'event' ? null : (deadline?.value ?? null),
    deadlineFixed: deadline?.fixed ?? false,
    minutes: isTask || to === 'event' ? (to === 'event' ? facts.minutes : guessed) : facts.minutes,
    reasons,
    // What no reason can be given for is not proposed.
    sure: reasons.length > 0 && (habit !== null || asked || deadline !== undefined || to === 'event'),
  };
}

const sayAhead = (days: number) => (days === 0 ? 'get the same day' : days === 1 ? 'get the next day' : `wait ${days} days`);

/** The day so many days ahead; never a weekend, never after the deadline, never before today. */
function dayAhead(today: Day, days: number, deadline: string | null): Day {
  const wanted = addDays(today, days);
  const working = weekdayOf(wanted) > 5 ? addDays(wanted, 8 - weekdayOf(wanted)) : wanted;
  const last = deadline?.slice(0, 10);
  return last && last < working ? (last > today ? last : today) : working;
}

/** The deadline that counts: the one of the first ask, which gives the title, else the first that is named. */
export function deadlineOf({ asks, dates }: MessageFacts, today: Day): MessageFacts['dates'][number] | undefined {
  const [ask] = asks;
  const all = dates.filter((date) => date.role === 'deadline' && !date.value.includes('W') && date.value >= today);
  return all.find((date) => ask && date.start >= ask.start && date.end <= ask.end) ?? all[0];
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

/** The likeliest place, when it is likely enough and enough like things were decided; the list counts over all its ways. */
function usual(recalled: Recalled | null, asked: boolean): Guess | null {
  if (!recalled || recalled.alike < LEAST_ALIKE) return null;
  const [first] = recalled.guesses;
  const [list] = recalled.lists.filter((one) => one.list !== null);
  if (!first) return null;
  const quiet = first.list === null && first.to !== 'event';
  if (quiet && (!asked || first.chance >= QUIET_CHANCE)) return first.chance >= LEAST_CHANCE ? first : null;
  const wanted = asked || first.list !== null ? list : undefined;
  const others = recalled.lists.filter((one) => !asked || one.list !== null).reduce((sum, one) => sum + one.chance, 0);
  if (wanted && wanted.chance / (asked ? others : 1) >= LEAST_CHANCE)
    return recalled.guesses.find((one) => one.list === wanted.list) ?? null;
  return first.chance >= LEAST_CHANCE && (!asked || first.to === 'event') ? first : null;
}

function destinationOf(habit: Guess | null, meets: boolean, asked: boolean): Destination {
  if (meets && (!habit || habit.to === 'event' || asked)) return 'event';
  if (habit && habit.list === null && habit.to !== 'event' && habit.to !== 'time' && habit.to !== 'day') return habit.to;
  if (habit && !asked && habit.to === 'reference') return habit.to;
  return 'list';
}
