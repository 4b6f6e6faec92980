import type { AgendaEntry } from '@corvun/contract';
import { minutesBetween, dayOf, isoInZone, repeats, type Occurrence, type Zone } from '@corvun/core';
import type { Block } from '../blocks/block.entity';
import type { Calendar } from '../calendars/calendar.entity';
import type { Event } from '../events/event.entity';
import { guestsOf } from '../events/guests';
import { isGuestOf } from '../events/whose';
import { blockTitle } from '../blocks/blocks.service';
import type { User } from '../accounts/user.entity';
import type { Task } from '../tasks/task.entity';

/** What an entry has of its own; the rest is what nothing says. */
type Own = Partial<AgendaEntry> & Pick<AgendaEntry, 'kind' | 'id' | 'title' | 'start' | 'end' | 'day' | 'status' | 'version'>;

const entry = (own: Own): AgendaEntry => ({
  allDay: false,
  calendar: null,
  calendarId: null,
  listId: null,
  taskId: null,
  incomingId: null,
  showAs: 'free',
  location: '',
  blockKind: null,
  category: '',
  guests: 0,
  minutes: null,
  deadline: null,
  deadlineFixed: false,
  occurrence: null,
  fixed: null,
  mirrored: false,
  pinned: false,
  sites: null,
  beside: null,
  buffers: [],
  ...own,
});

/** One date of an event, in the user's zone. */
export function eventEntry(row: Event, { key, start, end, days }: Occurrence, calendar: Calendar, user: User): AgendaEntry {
  const { zone } = user;
  return entry({
    kind: 'event',
    id: row.id,
    title: row.title,
    start: days?.first ?? isoInZone(start, zone),
    end: days?.after ?? isoInZone(end, zone),
    allDay: row.allDay,
    day: days?.first ?? dayOf(start, zone),
    calendar: calendar.name,
    calendarId: calendar.id,
    incomingId: row.incomingId,
    status: row.status,
    showAs: row.transparent ? 'free' : row.status === 'TENTATIVE' ? 'tentative' : 'busy',
    location: row.location,
    category: row.category,
    guests: guestsOf(row, user).length,
    minutes: minutesBetween(start, end),
    occurrence: repeats(row) ? key : null,
    fixed: whyFixed(row, calendar, user),
    mirrored: row.mirror !== null,
    version: row.version,
  });
}

/** Why an event cannot be moved here, as a sentence; null where it can. */
export function whyFixed(row: Event, calendar: Calendar, user: User): string | null {
  if (calendar.origin === 'feed') return `“${calendar.name}” comes from outside, so its events can only be changed there.`;
  if (row.mirror !== null) return 'A copy of what stands in another calendar: it is changed there.';
  return isGuestOf(row, user) ? `An invitation from ${row.organizer}: only they can move it.` : null;
}

/** Time for a task. */
export const blockEntry = (row: Block, task: Task | undefined, zone: Zone): AgendaEntry =>
  entry({
    kind: 'block',
    id: row.id,
    title: blockTitle(row, task),
    blockKind: row.kind,
    start: isoInZone(row.startAt, zone),
    end: isoInZone(row.endAt, zone),
    day: dayOf(row.startAt, zone),
    listId: task?.listId ?? null,
    taskId: row.taskId,
    incomingId: task?.incomingId ?? null,
    status: task?.status ?? 'NEEDS-ACTION',
    showAs: row.busy ? 'busy' : 'free',
    minutes: minutesBetween(row.startAt, row.endAt),
    deadline: task?.deadline ?? null,
    deadlineFixed: task?.deadlineFixed ?? false,
    pinned: row.pinned,
    sites: row.kind === 'quiet' ? row.sites : null,
    beside: row.besideId,
    version: row.version,
  });

/** A task on a day without a time. */
export const taskEntry = (task: Task): AgendaEntry =>
  entry({
    kind: 'task',
    id: task.id,
    title: task.title,
    start: task.plannedDay,
    end: null,
    allDay: true,
    day: task.plannedDay ?? '',
    listId: task.listId,
    taskId: task.id,
    incomingId: task.incomingId,
    status: task.status,
    minutes: task.estimate,
    deadline: task.deadline,
    deadlineFixed: task.deadlineFixed,
    version: task.version,
  });
