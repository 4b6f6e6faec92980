let last: Promise<unknown> = Promise.resolve();

/** Sends doings one after the other: an undo pressed at once must not overtake what it is meant to take back. */
export function inOrder<T>(work: () => Promise<T>): Promise<T> {
  const run = last.then(work);
  last = run.catch(() => undefined);
  return run;
}
