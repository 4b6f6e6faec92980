import { hourNow, minutesOf, snap } from './grid';
import { standing } from './moves';
import type { Placing, Target } from './planning';
import { changesCalendar } from './sides';

/** How long what is dragged is, in minutes: cards one after the other. */
export const lengthOf = (placing: Placing): number =>
  placing.what === 'cards' ? placing.cards.reduce((sum, card) => sum + card.minutes, 0) : minutesOf(placing.entry);

export interface Point {
  x: number;
  y: number;
}

/** How far below its upper edge something was taken hold of, in pixels, where cards have no place in the grid yet. */
const CARD_GRIP = 8;

/** @param element that was taken hold of */
export function gripOf(placing: Placing, { y }: Point, element: DOMRect | null | undefined): number {
  const timed = placing.what === 'move' && placing.entry.kind !== 'task' && !placing.entry.allDay;
  return timed && element ? y - element.top : CARD_GRIP;
}

/** Where a drag has got to: a day, and the minute of it, or no minute over the head of a day; null beside the days. */
export function targetAt(
  placing: Placing,
  pointer: Point,
  grip: number,
  columns: HTMLDivElement | null,
  step: number,
): Target | null {
  const scroller = columns?.parentElement?.getBoundingClientRect();
  if (!columns || !scroller) return null;
  const within = ({ left, right, top, bottom }: DOMRect) =>
    pointer.x >= left && pointer.x < right && pointer.y >= top && pointer.y <= bottom;
  const minuteIn = (grid: Element | null | undefined) =>
    grid ? ((pointer.y - grip - grid.getBoundingClientRect().top) / hourNow()) * 60 : 0;
  if (placing.what === 'resize') {
    const now = standing(placing.entry);
    const grid = columns.querySelector(`[data-day="${now.day}"] [data-grid]`);
    return { ...now, minutes: Math.max(step, snap(minuteIn(grid) - (now.from ?? 0), step)) };
  }
  // The tray lies over the hours that are scrolled out of sight.
  if (!within(scroller)) return null;
  const timed = placing.what === 'move' ? standing(placing.entry) : null;
  const find = (selector: string) =>
    [...columns.querySelectorAll<HTMLElement>(selector)].find((one) => within(one.getBoundingClientRect()));
  const minutes = lengthOf(placing);
  // Where there are no hours, what has a time keeps it.
  const cell = find('[data-cell]')?.dataset['cell'];
  if (cell) return { day: cell, from: timed?.from ?? null, minutes };
  const spread = find('[data-spread]');
  if (spread) {
    const before =
      placing.what === 'move' && placing.entry.kind === 'task' ? { before: taskBelow(spread, pointer, placing.entry.id) } : {};
    return { day: spread.dataset['spread'] ?? '', from: timed?.from ?? null, minutes, ...before };
  }
  // The head of a day stays above its hours when those are scrolled.
  const head = find('[data-head]')?.dataset['head'];
  if (head) return { day: head, from: null, minutes };
  const column = find('[data-day]');
  const day = column?.dataset['day'];
  if (!column || !day) return null;
  const from = snap(minuteIn(column.querySelector('[data-grid]')), step);
  const calendarId = changesCalendar(placing) ? column.dataset['calendar'] : undefined;
  return { ...(calendarId ? { calendarId } : {}), day, from: Math.min(1440 - step, Math.max(0, from)), minutes };
}

/** The first task of a column below the pointer; null where there is none. */
function taskBelow(column: HTMLElement, pointer: Point, itself: string): string | null {
  const below = [...column.querySelectorAll<HTMLElement>('[data-entry][data-loose]')].find((one) => {
    const { top, height } = one.getBoundingClientRect();
    return one.dataset['entry'] !== itself && pointer.y < top + height / 2;
  });
  return below?.dataset['entry'] ?? null;
}
