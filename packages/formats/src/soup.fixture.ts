import fc from 'fast-check';

/** Pieces of what a reader knows, in any order, with any bytes between them. */
export const soup = (...words: string[]) =>
  fc
    .array(
      fc.oneof(
        { weight: 4, arbitrary: fc.constantFrom(...words) },
        { weight: 1, arbitrary: fc.string({ unit: 'binary', maxLength: 12 }) },
      ),
      { maxLength: 40 },
    )
    .map((parts) => parts.join(''));

/** Only errors that a reader says it throws are no crash. */
export async function calm<T>(work: () => Promise<T> | T, ...known: (new (...args: never[]) => Error)[]): Promise<T | null> {
  try {
    return await work();
  } catch (problem) {
    if (known.some((one) => problem instanceof one)) return null;
    throw problem;
  }
}
