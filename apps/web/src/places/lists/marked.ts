import { create } from 'zustand';

interface Marked {
  ids: ReadonlySet<string>;
  /** Where marking on begins. */
  anchor: string | null;
  turn: (id: string) => void;
  /** Marks from the anchor to here, of all that are shown. */
  to: (id: string, shown: readonly string[]) => void;
  all: (shown: readonly string[]) => void;
  none: () => void;
}

/** The tasks that are marked, to change them together. */
export const useMarked = create<Marked>((set, get) => ({
  ids: new Set(),
  anchor: null,
  turn: (id) => {
    const ids = new Set(get().ids);
    if (!ids.delete(id)) ids.add(id);
    set({ ids, anchor: id });
  },
  to: (id, shown) => {
    const { anchor, ids } = get();
    const [from, until] = [shown.indexOf(anchor ?? id), shown.indexOf(id)];
    if (from < 0 || until < 0) return set({ ids: new Set([...ids, id]), anchor: id });
    const between = shown.slice(Math.min(from, until), Math.max(from, until) + 1);
    return set({ ids: new Set([...ids, ...between]) });
  },
  all: (shown) => set({ ids: new Set(shown) }),
  none: () => set({ ids: new Set(), anchor: null }),
}));
