import type { DecideInput, IncomingLine } from '@corvun/contract';
import type { Priority } from '@corvun/core';
import { create } from 'zustand';
import { createJSONStorage, persist } from 'zustand/middleware';

/** What the user changed of a proposal before deciding. Absent: as proposed. */
export interface DecisionDraft {
  title?: string;
  deadline?: string | null;
  fixed?: boolean;
  minutes?: number | null;
  tags?: string[];
  priority?: Priority;
}

export type Panel = 'list' | 'day' | 'time' | 'event' | 'hand-over' | 'shelf';

interface DraftState {
  drafts: Record<string, DecisionDraft>;
  panel: Panel | null;
  edit: (id: string, change: DecisionDraft) => void;
  forget: (id: string) => void;
  open: (panel: Panel | null) => void;
}

/** Changes not decided yet, kept across a reload of this window. */
export const useDrafts = create<DraftState>()(
  persist(
    (set) => ({
      drafts: {},
      panel: null,
      edit: (id, change) => set(({ drafts }) => ({ drafts: { ...drafts, [id]: { ...drafts[id], ...change } } })),
      forget: (id) =>
        set(({ drafts }) => ({ drafts: Object.fromEntries(Object.entries(drafts).filter(([key]) => key !== id)), panel: null })),
      open: (panel) => set({ panel }),
    }),
    { name: 'corvun-decide', storage: createJSONStorage(() => window.sessionStorage), partialize: ({ drafts }) => ({ drafts }) },
  ),
);

export interface Proposal {
  title: string;
  deadline: string | null;
  fixed: boolean;
  minutes: number | null;
  tags: string[];
  priority: Priority;
  list: string | null;
}

/** The proposal with the user's changes. */
export function proposalOf({ suggestion, subject }: IncomingLine, draft: DecisionDraft = {}): Proposal {
  return {
    title: draft.title ?? suggestion?.title ?? subject,
    deadline: draft.deadline === undefined ? (suggestion?.deadline ?? null) : draft.deadline,
    fixed: draft.fixed ?? suggestion?.deadlineFixed ?? false,
    minutes: draft.minutes === undefined ? (suggestion?.minutes ?? null) : draft.minutes,
    tags: draft.tags ?? suggestion?.tags ?? [],
    priority: draft.priority ?? suggestion?.priority ?? 'normal',
    list: suggestion?.list ?? null,
  };
}

/** The fields every destination takes from the proposal. */
export function fieldsOf({ title, deadline, fixed, minutes, tags, priority, list }: Proposal): Partial<DecideInput> {
  return { ...(title.trim() ? { title: title.trim() } : {}), deadline, fixed, minutes, tags, priority, list };
}
