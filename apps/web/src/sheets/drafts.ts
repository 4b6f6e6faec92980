import { create } from 'zustand';
import { createJSONStorage, persist } from 'zustand/middleware';

interface Written {
  texts: Record<string, string>;
  write: (key: string, text: string | null) => void;
}

/** What is being written into a field and not saved yet; it survives a reload of this window. */
export const useWritten = create<Written>()(
  persist(
    (set) => ({
      texts: {},
      write: (key, text) =>
        set(({ texts }) => {
          const { [key]: _old, ...others } = texts;
          return { texts: text === null ? others : { ...others, [key]: text } };
        }),
    }),
    { name: 'corvun-written', storage: createJSONStorage(() => window.sessionStorage) },
  ),
);

/** The text of a field while it is written in; null where nothing is written. */
export function useDraft(key: string): [text: string | null, write: (text: string | null) => void] {
  const text = useWritten((state) => state.texts[key] ?? null);
  const write = useWritten((state) => state.write);
  return [text, (next) => write(key, next)];
}
