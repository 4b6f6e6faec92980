import { XmlError, conditionOf, type Multistatus } from '@corvun/formats';
import { ReadingLimit, type ReadingPool } from '../../reading/reading-pool.service';
import type { Reach } from '../adapter';
import { addressOf, isSamePlace } from './dav-values';
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

/** Exchanges with the server of an account, through the one door to the outside, and with no other than that server. */
export class DavExchange {
  protected readonly host: string;
  /** Where the user said that it is; ends with a slash. */
  protected readonly address: string;

  /** @param home address of the calendar home, where it is known already */
  constructor(
    private readonly http: OutsideHttp,
    protected readonly reading: ReadingPool,
    private readonly reach: Pick<Reach, 'source' | 'secret' | 'signal'>,
    public home = '',
  ) {
    const { address } = reach.source;
    const whole = /^https?:\/\//i.test(address) ? address : `https://${address}`;
    if (!URL.canParse(whole)) throw new SourceProblem(`${whole.slice(0, 200)} is not an address.`, 'refused');
    this.address = new URL(whole).href;
    this.host = new URL(home && URL.canParse(home) ? home : this.address).host;
  }

  /** Asks for an answer as a whole. @throws SourceProblem with a sentence for every status that is no success */
  protected async exchange(
    url: string,
    method: string,
    headers: Record<string, string>,
    text?: string,
    more: Partial<HttpLimits> = {},
  ): Promise<DavAnswer> {
    const limits = { ...LIMITS, ...more };
    const { source, secret, signal } = this.reach;
    if (!this.isOwn(url)) throw elsewhere(this.host, url);
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
    const { etag = '', location = '' } = answer.headers;
    return { status, type: String(answer.headers['content-type'] ?? ''), etag, location, text: said };
  }

  /** Asks for what a multistatus says. @param body what stands in the request, without its namespaces */
  protected async ask(
    url: string,
    method: 'PROPFIND' | 'REPORT',
    depth: '0' | '1',
    name: string,
    body: string,
  ): Promise<Multistatus> {
    const text = `<?xml version="1.0" encoding="utf-8"?><${name} ${NAMESPACES}>${body}</${name}>`;
    const headers = { depth, 'content-type': 'application/xml; charset=utf-8' };
    return this.multistatusOf(await this.exchange(url, method, headers, text));
  }

  /** @throws SourceProblem where an answer is a page for people, breaks off, or is no multistatus */
  protected async multistatusOf({ type, text }: DavAnswer): Promise<Multistatus> {
    if (!/xml/i.test(type) || /^\s{0,200}(?:<!doctype\s{1,20}html|<html)/i.test(text.slice(0, 1000)))
      throw new SourceProblem(`${this.host} answers with a page for people, not with calendars. Look at the address.`);
    try {
      return await this.reading.multistatus(text);
    } catch (problem) {
      if (!(problem instanceof XmlError) && !(problem instanceof ReadingLimit)) throw problem;
      if (/unclosed tag|end of document/i.test(problem.message))
        throw new SourceProblem(`${this.host} broke off in the middle of its answer.`);
      throw new Unreadable(`${this.host} sent an answer that cannot be read: ${problem.message}`);
    }
  }

  private problemOf(status: number, after: number, said: string): DavProblem {
    const wait = Number.isFinite(after) && after > 0 ? Math.min(after, 3600) : null;
    const sentence = SENTENCES[status];
    if (sentence) return new DavProblem(status, `${this.host} ${sentence}`, KINDS[status] ?? 'refused', wait);
    const condition = conditionOf(said);
    const why = condition ? `${status}, ${condition}` : String(status);
    return new DavProblem(status, `${this.host} answered with an error (${why}).`, status >= 500 ? 'wait' : 'refused', wait);
  }

  /** Whether an address is at the place that the user named, or at the same name by a way on which nobody listens. */
  protected isOwn = (url: string): boolean => isSamePlace(this.address, url);

  /** The address that a server names; null where that is at another place. */
  protected own(href: string, base = this.home || this.address): string | null {
    const url = URL.canParse(href, base) ? new URL(href, base).href : null;
    return url !== null && this.isOwn(url) ? url : null;
  }

  protected at = (path: string): string => addressOf(this.home || this.address, path);

  /** The path of an address that the server names; null where that is at another place. */
  protected pathOf(href: string): string | null {
    const url = this.own(href);
    return url === null ? null : new URL(url).pathname;
  }
}

/** An answer that is none: what was asked for together may be had one by one. */
export class Unreadable extends SourceProblem {}

/** An answer that is no refusal, with its body. */
export interface DavAnswer {
  status: number;
  type: string;
  etag: string;
  location: string;
  text: string;
}

/** A server sends on to another place: nothing of the account is sent there. */
export const elsewhere = (host: string, url: string): SourceProblem =>
  new SourceProblem(
    `${host} sends on to ${new URL(url).origin}, and your password goes nowhere but to ${host}. Write that address in the source if you trust it.`,
    'refused',
  );

const NAMESPACES = 'xmlns:d="DAV:" xmlns:c="urn:ietf:params:xml:ns:caldav" xmlns:cs="http://calendarserver.org/ns/"';

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
