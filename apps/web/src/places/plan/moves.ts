import type { AgendaEntry, BlockInput, DayInfo, Me } from '@corvun/contract';
import { addDays, dayOf, instantOf, soonestSlot, weekOf, minutesBetween } from '@corvun/core';
import { addBlocks, changeBlock, changeEvent, daysFromServer, orderDay, setBlock, takeEvent } from '../../data/calendarActions';
import { addBlock, changeTask, changeTasks, removeBlock } from '../../data/thingActions';
import { useSaid } from '../../state/said';
import { inARow, minutesOf } from './grid';
import { usePlanning, type Placing, type Scope, type Target } from './planning';
import type { Card } from './tray';

const wallAt = (day: string, minutes: number) =>
  `${day}T${String(Math.floor(minutes / 60)).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}`;

/** The moment of a minute of a day, which may lie beyond it. */
export const instantAt = (day: string, minutes: number, zone: string): string =>
  new Date(instantOf(wallAt(addDays(day, Math.floor(minutes / 1440)), ((minutes % 1440) + 1440) % 1440), zone)).toISOString();

/** Puts what is being placed there: the same for a drag, a key, a number and a menu. */
export async function put(placing: Placing, target: Target, me: Me, days: readonly DayInfo[]): Promise<void> {
  if (placing.what === 'cards') return putCards(placing.cards, target, me, days);
  const { entry, what } = placing;
  if (entry.fixed) {
    useSaid.getState().complain(new Error(entry.fixed));
    return;
  }
  if (entry.kind === 'task' && target.before !== undefined) return putBefore(entry.id, target.day, target.before, days);
  const stays =
    what === 'resize'
      ? target.minutes === minutesOf(entry)
      : target.from === null
        ? target.day === entry.day && entry.kind !== 'block'
        : instantAt(target.day, target.from, me.zone) === new Date(entry.start ?? '').toISOString() &&
          target.minutes === minutesOf(entry) &&
          (target.calendarId ?? entry.calendarId) === entry.calendarId;
  if (stays) return;
  if (entry.kind === 'event' && (entry.occurrence || entry.guests)) usePlanning.getState().ask({ entry, target });
  else await place(entry, target, me.zone);
}

/** Puts tasks of a day in order, and on it. */
export const putInOrder = (day: string, tasks: string[]) => orderDay(day, tasks);

/** Puts a task on a day, before another one. */
async function putBefore(id: string, day: string, before: string | null, days: readonly DayInfo[]): Promise<void> {
  const there = days.find((one) => one.day === day)?.entries ?? [];
  const all = there.filter((entry) => entry.kind === 'task').map((entry) => entry.id);
  const rest = all.filter((one) => one !== id);
  const at = before === null ? -1 : rest.indexOf(before);
  const ids = at < 0 ? [...rest, id] : [...rest.slice(0, at), id, ...rest.slice(at)];
  if (ids.join() !== all.join()) await putInOrder(day, ids);
}

/** Away from this week: work goes to the next one, any day, and gives its time back. */
export async function nextWeek(entry: AgendaEntry, today: string): Promise<void> {
  if (!entry.taskId) return;
  const day = entry.day > today ? entry.day : today;
  const freed = entry.kind === 'block' ? { freeOn: entry.day } : {};
  await changeTasks({ ids: [entry.taskId], change: { plannedWeek: weekOf(addDays(day, 7)) }, ...freed });
}

async function putCards(cards: readonly Card[], { day, from, minutes }: Target, me: Me, days: readonly DayInfo[]): Promise<void> {
  const ids = cards.map(({ task }) => task.id);
  const shown = days.find((one) => one.day === day);
  usePlanning.getState().none();
  if (from === null) {
    const [only] = ids;
    if (ids.length === 1 && only) await changeTask(only, { plannedDay: day });
    else await changeTasks({ ids, change: { plannedDay: day } });
    return;
  }
  const lengths = cards.length === 1 ? [minutes] : cards.map((card) => card.minutes);
  const starts = shown ? inARow(lengths, shown, from, me.zone) : lengths.map(() => from);
  const blocks = ids.map((taskId, at): BlockInput => ({
    taskId,
    start: instantAt(day, starts[at] ?? from, me.zone),
    minutes: lengths[at] ?? minutes,
  }));
  const [only] = blocks;
  if (blocks.length === 1 && only) await setBlock(only);
  else await addBlocks(blocks);
}

/** What is said of a series and its guests when an entry is put elsewhere. */
export interface Answered {
  scope?: Scope;
  /** What the guests are told; left out: nothing. */
  tell?: string;
}

