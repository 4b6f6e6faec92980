import { bestSlots } from '../slots/bestSlots';
import { freeGaps } from '../slots/gaps';
import { minutesIn, overlaps, subtract, type Interval } from '../time/intervals';
import { MINUTE, dayOf, type Instant, type Zone } from '../time/zones';
import { isAtRisk, safeStarts, type Demand, type SafeStart } from './safeStart';

/** Own time that would have to give way. */
export interface OwnTime extends Interval {
  id: string;
  /** The task it is for; null for quiet and breaks. */
  taskId: string | null;
  /** Work can lie in it. */
  quiet?: boolean;
  concentration: 'deep' | 'medium' | 'light';
  /** When its task has to be done. */
  deadline: Instant | null;
}

export interface YesInput {
  asked: Interval;
  /** The event with what belongs to it: before, after, on the way. */
  whole: Interval;
  now: Instant;
  zone: Zone;
  /** Working time from now on, as far as it is planned. */
  working: readonly Interval[];
  /** What others are promised, without the event itself. */
  promised: readonly Interval[];
  own: readonly OwnTime[];
  /** When guests are busy; another time would have to suit them, too. */
  theirs: readonly Interval[];
  /** Work with a deadline: what is still to be done of it, placed or not. */
  demands: readonly Demand[];
  /** Slots begin on full minutes of this grid. */
  grid: number;
  /** Hours that suit deep work, `HH:MM-HH:MM`; the morning where they are left out. */
  deep?: readonly string[];
}

export interface Move {
  id: string;
  from: Interval;
  /** Where it would go; null where it finds no place. */
  to: Interval | null;
  reasons: string[];
  /** It would come after the deadline of its task. */
  late: boolean;
}

/** A deadline that gets close or is missed, before and after. */
export interface Endangered {
  id: string;
  before: SafeStart;
  after: SafeStart;
}

export interface CostOfYes {
  moves: Move[];
  /** Minutes that move. */
  minutes: number;
  deadlines: Endangered[];
  /** What is left of its day: free minutes, and gaps of half an hour or more. */
  left: { minutes: number; gaps: number };
  /** Times from tomorrow on at which it would cost nothing, best first. */
  instead: { slot: Interval; reasons: string[] }[];
}

const LONG_ENOUGH = 30;
const ALTERNATIVES = 3;

/** What saying yes costs: what moves where, which deadlines that endangers, and what is left of the day. */
export function costOfYes(input: YesInput): CostOfYes {
  const { asked, whole, now, zone, working, promised, own, grid } = input;
  const ahead = working.flatMap(({ start, end }) => (end > now ? [{ start: Math.max(start, now), end }] : []));
  const hit = own.filter((one) => overlaps(one, whole) && one.start >= now);
  const stays = own.filter((one) => !hit.includes(one));
  const taken: Interval[] = [...promised, ...stays, whole];
  const moves: Move[] = [];
  // What is due first chooses first.
  const inOrder = [...hit].sort((a, b) => (a.deadline ?? Infinity) - (b.deadline ?? Infinity) || a.start - b.start);
  for (const one of inOrder) {
    const minutes = (one.end - one.start) / MINUTE;
    const gaps = freeGaps(ahead, taken, minutes);
    const found = one.taskId ? placeOf(one, gaps, input) : nearest(one, gaps, zone);
    if (found) taken.push(found.slot);
    moves.push({
      id: one.id,
      from: { start: one.start, end: one.end },
      to: found?.slot ?? null,
      reasons: found?.reasons ?? [],
      late: one.deadline !== null && found !== null && found.slot.end > one.deadline,
    });
  }
  moves.sort((a, b) => a.from.start - b.from.start);
  const day = dayOf(asked.start, zone);
  const ofDay = ahead.filter(({ start }) => dayOf(start, zone) === day);
  const left = freeGaps(ofDay, taken, 1);
  const length = (whole.end - whole.start) / MINUTE;
  const [lead, tail] = [asked.start - whole.start, whole.end - asked.end];
  // Others need a day to hear of it.
  const notToday = ahead.filter(({ start }) => dayOf(start, zone) > dayOf(now, zone));
  // What belongs to it before and after is no time of theirs.
  const theirs = input.theirs.map((one) => {
    const shorter = { start: one.start + tail, end: one.end - lead };
    return shorter.start < shorter.end ? shorter : one;
  });
  const free = freeGaps(notToday, [...promised, ...own, ...theirs], length);
  const wish = { minutes: length, concentration: 'medium' as const, deadline: null, now, zone, grid };
  return {
    moves,
    minutes: moves.reduce((sum, { from, to }) => sum + (to ? (from.end - from.start) / MINUTE : 0), 0),
    deadlines: endangered(input, ahead),
    left: { minutes: minutesIn(left), gaps: left.filter(({ start, end }) => end - start >= LONG_ENOUGH * MINUTE).length },
    instead: bestSlots(free, wish, ALTERNATIVES + 1)
      .map(({ slot, reasons }) => ({ slot: { start: slot.start + lead, end: slot.end - tail }, reasons }))
      .filter(({ slot }) => slot.start !== asked.start)
      .slice(0, ALTERNATIVES),
  };
}

function placeOf(one: OwnTime, gaps: readonly Interval[], { now, zone, grid, deep }: YesInput) {
  const { concentration, deadline } = one;
  const minutes = (one.end - one.start) / MINUTE;
  return bestSlots(gaps, { minutes, concentration, deadline, now, zone, grid, ...(deep ? { deep } : {}) }, 1)[0] ?? null;
}

/** Quiet and breaks stay on their day, as near as they can. */
function nearest(one: OwnTime, gaps: readonly Interval[], zone: Zone): { slot: Interval; reasons: string[] } | null {
  const length = one.end - one.start;
  const slots = gaps
    .filter(({ start }) => dayOf(start, zone) === dayOf(one.start, zone))
    .map(({ start, end }) => Math.min(Math.max(one.start, start), end - length))
    .sort((a, b) => Math.abs(a - one.start) - Math.abs(b - one.start));
  const [start] = slots;
  return start === undefined ? null : { slot: { start, end: start + length }, reasons: ['on the same day'] };
}

/** Deadlines that have less time than before, and too little. Time set aside for their work counts as free for it. */
function endangered({ whole, promised, own, demands }: YesInput, ahead: readonly Interval[]): Endangered[] {
  const ids = new Set(demands.map(({ id }) => id));
  const others = [...promised, ...own.filter(({ taskId, quiet }) => !quiet && (taskId === null || !ids.has(taskId)))];
  const before = safeStarts(subtract(ahead, others), demands);
  const after = safeStarts(subtract(ahead, [...others, whole]), demands);
  return demands.flatMap(({ id }, at) => {
    const [was, is] = [before[at] as SafeStart, after[at] as SafeStart];
    const worse = is.lateMinutes > was.lateMinutes || is.slackMinutes < was.slackMinutes;
    return worse && isAtRisk(is) ? [{ id, before: was, after: is }] : [];
  });
}
