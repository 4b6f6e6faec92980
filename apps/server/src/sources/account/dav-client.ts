import { propOf, type DavResponse } from '@corvun/formats';
import type { Interval } from '@corvun/core';
import { SourceProblem } from '../problem';
import { DavExchange, DavProblem, Unreadable, elsewhere } from './dav-exchange';
import { CALDAV, CORVUN, DAV, SERVER, decoded, hrefIn, hrefsIn, inXml, textIn, utc } from './dav-values';
import type { Seen } from './remote.entity';

export type Things = 'events' | 'tasks';

/** A calendar or task list there. */
export interface Collection {
  /** Things and path. */
  id: string;
  path: string;
  things: Things;
  name: string;
  writable: boolean;
  /** Only when somebody is busy can be read, not with what. */
  closed: boolean;
  /** Address of the principal it belongs to (RFC 3744, 5.1); empty where the server does not say. */
  owner: string;
  ofOther: boolean;
  /** Changes whenever anything in it changes; empty where the server has no such thing. */
  state: string;
  /** Where changes can be asked for since (RFC 6578); null where they cannot. */
  token: string | null;
}

export interface Listed {
  href: string;
  etag: string;
  /** Bytes, where the server says so. */
  size: number | null;
}

/** An object may have so many bytes; more is no entry of a calendar. */
export const MOST_OBJECT = 1024 * 1024;
const WHOLE = /^\s*BEGIN:VCALENDAR[\s\S]*END:VCALENDAR\s*$/i;
/** Objects larger than that are asked for one by one. */
const LONG = 60_000;
const MOST_COLLECTIONS = 100;
const TOO_LARGE = 'An entry of it is larger than 1 MB.';
/** So often a server may say that there is more (RFC 6578, 3.6); the rest comes with the next look. */
const MOST_ROUNDS = 20;

/** Speaks CalDAV (RFC 4791) with an account, through the one door to the outside. */
export class DavClient extends DavExchange {
  /** Finds where the calendars of the account are (RFC 6764, RFC 5397, RFC 4791, 6.2.1). @throws SourceProblem */
  async discover(): Promise<string> {
    const wellKnown = await this.wellKnown();
    // What was said may be deeper than what the server says of itself.
    for (const root of new Set([wellKnown.own ?? this.address, this.address])) {
      const home = await this.homeFrom(root).catch((problem: unknown) => {
        if (problem instanceof DavProblem && [401, 403].includes(problem.status)) throw problem;
        if (problem instanceof Elsewhere) wellKnown.other ??= problem.url;
        return null;
      });
      if (home) return (this.home = home);
    }
    if (wellKnown.other) throw elsewhere(this.host, wellKnown.other);
    // No principal: the address may be that of a calendar home itself.
    return (this.home = this.address.endsWith('/') ? this.address : `${this.address}/`);
  }

  /** Where a server says that its calendars are (RFC 6764, 5): here, or at another place. */
  private async wellKnown(): Promise<{ own: string | null; other?: string }> {
    const url = new URL('/.well-known/caldav', this.address).href;
    const none = { own: null };
    try {
      const { status, location } = await this.exchange(url, 'PROPFIND', { depth: '0' }, undefined, { maxRedirects: 0 });
      if (status < 300 || !location || !URL.canParse(location, url)) return none;
      const own = this.own(location, url);
      return own ? { own } : { own: null, other: new URL(location, url).href };
    } catch {
      return none;
    }
  }

  private async homeFrom(root: string): Promise<string | null> {
    const principal = await this.hrefAt(root, DAV, 'current-user-principal', 'd');
    return principal && this.hrefAt(principal, CALDAV, 'calendar-home-set', 'c');
  }

  /** The address in a property of a resource; null where it has none. @throws Elsewhere where that is at another place */
  private async hrefAt(url: string, ns: string, local: string, prefix: string): Promise<string | null> {
    const { responses } = await this.ask(url, 'PROPFIND', '0', 'd:propfind', `<d:prop><${prefix}:${local}/></d:prop>`);
    const href = responses.map((one) => hrefIn(one, ns, local)).find(Boolean);
    if (!href || !URL.canParse(href, url)) return null;
    const found = new URL(href, url).href;
    if (!this.isOwn(found)) throw new Elsewhere(found);
    return found;
  }

  /** All calendars and task lists of the account. @throws SourceProblem */
  async collections(): Promise<Collection[]> {
    const { responses } = await this.ask(this.home, 'PROPFIND', '1', 'd:propfind', `<d:prop>${COLLECTION}</d:prop>`);
    return responses.flatMap((one) => this.collectionOf(one)).slice(0, MOST_COLLECTIONS);
  }

