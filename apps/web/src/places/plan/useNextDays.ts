import { addDays } from '@corvun/core';
import { useEffect } from 'react';
import { client, daysQuery } from '../../data/queries';
import type { Shown } from './shown';

/** Asks for the days after and before those that are shown while nothing else is to be done: turning to them waits for nothing. */
export function useNextDays(ready: boolean, { first, step, span }: Pick<Shown, 'first' | 'step' | 'span'>): void {
  useEffect(() => {
    if (!ready) return undefined;
    const timer = setTimeout(() => {
      for (const by of [step, -step]) void client.prefetchQuery({ ...daysQuery(addDays(first, by), span), staleTime: 60_000 });
    }, 50);
    return () => clearTimeout(timer);
  }, [ready, first, step, span]);
}
