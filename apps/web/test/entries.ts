import type { AgendaEntry, DayInfo, TaskInfo } from '@corvun/contract';

export const ZONE = 'Europe/Vienna';
export const DAY = '2026-08-03';

const at = (minutes: number) =>
  `${DAY}T${String(Math.floor(minutes / 60)).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}:00+02:00`;

/** An entry from one minute of the day to another. */
export function entry(from: number, to: number, more: Partial<AgendaEntry> = {}): AgendaEntry {
  return {
    kind: 'event',
    id: `${from}-${to}`,
    title: 'x',
    start: at(from),
    end: at(to),
    allDay: false,
    day: DAY,
    calendar: null,
    calendarId: null,
    listId: null,
    taskId: null,
    incomingId: null,
    status: 'CONFIRMED',
    showAs: 'busy',
    blockKind: null,
    category: '',
    guests: 0,
    location: '',
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
    version: 1,
    ...more,
  };
}

/** A day from 9:00 to 17:00, with what stands on it and is free in it. */
export const dayWith = (entries: AgendaEntry[], gaps: [number, number][]): DayInfo => ({
  day: DAY,
  off: null,
  working: [{ start: at(540), end: at(1020) }],
  gaps: gaps.map(([start, end]) => ({ start: at(start), end: at(end) })),
  unseen: [],
  hidden: [],
  entries,
  load: { capacity: 480, meetings: 0, buffers: 0, blocks: 0, unplaced: 0, left: 0, over: 0 },
});

/** An open task of which nothing else is said. */
export const task = (more: Partial<TaskInfo>): TaskInfo => ({
  id: 'task',
  title: 'Oil the gate',
  notes: '',
  listId: null,
  parentId: null,
  position: 0,
  tags: [],
  priority: 'normal',
  estimate: 60,
  spent: 0,
  status: 'NEEDS-ACTION',
  completed: null,
  plannedDay: null,
  plannedWeek: null,
  deadline: null,
  deadlineFixed: false,
  repeat: null,
  shelved: false,
  lookAgain: null,
  leftOpen: null,
  waitingOn: null,
  waitingSince: null,
  incomingId: null,
  created: at(0),
  sender: '',
  source: '',
  billable: false,
  concentration: 'medium',
  notBefore: null,
  repeatFrom: 'schedule',
  repeatOn: null,
  waitingUntil: null,
  nudged: null,
  answeredBy: null,
  assignedTo: null,
  reminder: null,
  links: [],
  attachmentList: [],
  placed: 0,
  sourceId: null,
  blocks: [],
  version: 1,
  ...more,
});
