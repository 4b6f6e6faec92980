import type { AgendaEntry, Me } from '@corvun/contract';
import { MINUTE, addDays, instantOf, wallOf } from '@corvun/core';
import { addBlock, changeTask, move, removeBlock } from '../../data/thingActions';
import { useSaid } from '../../state/said';
import { minutesOf } from './grid';

/** Where an entry is put: a day, and minutes after midnight, or no time of day. */
export interface Target {
  day: string;
  from: number | null;
  minutes: number;
  what: 'move' | 'resize';
}

const wallAt = (day: string, minutes: number) =>
  `${day}T${String(Math.floor(minutes / 60)).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}`;

/** Puts an entry there: the same for a drag, a key and a menu. */
export async function place(entry: AgendaEntry, { day, from, minutes, what }: Target, zone: string): Promise<void> {
  if (entry.fixed) {
    useSaid.getState().complain(new Error(entry.fixed));
    return;
  }
  if (entry.kind === 'task') {
    if (from !== null) await addBlock(entry.id, iso(wallAt(day, from), zone), minutes);
    else if (day !== entry.day) await changeTask(entry.id, { plannedDay: day });
    return;
  }
  const occurrence = entry.occurrence ? { occurrence: entry.occurrence } : { version: entry.version };
  if (what === 'resize') {
    if (minutes !== minutesOf(entry)) await move(entry.kind, entry.id, { start: entry.start ?? '', minutes, ...occurrence });
    return;
  }
  if (entry.allDay) {
    const days = Math.round((Date.parse(entry.end ?? '') - Date.parse(entry.start ?? '')) / 86_400_000);
    if (day !== entry.day) await move('event', entry.id, { start: day, minutes: days * 1440, ...occurrence });
    return;
  }
  if (from === null) {
    if (entry.kind === 'block' && entry.taskId) {
      // Over the head of a day: the task keeps the day and gives its time back.
      await removeBlock(entry.id, day === entry.day ? undefined : day);
    }
    return;
  }
  const start = iso(wallAt(day, from), zone);
  if (Date.parse(start) !== Date.parse(entry.start ?? '')) await move(entry.kind, entry.id, { start, minutes, ...occurrence });
}

const iso = (wall: string, zone: string) => new Date(instantOf(wall, zone)).toISOString();

/** One step with the arrow keys: as many minutes as Plan snaps to, a day, or with Shift a longer or shorter end. */
export async function step(entry: AgendaEntry, key: string, shift: boolean, { zone, settings: { snap } }: Me): Promise<void> {
  const minutes = minutesOf(entry);
  const by = { ArrowUp: -snap, ArrowDown: snap }[key] ?? 0;
  const days = { ArrowLeft: -1, ArrowRight: 1 }[key] ?? 0;
  if (entry.kind === 'task' || entry.allDay) {
    if (days) await place(entry, { day: addDays(entry.day, days), from: null, minutes, what: 'move' }, zone);
    return;
  }
  if (shift && by)
    return place(entry, { day: entry.day, from: null, minutes: Math.max(snap, minutes + by), what: 'resize' }, zone);
  const wall = wallOf(Date.parse(entry.start ?? '') + by * MINUTE, zone);
  const from = Number(wall.slice(11, 13)) * 60 + Number(wall.slice(14, 16));
  await place(entry, { day: addDays(wall.slice(0, 10), days), from, minutes, what: 'move' }, zone);
}

/** What is dragged: an entry to another time or day, or the lower edge of one. */
export interface Dragged {
  entry: AgendaEntry;
  what: 'move' | 'resize';
}

export const isDone = (entry: AgendaEntry): boolean => entry.status === 'COMPLETED';

/** Ticks the task of an entry, or takes the tick back. */
export const tick = (entry: AgendaEntry) =>
  entry.taskId ? changeTask(entry.taskId, { status: isDone(entry) ? 'NEEDS-ACTION' : 'COMPLETED' }) : Promise.resolve(null);
