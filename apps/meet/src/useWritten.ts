import { useState } from 'react';
import { NOTHING, type Written } from './Visitor';

/** What a visitor has written at an address; it survives a reload. */
export function useWritten(link: string): [Written, (written: Written) => void, () => void] {
  const key = `corvun-visitor ${link}`;
  const [written, set] = useState<Written>(() => {
    try {
      return { ...NOTHING, ...(JSON.parse(sessionStorage.getItem(key) ?? '{}') as Partial<Written>) };
    } catch {
      return NOTHING;
    }
  });
  return [
    written,
    (next) => {
      sessionStorage.setItem(key, JSON.stringify(next));
      set(next);
    },
    () => sessionStorage.removeItem(key),
  ];
}
