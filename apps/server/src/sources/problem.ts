/** Why a source could not be reached or understood; the message is a sentence for the user. */
export class SourceProblem extends Error {
  constructor(
    message: string,
    /** `wait`: try again later; `refused`: trying again changes nothing until someone acts. */
    readonly kind: 'wait' | 'refused' | 'changed' = 'wait',
    /** Seconds the source asked to wait. */
    readonly retryAfter: number | null = null,
    /** The present state, where the source sent it along with its refusal. */
    readonly present: unknown = null,
  ) {
    super(message);
  }
}

/** A sentence for anything that went wrong while speaking to a source. */
export function sentenceOf(problem: unknown, name: string): string {
  if (problem instanceof SourceProblem) return problem.message;
  const code = (problem as NodeJS.ErrnoException | null)?.code ?? '';
  const sentences: Record<string, string> = {
    ECONNREFUSED: `${name} does not answer: nothing listens there.`,
    ENOTFOUND: `${name} cannot be found under this name.`,
    EAI_AGAIN: `${name} cannot be found right now.`,
    ECONNRESET: `${name} broke off in the middle.`,
    ETIMEDOUT: `${name} did not answer in time.`,
    ENOENT: `${name}: there is no such folder or file.`,
    EACCES: `${name}: reading it is not allowed.`,
  };
  return sentences[code] ?? `${name}: ${problem instanceof Error ? problem.message : 'something went wrong'}`;
}
