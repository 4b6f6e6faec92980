import type { AgendaEntry } from '@corvun/contract';
import { create } from 'zustand';
import type { Card } from './tray';

/** Where an entry is put: a day, and minutes after midnight, or no time of day. */
export interface Target {
  day: string;
  from: number | null;
  minutes: number;
  /** In what is to be done on a day without hours: before which task, null for the last. */
  before?: string | null;
  /** Where calendars stand side by side: in which of them. */
  calendarId?: string;
}

/** What is being put somewhere, by keys or by dragging: cards of the tray, or an entry of the days. */
export type Placing = { what: 'cards'; cards: readonly Card[] } | { what: 'move' | 'resize'; entry: AgendaEntry };

/** What is asked before an entry is put elsewhere or taken away: how much of a series is meant, and whether its guests are told. */
export interface Asked {
  entry: AgendaEntry;
  /** Null: it is taken away. */
  target: Target | null;
  /** It stays: what is asked is which sites are held back in it. */
  sites?: true;
}

/** How much of a series is meant. */
export type Scope = 'this' | 'following' | 'all';

interface Planning {
  /** What is put somewhere by keys, and where it stands now. */
  placing: (Placing & { target: Target }) | null;
  /** What is dragged, as long as it is. */
  dragged: Placing | null;
  asked: Asked | null;
  /** Where a line that is being written puts something new. */
  said: Target | null;
  /** The entry that gets the focus where it appears anew, by `entryKey`. */
  focus: string | null;
  /** The answer that was given last. */
  scope: Scope;
  /** Entries that are marked, to change them together, by `entryKey`. */
  marked: ReadonlySet<string>;
  cards: ReadonlySet<string>;
  /** Times that are marked to be offered to somebody, by their starts; null: none are. */
  offering: { minutes: number; starts: readonly number[] } | null;
  /** Height of the bar in which they are offered, in pixels. */
  offerBar: number;
  /** Height of the bar of a plan that is looked at, in pixels. */
  draftBar: number;
  place: (placing: Planning['placing']) => void;
  ask: (asked: Asked | null) => void;
  choose: (scope: Scope) => void;
  mark: (key: string) => void;
  markCard: (id: string) => void;
  none: () => void;
}

const turned = (all: ReadonlySet<string>, one: string): ReadonlySet<string> => {
  const next = new Set(all);
  if (!next.delete(one)) next.add(one);
  return next;
};

/** What is under way on Plan; nothing of it is kept. */
export const usePlanning = create<Planning>((set) => ({
  placing: null,
  dragged: null,
  asked: null,
  said: null,
  focus: null,
  scope: 'this',
  marked: new Set(),
  cards: new Set(),
  offering: null,
  offerBar: 0,
  draftBar: 0,
  place: (placing) => set({ placing }),
  ask: (asked) => set({ asked }),
  choose: (scope) => set({ scope }),
  mark: (key) => set(({ marked }) => ({ marked: turned(marked, key) })),
  markCard: (id) => set(({ cards }) => ({ cards: turned(cards, id) })),
  none: () => set({ marked: new Set(), cards: new Set() }),
}));

/** Names an entry of the days: one date of a series is not another. */
export const entryKey = ({ kind, id, occurrence }: Pick<AgendaEntry, 'kind' | 'id' | 'occurrence'>): string =>
  `${kind} ${id} ${occurrence ?? ''}`;

/** Gives the focus to an entry that stands there. */
export const focusEntry = (id: string): void =>
  document.querySelector<HTMLElement>(`[data-entry="${id}"] button:not([role])`)?.focus();
