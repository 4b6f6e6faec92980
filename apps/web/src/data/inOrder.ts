let last: Promise<unknown> = Promise.resolve();
let leaving: Promise<unknown> | null = null;

/**
 * Sends what is done one after the other: an undo pressed at once must not overtake what it is meant to take back.
 * When the page goes away nothing waits any more: what is not sent by then would be lost.
 */
export function inOrder<T>(work: () => Promise<T>): Promise<T> {
  leaving ??= new Promise((resolve) =>
    addEventListener(
      'pagehide',
      (event) => {
        resolve(event);
        // A page that is shown once more goes on in order.
        addEventListener('pageshow', () => (leaving = null), { once: true });
      },
      { once: true },
    ),
  );
  const run = Promise.race([last, leaving]).then(work);
  last = run.catch(() => undefined);
  return run;
}
