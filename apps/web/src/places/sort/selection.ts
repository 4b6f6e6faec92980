import type { IncomingLine } from '@corvun/contract';
import { create } from 'zustand';

/** What of the stack is shown. */
export const ONLY = {
  all: 'everything',
  mail: 'mail',
  chat: 'chat',
  invitation: 'invitations',
  card: 'cards',
  typed: 'typed',
  bulk: 'newsletters and notices',
} as const;
export type Only = keyof typeof ONLY;

interface Selection {
  marked: ReadonlySet<string>;
  only: Only;
  /** Whether a touch marks instead of opening. */
  marking: boolean;
  turn: (id: string) => void;
  add: (ids: readonly string[]) => void;
  clear: () => void;
  setMarking: (marking: boolean) => void;
  setOnly: (only: Only) => void;
}

/** What is marked to be decided together, and what is shown; of this window, until it is closed. */
export const useSelection = create<Selection>((set) => ({
  marked: new Set(),
  only: 'all',
  marking: false,
  turn: (id) =>
    set(({ marked }) => {
      const next = new Set(marked);
      if (!next.delete(id)) next.add(id);
      return { marked: next };
    }),
  add: (ids) => set(({ marked }) => ({ marked: new Set([...marked, ...ids]) })),
  clear: () => set({ marked: new Set(), marking: false }),
  setMarking: (marking) => set({ marking }),
  // A mark that cannot be seen must not be decided along.
  setOnly: (only) => set({ only, marked: new Set() }),
}));

export const isShown = (line: IncomingLine, only: Only): boolean =>
  only === 'all' || (only === 'bulk' ? line.bulk : line.kind === only && !(only === 'mail' && line.bulk));
