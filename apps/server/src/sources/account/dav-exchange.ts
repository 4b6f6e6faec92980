import type { Reach } from '../adapter';
import { HTTP_LIMITS, type HttpLimits, type OutsideHttp } from '../outside-http';
import { SourceProblem } from '../problem';

const LIMITS: HttpLimits = { ...HTTP_LIMITS, idle: 90_000, total: 180_000, maxBytes: 24 * 1024 * 1024 };

/** A server said no; its status says how. */
export class DavProblem extends SourceProblem {
  constructor(
    readonly status: number,
    message: string,
    kind: 'wait' | 'refused' | 'changed',
    after: number | null = null,
  ) {
    super(message, kind, after);
  }
}

/** Exchanges with the server of an account, through the one door to the outside, for the client package to use. */
export class DavExchange {
  protected readonly host: string;
  protected readonly address: string;

  /** @param home address of the calendar home, where it is known already */
  constructor(
    private readonly http: OutsideHttp,
    private readonly reach: Pick<Reach, 'source' | 'secret' | 'signal'>,
    public home = '',
  ) {
    const { address } = reach.source;
    this.address = /^https?:\/\//i.test(address) ? address : `https://${address}`;
    this.host = hostOf(home || this.address);
  }

  /** What the client package asks with. */
  protected readonly fetch: typeof globalThis.fetch = async (input, init = {}) => {
    const { method = 'GET', body, redirect } = init;
    const url = typeof input === 'string' ? input : input instanceof URL ? input.href : input.url;
    return this.exchange(url, method, Object.fromEntries(new Headers(init.headers)), body as string | undefined, {
      ...(redirect === 'manual' ? { maxRedirects: 0 } : {}),
    });
  };

  protected async exchange(
    url: string,
    method: string,
    headers: Record<string, string>,
    text: string | undefined,
    more: Partial<HttpLimits>,
  ): Promise<Response> {
    const limits = { ...LIMITS, ...more };
    const { source, secret, signal } = this.reach;
    const login = source.account ? `Basic ${Buffer.from(`${source.account}:${secret}`).toString('base64')}` : `Bearer ${secret}`;
    const answer = await this.http.ask(url, {
      method,
      headers: { ...headers, ...(secret ? { Authorization: login } : {}) },
      ...(text === undefined ? {} : { text }),
      limits,
      signal,
    });
    const said = await this.http.textOf(answer, this.host, limits);
    const { status } = answer;
    if (status >= 400) throw this.problemOf(status, Number(answer.headers['retry-after']), said);
    const type = String(answer.headers['content-type'] ?? '');
    // Free and busy time comes as a calendar (RFC 4791, 7.10); all else that is asked for as a whole multistatus.
    const whole = method === 'PROPFIND' || (method === 'REPORT' && !/^text\/calendar\b/i.test(type));
    if (whole && status < 300) refuseHalf(said, type, this.host);
    const kept = Object.entries(answer.headers).flatMap(([name, value]) =>
      typeof value === 'string' ? [[name, value] as [string, string]] : [],
    );
    return new Response([204, 304].includes(status) ? null : said, { status, headers: kept });
  }

  private problemOf(status: number, after: number, said: string): DavProblem {
    const wait = Number.isFinite(after) && after > 0 ? Math.min(after, 3600) : null;
    const sentence = SENTENCES[status];
    if (sentence) return new DavProblem(status, `${this.host} ${sentence}`, KINDS[status] ?? 'refused', wait);
    const condition = /<(?:[\w-]+:)?error[^>]*>\s*<(?:[\w-]+:)?([\w-]+)/.exec(said)?.[1];
    const why = condition ? `${status}, ${condition}` : String(status);
    return new DavProblem(status, `${this.host} answered with an error (${why}).`, status >= 500 ? 'wait' : 'refused', wait);
  }

  protected at = (path: string): string => new URL(path, this.home || this.address).href;
  protected pathOf = (href: string): string => new URL(href, this.home || this.address).pathname;
}

const SENTENCES: Record<number, string> = {
  401: 'does not accept the name and password.',
  403: 'does not allow this.',
  404: 'has nothing at this address (404).',
  405: 'has no calendars at this address (405).',
  409: 'says that it was changed there meanwhile.',
  410: 'has nothing at this address (410).',
  412: 'says that it was changed there meanwhile.',
  413: 'does not take anything that large.',
  429: 'asks to wait (429).',
  503: 'asks to wait (503).',
  507: 'has no room left (507).',
};
const KINDS: Record<number, 'wait' | 'changed'> = { 409: 'changed', 412: 'changed', 429: 'wait', 503: 'wait', 507: 'wait' };

/** @throws SourceProblem where an answer is a page for people, or breaks off */
function refuseHalf(text: string, type: string, host: string): void {
  if (!/xml/i.test(type) || /^\s*(?:<!doctype\s+html|<html)/i.test(text))
    throw new SourceProblem(`${host} answers with a page for people, not with calendars. Look at the address.`);
  if (!/<\/(?:[\w.-]+:)?multistatus\s*>\s*$/i.test(text) && !/<(?:[\w.-]+:)?multistatus\b[^>]*\/>\s*$/i.test(text))
    throw new SourceProblem(`${host} broke off in the middle of its answer.`);
}

function hostOf(address: string): string {
  try {
    return new URL(address).host;
  } catch {
    return address.slice(0, 200);
  }
}
