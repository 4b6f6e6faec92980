import { useCallback, useLayoutEffect, useRef } from 'react';

/** A function that stays the same while what it does follows the last render, so that what gets it is not drawn anew. */
export function useStable<A extends unknown[], R>(work: (...args: A) => R): (...args: A) => R {
  const latest = useRef(work);
  useLayoutEffect(() => {
    latest.current = work;
  });
  return useCallback((...args: A) => latest.current(...args), []);
}
