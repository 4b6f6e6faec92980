import type { Undecided } from '@corvun/contract';
import { MINUTE, addDays, wallOf, weekdayOf } from '@corvun/core';
import { ASKS } from './asks';
import { HABITS, TOPICS, type Habit } from './history';
import type { Letter } from './letter';
import type { Random } from './random';
import { ZONE, type Around } from './world';

/** When a task was done, what it took, and what it was thought to take; minutes. */
export interface Finished {
  at: number;
  spent: number;
  planned: number;
}

/** A letter of the past weeks, and what became of it. */
export interface PastLetter {
  letter: Letter;
  decide: Undecided;
  decidedAt: number;
  finished: Finished | null;
}

const HOUR = 60 * MINUTE;
const BACK = 30;

/** 202 letters over six weeks, in order, each decided within a day; about one in six against the habit. */
export function pastLetters(around: Around, random: Random, now: number): PastLetter[] {
  const kinds = HABITS.flatMap((habit) => Array.from({ length: habit.times }, () => habit));
  shuffle(kinds, random);
  const asked = new Map<string, number>();
  const letters = kinds.map((habit, at) => {
    const turn = habit.asks ? (asked.get(habit.asks) ?? 0) : 0;
    if (habit.asks) asked.set(habit.asks, turn + 1);
    const behind = BACK - Math.floor((at / kinds.length) * BACK);
    return onePast(habit, turn, behind, at, around, random, now);
  });
  return letters.sort((a, b) => a.decidedAt - b.decidedAt);
}

function onePast(
  habit: Habit,
  turn: number,
  behind: number,
  at: number,
  around: Around,
  random: Random,
  now: number,
): PastLetter {
  const day = around.workday(-Math.max(1, behind));
  const written = around.at(
    day,
    `${String(random.between(7, 15)).padStart(2, '0')}:${String(random.between(0, 59)).padStart(2, '0')}`,
  );
  const decidedAt = Math.min(byDay(written + random.between(1, 20) * HOUR, around), now - (202 - at) * MINUTE);
  const ahead = -behind + random.between(2, 12);
  const somewhere = random.pick(TOPICS);
  const asks = ASKS[habit.asks ?? ''] ?? [];
  const [about, ask] = asks[turn % asks.length] ?? [somewhere, ''];
  const fill = (text: string) =>
    text
      .replaceAll('%t', about)
      .replaceAll('%a', ask)
      .replaceAll('%d', around.long(ahead))
      .replaceAll('%n', String(100 + at));
  const letter: Letter = {
    from: habit.from,
    subject: fill(habit.subject),
    text: fill(habit.text),
    at: Math.min(written, decidedAt - 5 * MINUTE),
    ...(habit.newsletter ? { newsletter: true } : {}),
  };
  const finishedBehind = behind - random.between(1, 6);
  const minutes = habit.minutes ?? 30;
  const doneAt =
    finishedBehind >= 1 && random.next() < 0.72
      ? around.at(around.workday(-finishedBehind), `${random.between(10, 16)}:15`)
      : null;
  return {
    letter,
    decidedAt,
    decide: decisionFor(habit, fill, behind, around, random),
    finished:
      doneAt && doneAt > decidedAt && doneAt < now
        ? { at: doneAt, planned: minutes, spent: Math.max(5, Math.round((minutes * (0.7 + random.next() * 0.7)) / 5) * 5) }
        : null,
  };
}

/** The same moment where it lies in working hours, else as the next ones begin. */
function byDay(at: number, around: Around): number {
  const [day = '', clock = ''] = wallOf(at, ZONE).split('T');
  const weekend = weekdayOf(day) > 5;
  if (!weekend && clock >= '08:00' && clock < '18:00') return at;
  const from = weekend || clock >= '18:00' ? addDays(day, weekend ? 8 - weekdayOf(day) : weekdayOf(day) === 5 ? 3 : 1) : day;
  return around.at(from, `08:${clock.slice(3, 5)}`);
}

function decisionFor(habit: Habit, fill: (text: string) => string, behind: number, around: Around, random: Random): Undecided {
  const { list, tags, minutes } = habit;
  const task = { ...(list ? { list } : {}), ...(tags ? { tags } : {}), ...(minutes ? { minutes } : {}) };
  const against = random.next() < 0.16;
  if (against && habit.to === 'list') return { to: 'day', day: around.workday(-behind + random.between(1, 4)), ...task };
  if (against && habit.to === 'drop') return { to: 'reference' };
  const start = `${around.workday(-behind + random.between(1, 3))}T${random.pick(['09:30', '10:30', '13:30', '15:00'])}`;
  const day = around.workday(-behind + random.between(1, 5));
  const title = fill(`On site: ${habit.subject.replace('On site at ', '')}`);
  switch (habit.to) {
    case 'day':
      return { to: 'day', ...task, day };
    case 'time':
      return { to: 'time', ...task, start };
    case 'event':
      return { to: 'event', start, minutes: 60, title };
    case 'hand-over':
      return { to: 'hand-over', ...task, with: 'Pia Keller' };
    case 'shelf':
      return { to: 'shelf', ...task, lookAgain: around.workday(0) };
    case 'list':
    case 'week':
      return { to: habit.to, ...task };
    case 'done':
      // How long it took is said when it is finished.
      return { to: 'done', ...(list ? { list } : {}), ...(tags ? { tags } : {}) };
    default:
      return { to: habit.to };
  }
}

function shuffle<T>(all: T[], random: Random): void {
  for (let at = all.length - 1; at > 0; at -= 1) {
    const other = random.between(0, at);
    [all[at], all[other]] = [all[other] as T, all[at] as T];
  }
}