/** Puts an entry there. @returns something where that was done */
export async function place(
  entry: AgendaEntry,
  { day, from, minutes, calendarId }: Target,
  zone: string,
  { scope, tell }: Answered = {},
): Promise<unknown> {
  if (entry.kind === 'task') {
    if (from !== null) return addBlock(entry.id, instantAt(day, from, zone), minutes);
    return day === entry.day ? null : changeTask(entry.id, { plannedDay: day });
  }
  if (entry.kind === 'block') {
    // Over the head of a day: the task keeps the day and gives its time back.
    if (from === null) return entry.taskId ? removeBlock(entry.id, day === entry.day ? undefined : day) : null;
    return changeBlock(entry.id, { start: instantAt(day, from, zone), minutes, version: entry.version });
  }
  const told = tell === undefined ? {} : { tell };
  const into = calendarId && calendarId !== entry.calendarId ? { calendarId } : {};
  const which = entry.occurrence ? { occurrence: entry.occurrence, scope: scope ?? 'this' } : { version: entry.version, ...into };
  if (entry.allDay) {
    const days = Math.round((Date.parse(entry.end ?? '') - Date.parse(entry.start ?? '')) / 86_400_000);
    if (from === null) return changeEvent(entry.id, { start: day, minutes: days * 1440, ...which, ...told });
    return changeEvent(entry.id, { start: wallAt(day, from), minutes: 60, allDay: false, zone, ...which, ...told });
  }
  if (from === null) return changeEvent(entry.id, { start: day, minutes: 1440, allDay: true, ...which, ...told });
  return changeEvent(entry.id, { start: instantAt(day, from, zone), minutes, ...which, ...told });
}

/** Minutes after midnight at which an entry begins; null where it has no time. */
export function minuteOf(entry: AgendaEntry): number | null {
  if (entry.kind === 'task' || entry.allDay || !entry.start) return null;
  return Number(entry.start.slice(11, 13)) * 60 + Number(entry.start.slice(14, 16));
}

/** Where an entry stands now. */
export const standing = (entry: AgendaEntry): Target => ({
  day: entry.start && !entry.allDay ? entry.start.slice(0, 10) : entry.day,
  from: minuteOf(entry),
  minutes: minutesOf(entry),
});

/** Days in which a gap is looked for. */
const AHEAD = 21;

/** The first slot of that length from a moment on. */
async function nextSlot(from: number, minutes: number, zone: string): Promise<number | null> {
  const days = await daysFromServer(dayOf(from, zone), AHEAD);
  const gaps = days.flatMap((day) => day.gaps.map((gap) => ({ start: Date.parse(gap.start), end: Date.parse(gap.end) })));
  const ahead = gaps.filter((gap) => gap.end > from).map((gap) => ({ ...gap, start: Math.max(gap.start, from) }));
  return soonestSlot(ahead, minutes, from)?.start ?? null;
}

const noGap = () =>
  useSaid.getState().complain(new Error(`No gap of the next ${AHEAD} days is that long. Make it shorter, or move something.`));

/** Another block for the same task, as long as this one, in the next gap that fits. */
export async function another(entry: AgendaEntry, now: number, me: Me): Promise<void> {
  if (!entry.taskId) return;
  const start = await nextSlot(Math.max(now, Date.parse(entry.end ?? '')), minutesOf(entry), me.zone);
  if (start === null) noGap();
  else await addBlock(entry.taskId, new Date(start).toISOString(), minutesOf(entry));
}

/** Not today: into the next gap that fits from the next day on. */
export async function notToday(entry: AgendaEntry, today: string, me: Me): Promise<void> {
  const day = addDays(entry.day > today ? entry.day : today, 1);
  if (entry.kind === 'task') {
    await changeTask(entry.id, { plannedDay: day });
    return;
  }
  const start = await nextSlot(Date.parse(instantAt(day, 0, me.zone)), minutesOf(entry), me.zone);
  if (start === null) noGap();
  else await changeBlock(entry.id, { start: new Date(start).toISOString() });
}

/** Puts a block into the next gap that fits after a day. */
export async function moveAfter(block: { block: string; start: string; end: string }, day: string, me: Me): Promise<void> {
  const minutes = minutesBetween(Date.parse(block.start), Date.parse(block.end));
  const start = await nextSlot(Date.parse(instantAt(addDays(day, 1), 0, me.zone)), minutes, me.zone);
  if (start === null) noGap();
  else await changeBlock(block.block, { start: new Date(start).toISOString() });
}

/** Takes an entry away, and asks first where it is one of many or others are invited. */
export async function remove(entry: AgendaEntry): Promise<void> {
  if (entry.fixed) useSaid.getState().complain(new Error(entry.fixed));
  else if (entry.kind === 'event' && (entry.occurrence || entry.guests)) usePlanning.getState().ask({ entry, target: null });
  else await takeAway(entry);
}

/** Takes an entry away: a block gives its time back, a task goes off its day, an event out of the calendar. */
export function takeAway(entry: AgendaEntry, { scope, tell }: Answered = {}): Promise<unknown> {
  if (entry.kind === 'block') return removeBlock(entry.id);
  if (entry.kind === 'task') return changeTask(entry.id, { plannedDay: null });
  const told = tell === undefined ? {} : { tell };
  return takeEvent(entry.id, { ...(entry.occurrence ? { occurrence: entry.occurrence, scope: scope ?? 'this' } : {}), ...told });
}

export const isDone = (entry: AgendaEntry): boolean => entry.status === 'COMPLETED';

/** Ticks the task of an entry, or takes the tick back. */
export const tick = (entry: AgendaEntry) =>
  entry.taskId ? changeTask(entry.taskId, { status: isDone(entry) ? 'NEEDS-ACTION' : 'COMPLETED' }) : Promise.resolve(null);
