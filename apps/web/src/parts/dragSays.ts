import { plainSubject, sayDay, type Day } from '@corvun/core';
import type { Active, Announcements, Over } from '@dnd-kit/core';

/** What may be dragged, or be under what is dragged. */
interface Dragged {
  says?: string;
  line?: { subject: string };
  task?: { title: string };
  row?: { title: string };
  list?: { name: string };
  entry?: { title: string };
  cards?: readonly unknown[];
  tag?: string;
  day?: Day;
  week?: string;
  strip?: { day: Day };
  input?: { to: string; list?: string; day?: Day };
}

function nameOf({ data }: Active | Over): string {
  const held = data.current as (Dragged & { current?: Dragged }) | undefined;
  const { says, line, task, row, list, entry, cards, tag, day, week, strip, input } = held?.current ?? held ?? {};
  if (line) return plainSubject(line.subject) || 'No subject';
  if (cards) return cards.length === 1 ? 'a card of the tray' : `${cards.length} cards of the tray`;
  if (strip) return sayDay(strip.day, '');
  if (input) return input.list ?? (input.day ? sayDay(input.day, '') : input.to);
  if (tag) return `#${tag}`;
  if (day) return sayDay(day, '');
  if (week) return `week ${Number(week.slice(6))}`;
  return says ?? task?.title ?? row?.title ?? list?.name ?? entry?.title ?? 'it';
}

const announcements: Announcements = {
  onDragStart: ({ active }) => `${nameOf(active)} is dragged.`,
  onDragOver: ({ active, over }) => (over ? `${nameOf(active)} is over ${nameOf(over)}.` : undefined),
  // What came of it is said as everything else that is done.
  onDragEnd: ({ active, over }) => (over ? undefined : `${nameOf(active)} was let go.`),
  onDragCancel: ({ active }) => `${nameOf(active)} stays where it was.`,
};

/** What is said of a drag to those who do not see it: by names. Nothing is dragged with keys; each has keys of its own. */
export const DRAG_SAYS = { announcements, screenReaderInstructions: { draggable: '' } };