  private collectionOf(one: DavResponse): Collection[] {
    const path = this.pathOf(one.href);
    const isCalendar = propOf(one, DAV, 'resourcetype')?.children.some(({ ns, local }) => ns === CALDAV && local === 'calendar');
    // What another Corvun has from an account itself is connected there: nothing goes round.
    if (!isCalendar || path === null || propOf(one, CORVUN, 'comes-from')?.text.trim()) return [];
    const components = (propOf(one, CALDAV, 'supported-calendar-component-set')?.children ?? []).map(({ attributes }) =>
      (attributes['name'] ?? '').toUpperCase(),
    );
    const token = textIn(one, DAV, 'sync-token');
    const rights = (propOf(one, DAV, 'current-user-privilege-set')?.children ?? []).flatMap(({ children }) =>
      children.map(({ local }) => local),
    );
    const may = (...names: string[]) => ['all', ...names].some((name) => rights.includes(name));
    const writable = !rights.length || may('write', 'write-content');
    const [owner, principal] = ['owner', 'current-user-principal'].map((name) => {
      const href = hrefIn(one, DAV, name);
      return href ? (this.pathOf(href) ?? '') : '';
    });
    const common = {
      path,
      name: (textIn(one, DAV, 'displayname') || decoded(path.split('/').filter(Boolean).at(-1) ?? '')).slice(0, 200),
      writable,
      closed: rights.length > 0 && !may('read'),
      owner: owner ?? '',
      ofOther: Boolean(owner && principal && owner !== principal),
      state: [textIn(one, SERVER, 'getctag'), token].filter(Boolean).join(' '),
      token: token || null,
    };
    const has = (name: string) => !components.length || components.includes(name);
    return (['events', 'tasks'] as const)
      .filter((things) => has(things === 'events' ? 'VEVENT' : 'VTODO'))
      .map((things) => ({ ...common, id: `${things}:${path}`, things }));
  }

  /** Everything in a collection. @param from only what is at some time after this (9.9), in milliseconds */
  async list({ path, things }: Collection, from?: number): Promise<Listed[]> {
    const range = from === undefined ? '' : `<c:time-range start="${utc(from)}"/>`;
    const name = things === 'events' ? 'VEVENT' : 'VTODO';
    const filter = `<c:filter><c:comp-filter name="VCALENDAR"><c:comp-filter name="${name}">${range}</c:comp-filter></c:comp-filter></c:filter>`;
    const { responses } = await this.ask(this.at(path), 'REPORT', '1', 'c:calendar-query', `${LISTED}${filter}`);
    return responses.flatMap((one) => this.listedOf(one));
  }

  /**
   * What changed in a collection since a token (RFC 6578).
   * @returns null where the server does not know the token any more; `more` where it says that this is not all
   */
  async since({ path }: Collection, token: string): Promise<News | null> {
    const [changed, gone]: [Listed[], string[]] = [[], []];
    let at = token;
    for (let round = 0; round < MOST_ROUNDS; round += 1) {
      let answer;
      try {
        const body = `<d:sync-token>${inXml(at)}</d:sync-token><d:sync-level>1</d:sync-level>${LISTED}`;
        answer = await this.ask(this.at(path), 'REPORT', '0', 'd:sync-collection', body);
      } catch (problem) {
        if (problem instanceof DavProblem && TOKEN_UNKNOWN.has(problem.status)) return null;
        throw problem;
      }
      for (const one of answer.responses) {
        const seen = this.pathOf(one.href);
        if (one.status === 404 && seen !== null) gone.push(seen);
        else changed.push(...this.listedOf(one));
      }
      // Cut short (3.6): the rest comes with the next question.
      const cut = answer.responses.some((one) => one.status === 507);
      const next = answer.syncToken;
      if (!cut || !next || next === at) return { changed, gone, token: next || at, more: false };
      at = next;
    }
    return { changed, gone, token: at, more: true };
  }

  private listedOf(one: DavResponse): Listed[] {
    const [path, etag] = [this.pathOf(one.href), textIn(one, DAV, 'getetag')];
    if (path === null || !etag || (one.status ?? 200) >= 400) return [];
    const size = Number(textIn(one, DAV, 'getcontentlength'));
    return [{ href: path, etag, size: size > 0 ? size : null }];
  }

  /** Objects with their texts; what is not there any more is left out. What cannot be had is given to `left`, with why. */
  async load({ path }: Collection, wanted: readonly Listed[], left: (href: string, why: string) => void): Promise<Seen[]> {
    for (const { href, size } of wanted) if ((size ?? 0) > MOST_OBJECT) left(href, TOO_LARGE);
    wanted = wanted.filter(({ size }) => (size ?? 0) <= MOST_OBJECT);
    const small = wanted.filter(({ size }) => (size ?? 0) < LONG).map(({ href }) => href);
    const single = new Set(wanted.map(({ href }) => href));
    const found: Seen[] = [];
    if (small.length > 1)
      for (const one of await this.several(path, small)) {
        const [seen, etag] = [this.pathOf(one.href), textIn(one, DAV, 'getetag')];
        const text = propOf(one, CALDAV, 'calendar-data')?.text ?? '';
        if (seen === null || !single.has(seen) || !WHOLE.test(text) || !etag) continue;
        if (Buffer.byteLength(text) > MOST_OBJECT) left(seen, TOO_LARGE);
        else found.push({ href: seen, etag, text });
        single.delete(seen);
      }
    for (const href of single) {
      const one = await this.loadOne(href).catch((problem: unknown) => {
        if (!(problem instanceof SourceProblem) || problem.kind !== 'refused') throw problem;
        left(href, problem.message);
        return null;
      });
      if (one) found.push(one);
    }
    return found;
  }

