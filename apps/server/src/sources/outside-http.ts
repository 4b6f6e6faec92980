import { Inject, Injectable } from '@nestjs/common';
import ipaddr from 'ipaddr.js';
import { lookup as systemLookup, type LookupAddress } from 'node:dns';
import { request as httpRequest, type IncomingMessage } from 'node:http';
import { request as httpsRequest } from 'node:https';
import type { LookupFunction } from 'node:net';
import { CONFIG, type Config } from '../base/config';
import { SourceProblem, sentenceOf } from './problem';

export interface HttpLimits {
  /** Milliseconds without a byte after which the other side counts as silent. */
  idle: number;
  /** Milliseconds for the whole exchange. */
  total: number;
  maxBytes: number;
  /** None: an answer that sends on is given as it is. */
  maxRedirects: number;
}
export const HTTP_LIMITS: HttpLimits = { idle: 8000, total: 60_000, maxBytes: 64 * 1024 * 1024, maxRedirects: 5 };

export interface HttpQuestion {
  method?: string;
  headers?: Record<string, string>;
  /** Sent as JSON. */
  body?: unknown;
  /** Sent as it is. */
  text?: string;
  limits?: Partial<HttpLimits>;
  signal?: AbortSignal;
}

export interface HttpAnswer {
  status: number;
  headers: IncomingMessage['headers'];
  body: IncomingMessage;
}

/** Whether an address belongs to a private, local or otherwise special network (RFC 6890). */
export function isPrivate(address: string): boolean {
  if (!ipaddr.isValid(address)) return true;
  const parsed = ipaddr.process(address);
  // ::127.0.0.1, the old way to write an IPv4 address in IPv6 (RFC 4291, 2.5.5.1): some systems go where it points.
  if (parsed instanceof ipaddr.IPv6 && parsed.parts.slice(0, 6).every((part) => part === 0)) return true;
  return parsed.range() !== 'unicast';
}

/** Speaks HTTP with the outside: never to private addresses unless the server allows it, never for ever, never without end. */
@Injectable()
export class OutsideHttp {
  constructor(@Inject(CONFIG) private readonly config: Config) {}

  /** @throws SourceProblem no answer, too many redirects, or an address that is not allowed */
  async ask(url: string, question: HttpQuestion = {}): Promise<HttpAnswer> {
    const limits = { ...HTTP_LIMITS, ...question.limits };
    let target = this.checked(url);
    for (let hop = 0; hop <= limits.maxRedirects; hop += 1) {
      const answer = await this.once(target, question, limits);
      const location = answer.headers.location;
      if (answer.status < 300 || answer.status > 399 || answer.status === 304 || !location || !limits.maxRedirects) return answer;
      answer.body.destroy();
      const next = this.checked(new URL(location, target).href);
      // A token must not travel to another place.
      if (next.origin !== target.origin) question = { ...question, headers: without(question.headers, 'authorization') };
      target = next;
    }
    throw new SourceProblem(`${target.host} sends on from one address to the next without end.`, 'refused');
  }

  /** Asks for JSON. @throws SourceProblem with a sentence for every status that is no success */
  async json<T>(url: string, question: HttpQuestion = {}): Promise<T> {
    const answer = await this.ask(url, {
      ...question,
      headers: {
        Accept: 'application/json',
        ...(question.body === undefined ? {} : { 'Content-Type': 'application/json' }),
        ...question.headers,
      },
    });
    const text = await this.textOf(answer, new URL(url).host, { ...HTTP_LIMITS, ...question.limits });
    const host = new URL(url).host;
    let value: unknown = null;
    try {
      value = text ? JSON.parse(text) : null;
    } catch {
      if (answer.status < 300) throw new SourceProblem(`${host} sent an answer that cannot be read: it is no whole JSON.`);
    }
    this.refuse(answer, host, value);
    return value as T;
  }

  /** @throws SourceProblem for every status that is no success */
  refuse({ status, headers }: HttpAnswer, host: string, present: unknown = null): void {
    if (status < 400) return;
    if (status === 401 || status === 403)
      throw new SourceProblem(`${host} does not accept the name and password or token.`, 'refused');
    if (status === 404 || status === 410) throw new SourceProblem(`${host} has nothing at this address (${status}).`, 'refused');
    if (status === 409 || status === 412)
      throw new SourceProblem(`${host} says that it was changed there meanwhile.`, 'changed', null, present);
    if (status === 429 || status === 503) {
      const after = Number(headers['retry-after']);
      const seconds = Number.isFinite(after) && after > 0 ? Math.min(after, 3600) : null;
      throw new SourceProblem(`${host} asks to wait${seconds ? ` ${seconds} seconds` : ''} (${status}).`, 'wait', seconds);
    }
    throw new SourceProblem(`${host} answered with an error (${status}).`, status >= 500 ? 'wait' : 'refused');
  }

