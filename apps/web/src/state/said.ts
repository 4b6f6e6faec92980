import { create } from 'zustand';

interface Also {
  name: string;
  run: () => void;
}

/** The line that says what was done, or what went wrong. */
export interface SaidLine {
  text: string;
  tone: 'done' | 'wrong';
  undo: boolean;
  /** What else is offered. */
  also?: Also | undefined;
  count: number;
}

interface Said {
  line: SaidLine | null;
  say: (text: string, undo?: 'undo' | 'none', also?: Also) => void;
  complain: (problem: unknown) => void;
  hush: () => void;
}

export const useSaid = create<Said>((set, get) => {
  const next = () => (get().line?.count ?? 0) + 1;
  return {
    line: null,
    say: (text, undo = 'undo', also) => set({ line: { text, tone: 'done', undo: undo === 'undo', also, count: next() } }),
    complain: (problem) =>
      set({
        line: {
          text: problem instanceof Error ? problem.message : 'Something went wrong. Nothing was changed.',
          tone: 'wrong',
          undo: false,
          count: next(),
        },
      }),
    hush: () => set({ line: null }),
  };
});
