import type { Destination } from '@corvun/core';
import { create } from 'zustand';
import { keptHere } from '../../state/kept';
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

const EMPTY = { text: '', to: '' };
const kept = keptHere<DecisionDraft>('decide');

/** Changes not decided yet; they stay until it is decided. */
export const useDrafts = create<DraftState>()((set) => ({
  drafts: kept.all(),
  panel: null,
  beforeItGoes: null,
  edit: (id, change) =>
    set(({ drafts }) => {
      const draft = { ...drafts[id], ...change };
      kept.put(id, draft);
      return { drafts: { ...drafts, [id]: draft } };
    }),
  // The open panel stays: when this is called, it belongs to the next one already.
  forget: (id) => {
    kept.put(id, null);
    set(({ drafts: { [id]: _old, ...drafts } }) => ({ drafts }));
  },
  open: (panel) => set({ panel }),
  openBeforeItGoes: (beforeItGoes) => set({ beforeItGoes }),
}));

/** Opens the reply or the forward below a mail. */
export function openMail(id: string, kind: 'reply' | 'forward'): void {
  const { drafts, edit } = useDrafts.getState();
  edit(id, { mail: { ...EMPTY, ...drafts[id]?.mail, kind, closed: false } });
}
