import { useEffect } from 'react';
import { create } from 'zustand';
import { createJSONStorage, persist } from 'zustand/middleware';
import { keptHere } from '../state/kept';

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

const letters = keptHere<string>('text');

/** What is being written into fields of more than a line. */
export const useLetters = create<Written>()((set) => ({
  texts: letters.all(),
  write: (key, text) => {
    letters.put(key, text);
    set(({ texts: { [key]: _old, ...others } }) => ({ texts: text === null ? others : { ...others, [key]: text } }));
  },
}));

/** As `useDraft`, for a field of more than a line: its text stays until it is sent, saved or thrown away, also without its window. */
export function useLongDraft(key: string): [text: string | null, write: (text: string | null) => void] {
  const text = useLetters((state) => state.texts[key] ?? null);
  const write = useLetters((state) => state.write);
  return [text, (next) => write(key, next)];
}

/** A line that is saved when it is left, also when it is left by a reload of the window. */
export interface KeptField {
  /** What stands in it. */
  text: string;
  /** Whether it was emptied, and says nothing that can be kept. */
  empty: boolean;
  write: (text: string | null) => void;
  leave: () => Promise<void>;
}

/**
 * @param key of the draft
 * @param present what is kept now
 * @param save resolves to whether it was kept; where not, what was written stays in the field
 */
export function useKeptField(key: string, present: string, save: (text: string) => Promise<boolean>): KeptField {
  const [text, write] = useDraft(key);
  const leave = async () => {
    // What is drawn may be older: a field is left in the same moment in which it is given back.
    const now = useWritten.getState().texts[key];
    const said = now?.trim();
    if (now === undefined || !said) return;
    if (said !== present && !(await save(said))) return;
    if (useWritten.getState().texts[key] === now) write(null);
  };
  useEffect(() => void leave(), [key]);
  return { text: text ?? present, empty: text?.trim() === '', write, leave };
}
