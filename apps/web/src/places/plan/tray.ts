import type { ProjectInfo, TaskInfo } from '@corvun/contract';
import { addDays, arrange, weekOf, type Arranging, type Group } from '@corvun/core';

/** What lies in a drawer of the tray. */
export const DRAWERS = ['soon', 'week', 'shortlist', 'list', 'source', 'stalled', 'fits', 'all'] as const;
export type Drawer = (typeof DRAWERS)[number];

/** Width of an hour of a card, in pixels. */
export const WIDE = 154;
/** Days in which a deadline is soon. */
const SOON = 7;
const LEAST = 100;
const GAP = 10;
export const CARD = 104;
const HEADING = 26;

/** A task that has no time yet, or not all of it. */
export interface Card {
  task: TaskInfo;
  /** Minutes that are still to be placed. */
  minutes: number;
}

/** Open tasks without the time they need: how much of it is missing. @param lengths for tasks that do not say how long they take */
export function cardsOf(tasks: readonly TaskInfo[], lengths: Readonly<Record<TaskInfo['concentration'], number>>): Card[] {
  return tasks.flatMap((task): Card[] => {
    if (task.status === 'COMPLETED' || task.status === 'CANCELLED' || task.shelved || task.waitingOn || task.assignedTo)
      return [];
    if (task.parentId && task.estimate === null) return [];
    const whole = task.estimate ?? lengths[task.concentration];
    const left = whole - task.placed;
    if (left > 0) return [{ task, minutes: left }];
    // Its time is over, and it is still open.
    return task.blocks.length ? [] : [{ task, minutes: Math.min(whole, lengths[task.concentration]) }];
  });
}

/** Days after which what was planned and is still open is stalled. */
const STILL_OPEN = 7;

/** Whether a task does not move: its day is long past, or it is the next step of a project in which nothing is done. */
export function isStalled(task: TaskInfo, today: string, projects: readonly ProjectInfo[]): boolean {
  const past = addDays(today, -STILL_OPEN);
  if (task.plannedDay !== null && task.plannedDay <= past) return true;
  if (task.plannedWeek !== null && task.plannedWeek < weekOf(past)) return true;
  return projects.some(({ stalled, next }) => stalled !== '' && next?.id === task.id);
}

interface Looking {
  today: string;
  /** The source that is looked at; null: any. */
  sourceId: string | null;
  projects: readonly ProjectInfo[];
  /** Ids of what is on the shortlist. */
  picks: readonly string[];
}

/** Whether a card lies in a drawer. */
export function liesIn({ task }: Card, drawer: Drawer, { today, sourceId, projects, picks }: Looking): boolean {
  if (drawer === 'soon') return task.deadline !== null && task.deadline.slice(0, 10) <= addDays(today, SOON);
  if (drawer === 'source') return task.sourceId !== null && (sourceId === null || task.sourceId === sourceId);
  if (drawer === 'shortlist') return picks.includes(task.id);
  if (drawer === 'stalled') return isStalled(task, today, projects);
  if (drawer !== 'week') return true;
  const week = weekOf(today);
  return task.plannedWeek === week || (task.plannedDay !== null && weekOf(task.plannedDay) <= week);
}

/** Whether all words stand in what a card says. */
export const isLike = ({ task }: Card, words: string): boolean =>
  words
    .toLowerCase()
    .split(/\s+/)
    .every((word) => [task.title, ...task.tags.map((tag) => `#${tag}`)].some((text) => text.toLowerCase().includes(word)));

/** One line of the tray: the name of a group, or cards beside each other. */
export type TrayRow =
  | { kind: 'heading'; key: string; title: string; minutes: number; height: number }
  | { kind: 'cards'; key: string; cards: { card: Card; width: number }[]; height: number };

/** Width of a card: as long as what is to be placed. */
export const widthOf = ({ minutes }: Card, room: number): number =>
  Math.min(Math.max(LEAST, Math.round((minutes / 60) * WIDE)), Math.max(LEAST, room));

/** Cards in groups, in order, laid into rows of a width. */
export function rowsOf(cards: readonly Card[], arranging: Arranging, room: number): TrayRow[] {
  const byId = new Map(cards.map((card) => [card.task.id, card]));
  const groups: Group<TaskInfo>[] = arrange(
    cards.map(({ task }) => task),
    arranging,
  );
  const rows: TrayRow[] = [];
  for (const group of groups) {
    const own = [...new Set(group.tasks.map((task) => task.id))].flatMap((id) => byId.get(id) ?? []);
    if (group.title)
      rows.push({
        kind: 'heading',
        key: `heading ${group.key}`,
        title: group.title,
        minutes: own.reduce((sum, card) => sum + card.minutes, 0),
        height: HEADING,
      });
    let left = 0;
    let row: (TrayRow & { kind: 'cards' }) | null = null;
    for (const card of own) {
      const width = widthOf(card, room);
      if (!row || left < width) {
        row = { kind: 'cards', key: `${group.key} ${card.task.id}`, cards: [], height: CARD + GAP };
        rows.push(row);
        left = room;
      }
      row.cards.push({ card, width });
      left -= width + GAP;
    }
  }
  return rows;
}
