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
  const tls = tlsSentence(code, problem instanceof Error ? problem.message : '', name);
  return sentences[code] ?? tls ?? `${name}: ${problem instanceof Error ? problem.message : 'something went wrong'}`;
}

/** What is wrong with an encrypted line, without the words of the library; null when it is something else. */
function tlsSentence(code: string, message: string, name: string): string | null {
  if (code === 'CERT_HAS_EXPIRED') return `${name} shows a certificate that has expired, so nothing was sent there.`;
  if (/SELF_SIGNED|UNABLE_TO_(?:VERIFY|GET)|CERT_UNTRUSTED|CERT_SIGNATURE/.test(code))
    return `${name} shows a certificate that nobody known has signed, so nothing was sent there.`;
  if (code === 'ERR_TLS_CERT_ALTNAME_INVALID') return `${name} shows a certificate for another name, so nothing was sent there.`;
  if (/^(?:ERR_SSL_|ERR_TLS_|EPROTO|CERT_)/.test(code) || /\bSSL routines\b|\btls_|certificate/i.test(message))
    return `${name} does not speak TLS as expected. Look at its port: the encrypted and the plain line have different ones.`;
  return null;
}