  /** The body as text. @throws SourceProblem too long, or broken off */
  async textOf(answer: HttpAnswer, host: string, limits: HttpLimits = HTTP_LIMITS): Promise<string> {
    const chunks: Buffer[] = [];
    for await (const chunk of this.bytesOf(answer, host, limits)) chunks.push(chunk);
    return Buffer.concat(chunks).toString('utf8');
  }

  async *bytesOf(answer: HttpAnswer, host: string, limits: HttpLimits = HTTP_LIMITS): AsyncGenerator<Buffer> {
    let size = 0;
    try {
      for await (const chunk of answer.body as AsyncIterable<Buffer>) {
        size += chunk.length;
        if (size > limits.maxBytes)
          throw new SourceProblem(`${host} sends more than ${limits.maxBytes / 1048576} MB, or never ends.`, 'refused');
        yield chunk;
      }
    } catch (problem) {
      if (problem instanceof SourceProblem) throw problem;
      throw new SourceProblem(`${host} broke off in the middle of its answer.`);
    } finally {
      answer.body.destroy();
    }
  }

  private checked(text: string): URL {
    let url: URL;
    try {
      url = new URL(text);
    } catch {
      throw new SourceProblem(`${text.slice(0, 200)} is not an address.`, 'refused');
    }
    if (url.protocol !== 'http:' && url.protocol !== 'https:')
      throw new SourceProblem('Only addresses that begin with http:// or https:// can be read.', 'refused');
    const host = url.hostname.replace(/^\[|\]$/g, '');
    if (!this.config.allowPrivate && ipaddr.isValid(host) && isPrivate(host)) throw privateProblem(host);
    return url;
  }

  private once(
    url: URL,
    { method = 'GET', headers, body, text: bare, signal }: HttpQuestion,
    limits: HttpLimits,
  ): Promise<HttpAnswer> {
    const ask = url.protocol === 'https:' ? httpsRequest : httpRequest;
    const text = bare ?? (body === undefined ? undefined : JSON.stringify(body));
    const time = AbortSignal.any([AbortSignal.timeout(limits.total), ...(signal ? [signal] : [])]);
    return new Promise((resolve, reject) => {
      const fail = (problem: Error) =>
        reject(problem instanceof SourceProblem ? problem : new SourceProblem(sentenceOf(problem, url.host)));
      const sent = ask(url, {
        method,
        headers: {
          'User-Agent': 'Corvun',
          ...headers,
          ...(text === undefined ? {} : { 'Content-Length': Buffer.byteLength(text) }),
        },
        lookup: this.lookup,
        signal: time,
        timeout: limits.idle,
      });
      sent.on('timeout', () =>
        sent.destroy(new SourceProblem(`${url.host} did not answer within ${limits.idle / 1000} seconds.`)),
      );
      sent.on('error', fail);
      sent.on('response', (message) => {
        message.on('error', () => undefined);
        resolve({ status: message.statusCode ?? 0, headers: message.headers, body: message });
      });
      sent.end(text);
    });
  }

  /** Refuses private addresses where the name is resolved, so that a name cannot change its mind in between. */
  private readonly lookup: LookupFunction = (hostname, options, done) => {
    systemLookup(hostname, { ...options, all: true }, (problem, found) => {
      if (problem) return done(problem, '', 0);
      const all: LookupAddress[] = found;
      const bad = this.config.allowPrivate ? undefined : all.find((one) => isPrivate(one.address));
      if (bad) return done(privateProblem(hostname), '', 0);
      const first = all[0];
      if (options.all) return done(null, all);
      return first ? done(null, first.address, first.family) : done(new SourceProblem(`${hostname} has no address.`), '', 0);
    });
  };
}

const privateProblem = (host: string) =>
  new SourceProblem(
    `${host} is a private address, which this server does not read. Whoever runs it can allow that with CORVUN_ALLOW_PRIVATE=1.`,
    'refused',
  );

function without(headers: Record<string, string> = {}, name: string): Record<string, string> {
  return Object.fromEntries(Object.entries(headers).filter(([key]) => key.toLowerCase() !== name));
}
