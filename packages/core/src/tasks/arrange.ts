import type { Priority } from '../capture/draft';
import { sayDay } from '../text/say';
import { addDays, weekOf, type Day } from '../time/zones';

/** What of a task counts for where it stands. */
export interface Arranged {
  readonly id: string;
  readonly title: string;
  readonly notes: string;
  readonly listId: string | null;
  readonly parentId: string | null;
  readonly position: number;
  readonly tags: readonly string[];
  readonly attachmentList: readonly { readonly name: string }[];
  readonly priority: Priority;
  readonly estimate: number | null;
  readonly plannedDay: string | null;
  readonly plannedWeek: string | null;
  readonly deadline: string | null;
  readonly waitingOn: string | null;
  readonly assignedTo: string | null;
  /** Who wrote the message it came from; empty where it came from none. */
  readonly sender: string;
  /** Where it came from: mail, chat, card …; empty where it was written down. */
  readonly source: string;
  /** ISO 8601. */
  readonly created: string;
}

export const GROUPINGS = ['list', 'day', 'deadline', 'tag', 'priority', 'person', 'source', 'none'] as const;
export type Grouping = (typeof GROUPINGS)[number];
export const SORTINGS = ['hand', 'day', 'deadline', 'priority', 'estimate', 'age', 'title'] as const;
export type Sorting = (typeof SORTINGS)[number];

export interface Arranging {
  group: Grouping;
  sort: Sorting;
  today: Day;
  /** In the order in which they stand. */
  lists: readonly { id: string; name: string }[];
}

export interface Group<T> {
  /** Names it: the id of a list, a day, a tag; empty for what has none. */
  key: string;
  title: string;
  /** Each task followed by its steps. */
  tasks: T[];
  /** How many there are without their steps, and how long they take together. */
  count: number;
  minutes: number;
}

const RANK: Record<Priority, number> = { high: 0, normal: 1, low: 2 };
/** Sorts what is not there behind everything that is. */
const LAST = '\uffff';

type Compare<T> = (a: T, b: T) => number;
const words = (a: string, b: string) => (a < b ? -1 : a > b ? 1 : 0);

const byHand: Compare<Arranged> = (a, b) => a.position - b.position || words(a.id, b.id);
const dayOfTask = ({ plannedDay, plannedWeek }: Arranged) => plannedDay ?? (plannedWeek ? `${plannedWeek}~` : LAST);

const ORDERS: Record<Sorting, Compare<Arranged>> = {
  hand: byHand,
  day: (a, b) => words(weekSorted(a), weekSorted(b)) || byHand(a, b),
  deadline: (a, b) => words(a.deadline ?? LAST, b.deadline ?? LAST) || byHand(a, b),
  priority: (a, b) => RANK[a.priority] - RANK[b.priority] || byHand(a, b),
  estimate: (a, b) => (a.estimate ?? Infinity) - (b.estimate ?? Infinity) || byHand(a, b),
  age: (a, b) => words(a.created, b.created) || byHand(a, b),
  title: (a, b) => a.title.localeCompare(b.title) || byHand(a, b),
};

/** A week without a day comes after all days of it. */
function weekSorted(task: Arranged): string {
  const { plannedDay, plannedWeek } = task;
  if (plannedDay) return `${weekOf(plannedDay)} ${plannedDay}`;
  return plannedWeek ? `${plannedWeek} ${LAST}` : dayOfTask(task);
}

type Place = readonly [rank: string, key: string, title: string];

/** Where a task stands, for each way of grouping; one with several tags stands with each of them. */
const PLACES: Record<Grouping, (task: Arranged, arranging: Arranging) => Place[]> = {
  none: () => [['', '', '']],
  list: ({ listId }, { lists }) => {
    const at = lists.findIndex((list) => list.id === listId);
    return [at < 0 ? [LAST, '', 'Without a list'] : [String(at).padStart(5, '0'), listId ?? '', lists[at]?.name ?? '']];
  },
  day: ({ plannedDay, plannedWeek }, { today }) => {
    if (plannedDay && plannedDay < today) return [['0', 'before', 'Before today']];
    if (plannedDay) return [[`1${weekOf(plannedDay)} ${plannedDay}`, plannedDay, named(plannedDay, today)]];
    if (!plannedWeek) return [[LAST, '', 'No day']];
    const title = plannedWeek === weekOf(today) ? 'This week, any day' : `Week ${Number(plannedWeek.slice(6))}, any day`;
    return [[`1${plannedWeek} ${LAST}`, plannedWeek, title]];
  },
  deadline: ({ deadline }, { today }) => {
    const day = deadline?.slice(0, 10);
    if (!day) return [[LAST, '', 'No deadline']];
    if (day < today) return [['0', 'before', 'Due before today']];
    if (day > addDays(today, 13)) return [['2', 'later', 'Due later']];
    return [[`1${day}`, day, `Due ${day === today ? 'today, ' : ''}${sayDay(day, today)}`]];
  },
  tag: ({ tags }) => (tags.length ? tags.map((tag): Place => [tag, tag, `#${tag}`]) : [[LAST, '', 'No tag']]),
  priority: ({ priority }) => [
    [String(RANK[priority]), priority, `${priority.slice(0, 1).toUpperCase()}${priority.slice(1)} priority`],
  ],
  person: ({ waitingOn, assignedTo, sender }) => {
    const who = waitingOn ?? assignedTo ?? sender;
    return [who ? [who.toLowerCase(), who, who] : [LAST, '', 'Nobody else']];
  },
  source: ({ source }) => [source ? [source, source, `From ${source}`] : [LAST, '', 'Written down']],
};

const named = (day: Day, today: Day) => (day === today ? `Today, ${sayDay(day, today)}` : sayDay(day, today));

/** Whether a task would be a step of itself by what lies above it. */
function isRing(task: Arranged, byId: ReadonlyMap<string, Arranged>): boolean {
  const seen = new Set<string>();
  for (let above = byId.get(task.parentId ?? ''); above; above = byId.get(above.parentId ?? '')) {
    if (above.id === task.id) return true;
    if (seen.has(above.id)) return false;
    seen.add(above.id);
  }
  return false;
}

/** Tasks in groups, sorted in each, their steps below them in their own order. A step whose task is not among them stands for itself. */
export function arrange<T extends Arranged>(tasks: readonly T[], arranging: Arranging): Group<T>[] {
  const byId = new Map(tasks.map((task) => [task.id, task]));
  const steps = new Map<string, T[]>();
  const own: T[] = [];
  for (const task of tasks) {
    if (task.parentId && byId.has(task.parentId) && !isRing(task, byId))
      steps.set(task.parentId, [...(steps.get(task.parentId) ?? []), task]);
    else own.push(task);
  }
  const withSteps = (task: T): T[] => [task, ...(steps.get(task.id) ?? []).sort(byHand).flatMap(withSteps)];
  const groups = new Map<string, { rank: string; group: Group<T>; own: T[] }>();
  for (const task of own)
    for (const [rank, key, title] of PLACES[arranging.group](task, arranging)) {
      const found = groups.get(key) ?? { rank, group: { key, title, tasks: [], count: 0, minutes: 0 }, own: [] };
      found.own.push(task);
      groups.set(key, found);
    }
  return [...groups.values()]
    .sort((a, b) => words(a.rank, b.rank))
    .map(({ group, own: members }) => ({
      ...group,
      tasks: members.sort(ORDERS[arranging.sort]).flatMap(withSteps),
      count: members.length,
      minutes: members.reduce((sum, task) => sum + (task.estimate ?? 0), 0),
    }));
}