  private async several(path: string, hrefs: readonly string[]): Promise<DavResponse[]> {
    try {
      const wanted = hrefs.map((href) => `<d:href>${inXml(href)}</d:href>`).join('');
      const body = `<d:prop><d:getetag/><c:calendar-data/></d:prop>${wanted}`;
      return (await this.ask(this.at(path), 'REPORT', '1', 'c:calendar-multiget', body)).responses;
    } catch (problem) {
      // Too much at once, no such report, or one of them makes it unreadable: one by one it may be possible.
      if (problem instanceof Unreadable || (problem instanceof SourceProblem && problem.kind === 'refused')) return [];
      throw problem;
    }
  }

  /** @returns null where there is nothing (any more) */
  async loadOne(href: string): Promise<Seen | null> {
    try {
      const { text, etag } = await this.exchange(this.at(href), 'GET', {}, undefined, { maxBytes: MOST_OBJECT });
      if (!WHOLE.test(text)) throw new SourceProblem(`${this.host} gives something that is no calendar entry.`, 'refused');
      return { href, etag, text };
    } catch (problem) {
      if (problem instanceof DavProblem && [404, 410].includes(problem.status)) return null;
      throw problem;
    }
  }

  /**
   * Writes an object, new, or over the version that is known.
   * @throws DavProblem 412 where it was changed there meanwhile, or is there already
   */
  async put(href: string, text: string, etag: string | null): Promise<Seen> {
    const { etag: kept } = await this.exchange(
      this.at(href),
      'PUT',
      {
        'Content-Type': 'text/calendar; charset=utf-8',
        ...(etag === null ? { 'If-None-Match': '*' } : { 'If-Match': etag }),
      },
      text,
    );
    if (kept && !kept.startsWith('W/')) return { href, etag: kept, text };
    // Without a strong ETag it may have been kept otherwise than it was sent (RFC 4791, 5.3.4).
    const seen = await this.loadOne(href);
    if (!seen) throw new DavProblem(404, `${this.host} took it and has not kept it.`, 'wait');
    return seen;
  }

  /** Takes an object away. @throws DavProblem 412 where it was changed there meanwhile */
  async remove(href: string, etag: string | null): Promise<void> {
    try {
      await this.exchange(this.at(href), 'DELETE', etag ? { 'If-Match': etag } : {});
    } catch (problem) {
      if (!(problem instanceof DavProblem) || ![404, 410].includes(problem.status)) throw problem;
    }
  }

  /** When whom a calendar belongs to is busy (RFC 4791, 7.10). @throws SourceProblem */
  async freeBusy({ path }: Collection, { start, end }: Interval): Promise<Interval[]> {
    const text = `<c:free-busy-query xmlns:c="${CALDAV}"><c:time-range start="${utc(start)}" end="${utc(end)}"/></c:free-busy-query>`;
    const headers = { depth: '1', 'content-type': 'application/xml; charset=utf-8' };
    const answer = await this.exchange(this.at(path), 'REPORT', headers, text, { maxBytes: MOST_OBJECT });
    try {
      return await this.reading.freeBusy(answer.text);
    } catch {
      throw new SourceProblem(`${this.host} gives something that is no free and busy time.`, 'refused');
    }
  }

  /** The mail address of a principal (RFC 6638, 2.4.1); empty where the server does not say. */
  async addressOf(owner: string): Promise<string> {
    const body = '<d:prop><c:calendar-user-address-set/></d:prop>';
    const answer = await this.ask(this.at(owner), 'PROPFIND', '0', 'd:propfind', body).catch(() => null);
    const mail = hrefsIn(answer?.responses[0], CALDAV, 'calendar-user-address-set').find((one) => /^mailto:/i.test(one));
    return mail ? decoded(mail.slice('mailto:'.length)).toLowerCase() : '';
  }
}

/** What a server names is at another place than itself. */
class Elsewhere extends Error {
  constructor(readonly url: string) {
    super(url);
  }
}

/** What changed and what went since a token. */
interface News {
  changed: Listed[];
  gone: string[];
  token: string;
  more: boolean;
}

const COLLECTION = [
  ...['displayname', 'resourcetype', 'sync-token', 'owner', 'current-user-principal', 'current-user-privilege-set'].map(
    (name) => `<d:${name}/>`,
  ),
  `<c:supported-calendar-component-set/><cs:getctag/><v:comes-from xmlns:v="${CORVUN}"/>`,
].join('');
const LISTED = '<d:prop><d:getetag/><d:getcontentlength/></d:prop>';
/** How servers say that they do not know a token, or know no tokens. */
const TOKEN_UNKNOWN = new Set([400, 403, 405, 409, 410, 412, 501, 507]);
