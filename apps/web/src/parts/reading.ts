import type { Draft } from '@corvun/core';
import { useSyncExternalStore } from 'react';
import type * as Readings from './readers';

type Reading = typeof Readings;

interface Readers {
  /** A line as the capture line reads it; null while the readers are on their way. */
  parseLine: (...said: Parameters<Reading['parseLine']>) => Draft | null;
  typedDates: Reading['typedDates'];
  readRepeat: Reading['readRepeat'];
}

const NOTHING: Readers = { parseLine: () => null, typedDates: () => [], readRepeat: () => null };

let loaded: Readers = NOTHING;
let loading: Promise<void> | undefined;
const waiting = new Set<() => void>();

function load(): void {
  loading ??= import('./readers').then(
    (readers) => {
      loaded = readers;
      for (const tell of waiting) tell();
    },
    (problem: unknown) => {
      // The next field that wants them asks again.
      loading = undefined;
      window.reportError(problem);
    },
  );
}

function subscribe(tell: () => void): () => void {
  waiting.add(tell);
  load();
  return () => waiting.delete(tell);
}

/** Readers of typed words. They are large, and come after the first picture; whoever uses them is drawn again then. */
export const useReading = (): Readers => useSyncExternalStore(subscribe, () => loaded);
