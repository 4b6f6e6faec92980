import { useSyncExternalStore } from 'react';

const query = window.matchMedia('(max-width: 759px)');

/** Whether the window is as narrow as a telephone's. */
export function useNarrow(): boolean {
  return useSyncExternalStore(
    (changed) => {
      query.addEventListener('change', changed);
      return () => query.removeEventListener('change', changed);
    },
    () => query.matches,
  );
}
