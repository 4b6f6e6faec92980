import type { Destination } from '@corvun/core';
import { create } from 'zustand';
import { createJSONStorage, persist } from 'zustand/middleware';
import type { DecisionDraft } from './proposal';

/** The destination whose questions are open. */
export type Panel = Destination;

interface DraftState {
  drafts: Record<string, DecisionDraft>;
  panel: Panel | null;
  /** The incoming whose “before it goes” is open. */
  beforeItGoes: string | null;
  edit: (id: string, change: DecisionDraft) => void;
  forget: (id: string) => void;
  open: (panel: Panel | null) => void;
  openBeforeItGoes: (id: string | null) => void;
}

/** Changes not decided yet, kept across a reload of this window. */
export const useDrafts = create<DraftState>()(
  persist(
    (set) => ({
      drafts: {},
      panel: null,
      beforeItGoes: null,
      edit: (id, change) => set(({ drafts }) => ({ drafts: { ...drafts, [id]: { ...drafts[id], ...change } } })),
      // The open panel stays: when this is called, it belongs to the next one already.
      forget: (id) => set(({ drafts }) => ({ drafts: Object.fromEntries(Object.entries(drafts).filter(([key]) => key !== id)) })),
      open: (panel) => set({ panel }),
      openBeforeItGoes: (beforeItGoes) => set({ beforeItGoes }),
    }),
    { name: 'corvun-decide', storage: createJSONStorage(() => window.sessionStorage), partialize: ({ drafts }) => ({ drafts }) },
  ),
);
