import {
  createObject,
  davRequest,
  deleteObject,
  propfind,
  fetchHomeUrl,
  fetchPrincipalUrl,
  serviceDiscovery,
  type DAVResponse,
} from 'tsdav';
import { readFreeBusy } from '@corvun/formats';
import type { Interval } from '@corvun/core';
import { SourceProblem } from '../problem';
import { DavExchange, DavProblem } from './dav-exchange';
import { decoded, hrefOf, listOf, mayGetPassword, textOf, utc } from './dav-values';
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
/** What the client package reads whole from an answer: it gives long texts in parts. */
const WHOLE = /^\s*BEGIN:VCALENDAR[\s\S]*END:VCALENDAR\s*$/i;
const LONG = 60_000;
const MOST_COLLECTIONS = 100;
const TOO_LARGE = 'An entry of it is larger than 1 MB.';
const NAMESPACES = {
  'xmlns:d': 'DAV:',
  'xmlns:c': 'urn:ietf:params:xml:ns:caldav',
  'xmlns:cs': 'http://calendarserver.org/ns/',
};

/** Speaks CalDAV (RFC 4791) with an account, through the one door to the outside. */
export class DavClient extends DavExchange {
  /** Finds where the calendars of the account are (RFC 6764, RFC 5397, RFC 4791, 6.2.1). @throws SourceProblem */
  async discover(): Promise<string> {
    const serverUrl = this.address;
    if (!URL.canParse(serverUrl)) throw new SourceProblem(`${serverUrl.slice(0, 200)} is not an address.`, 'refused');
    const account = { serverUrl, accountType: 'caldav' as const };
    const found = await serviceDiscovery({ account, fetch: this.fetch }).catch(() => serverUrl);
    const from = mayGetPassword(serverUrl, found) ? found : serverUrl;
    // What was said may be deeper than what the server says of itself.
    for (const rootUrl of new Set([from, serverUrl])) {
      const home = await this.homeFrom({ ...account, rootUrl }).catch((problem: unknown) => {
        if (problem instanceof DavProblem && [401, 403].includes(problem.status)) throw problem;
        return null;
      });
      if (home && mayGetPassword(serverUrl, home)) return (this.home = home);
    }
    // No principal: the address may be that of a calendar home itself.
    return (this.home = serverUrl.endsWith('/') ? serverUrl : `${serverUrl}/`);
  }

  private async homeFrom(account: { serverUrl: string; accountType: 'caldav'; rootUrl: string }): Promise<string> {
    const principalUrl = await fetchPrincipalUrl({ account, fetch: this.fetch });
    return fetchHomeUrl({ account: { ...account, principalUrl }, fetch: this.fetch });
  }

  /** All calendars and task lists of the account. @throws SourceProblem */
  async collections(): Promise<Collection[]> {
    const answers = await this.ask(this.home, 'PROPFIND', '1', { propfind: { 'd:prop': COLLECTION } });
    return answers.flatMap((one) => this.collectionOf(one)).slice(0, MOST_COLLECTIONS);
  }

  private collectionOf({ href = '', props = {} }: DAVResponse): Collection[] {
    const about = props as Record<string, unknown>;
    if (!('calendar' in ((about['resourcetype'] as object | undefined) ?? {}))) return [];
    const path = this.pathOf(href);
    const components = listOf((about['supportedCalendarComponentSet'] as { comp?: unknown } | undefined)?.comp).map((one) =>
      String((one as { _attributes?: { name?: string } })._attributes?.name ?? '').toUpperCase(),
    );
    const token = textOf(about['syncToken']);
    const rights = listOf((about['currentUserPrivilegeSet'] as { privilege?: unknown } | undefined)?.privilege);
    const may = (...names: string[]) => rights.some((one) => ['all', ...names].some((name) => name in (one as object)));
    const writable = !rights.length || may('write', 'writeContent');
    const [owner, principal] = [about['owner'], about['currentUserPrincipal']].map(hrefOf).map((one) => one && this.pathOf(one));
    const common = {
      path,
      name: (textOf(about['displayname']) || decoded(path.split('/').filter(Boolean).at(-1) ?? '')).slice(0, 200),
      writable,
      closed: rights.length > 0 && !may('read'),
      owner: owner ?? '',
      ofOther: Boolean(owner && principal && owner !== principal),
      state: [textOf(about['getctag']), token].filter(Boolean).join(' '),
      token: token || null,
    };
    const has = (name: string) => !components.length || components.includes(name);
    return (['events', 'tasks'] as const)
      .filter((things) => has(things === 'events' ? 'VEVENT' : 'VTODO'))
      .map((things) => ({ ...common, id: `${things}:${path}`, things }));
  }

  /** Everything in a collection. @param from only what is at some time after this (9.9), in milliseconds */
  async list({ path, things }: Collection, from?: number): Promise<Listed[]> {
    const range = from === undefined ? {} : { 'c:time-range': { _attributes: { start: utc(from) } } };
    const name = things === 'events' ? 'VEVENT' : 'VTODO';
    const filter = {
      'c:comp-filter': { _attributes: { name: 'VCALENDAR' }, 'c:comp-filter': { _attributes: { name }, ...range } },
    };
    const answers = await this.ask(this.at(path), 'REPORT', '1', {
      'c:calendar-query': { 'd:prop': LISTED, 'c:filter': filter },
    });
    return answers.flatMap((one) => this.listedOf(one));
  }

  /**
   * What changed in a collection since a token (RFC 6578).
   * @returns null where the server does not know the token any more
   */
  async since({ path }: Collection, token: string): Promise<{ changed: Listed[]; gone: string[]; token: string } | null> {
    const [changed, gone]: [Listed[], string[]] = [[], []];
    for (let at = token; ;) {
      let answers: DAVResponse[];
      try {
        answers = await this.ask(this.at(path), 'REPORT', '0', {
          'd:sync-collection': { 'd:sync-token': at, 'd:sync-level': '1', 'd:prop': LISTED },
        });
      } catch (problem) {
        if (problem instanceof DavProblem && TOKEN_UNKNOWN.has(problem.status)) return null;
        throw problem;
      }
      for (const one of answers) {
        if (one.status === 404) gone.push(this.pathOf(one.href ?? ''));
        else changed.push(...this.listedOf(one));
      }
      const next = textOf((answers[0]?.raw as { multistatus?: { syncToken?: unknown } } | undefined)?.multistatus?.syncToken);
      // Cut short (3.6): the rest comes with the next question.
      const cut = answers.some((one) => one.status === 507);
      if (!cut || !next || next === at) return { changed, gone, token: next || at };
      at = next;
    }
  }

  private listedOf({ href = '', status, props = {} }: DAVResponse): Listed[] {
    const { getetag, getcontentlength } = props as Record<string, unknown>;
    const etag = textOf(getetag);
    if (!href || !etag || (status ?? 200) >= 400) return [];
    const size = Number(textOf(getcontentlength));
    return [{ href: this.pathOf(href), etag, size: size > 0 ? size : null }];
  }

  /** Objects with their texts; what is not there any more is left out. What cannot be had is given to `left`, with why. */
  async load({ path }: Collection, wanted: readonly Listed[], left: (href: string, why: string) => void): Promise<Seen[]> {
    for (const { href, size } of wanted) if ((size ?? 0) > MOST_OBJECT) left(href, TOO_LARGE);
    wanted = wanted.filter(({ size }) => (size ?? 0) <= MOST_OBJECT);
    const small = wanted.filter(({ size }) => (size ?? 0) < LONG).map(({ href }) => href);
    const single = new Set(wanted.map(({ href }) => href));
    const found: Seen[] = [];
    if (small.length > 1)
      for (const { href = '', props = {} } of await this.several(path, small)) {
        const { getetag, calendarData } = props as Record<string, unknown>;
        const [seen, etag, text] = [this.pathOf(href), textOf(getetag), textOf(calendarData)];
        if (!WHOLE.test(text) || !etag || text.length >= LONG) continue;
        found.push({ href: seen, etag, text });
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

  private async several(path: string, hrefs: readonly string[]): Promise<DAVResponse[]> {
    try {
      const what = { 'd:prop': { 'd:getetag': {}, 'c:calendar-data': {} }, 'd:href': [...hrefs] };
      return await this.ask(this.at(path), 'REPORT', '1', { 'c:calendar-multiget': what });
    } catch (problem) {
      // Too much at once, or no such report: one by one it may be possible.
      if (problem instanceof SourceProblem && problem.kind === 'refused') return [];
      throw problem;
    }
  }

  /** @returns null where there is nothing (any more) */
  async loadOne(href: string): Promise<Seen | null> {
    try {
      const answer = await this.exchange(this.at(href), 'GET', {}, undefined, { maxBytes: MOST_OBJECT });
      const text = await answer.text();
      if (!WHOLE.test(text)) throw new SourceProblem(`${this.host} gives something that is no calendar entry.`, 'refused');
      return { href, etag: answer.headers.get('etag') ?? '', text };
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
    const answer = await createObject({
      url: this.at(href),
      data: text,
      headers: {
        'Content-Type': 'text/calendar; charset=utf-8',
        ...(etag === null ? { 'If-None-Match': '*' } : { 'If-Match': etag }),
      },
      fetch: this.fetch,
    });
    const kept = answer.headers.get('etag');
    if (kept && !kept.startsWith('W/')) return { href, etag: kept, text };
    // Without a strong ETag it may have been kept otherwise than it was sent (RFC 4791, 5.3.4).
    const seen = await this.loadOne(href);
    if (!seen) throw new DavProblem(404, `${this.host} took it and has not kept it.`, 'wait');
    return seen;
  }

  /** Takes an object away. @throws DavProblem 412 where it was changed there meanwhile */
  async remove(href: string, etag: string | null): Promise<void> {
    try {
      await deleteObject({ url: this.at(href), ...(etag ? { etag } : {}), fetch: this.fetch });
    } catch (problem) {
      if (!(problem instanceof DavProblem) || ![404, 410].includes(problem.status)) throw problem;
    }
  }

  /** When whom a calendar belongs to is busy (RFC 4791, 7.10). @throws SourceProblem */
  async freeBusy({ path }: Collection, { start, end }: Interval): Promise<Interval[]> {
    const text = `<c:free-busy-query xmlns:c="${NAMESPACES['xmlns:c']}"><c:time-range start="${utc(start)}" end="${utc(end)}"/></c:free-busy-query>`;
    const headers = { depth: '1', 'content-type': 'application/xml; charset=utf-8' };
    const answer = await this.exchange(this.at(path), 'REPORT', headers, text, { maxBytes: MOST_OBJECT });
    const said = await answer.text();
    try {
      return readFreeBusy(said);
    } catch {
      throw new SourceProblem(`${this.host} gives something that is no free and busy time.`, 'refused');
    }
  }

  /** The mail address of a principal (RFC 6638, 2.4.1); empty where the server does not say. */
  async addressOf(owner: string): Promise<string> {
    const asked = { propfind: { 'd:prop': { 'c:calendar-user-address-set': {} } } };
    const answers = await this.ask(this.at(owner), 'PROPFIND', '0', asked).catch(() => []);
    const set = (answers[0]?.props as { calendarUserAddressSet?: { href?: unknown } } | undefined)?.calendarUserAddressSet;
    const mail = listOf(set?.href)
      .map(textOf)
      .find((one) => /^mailto:/i.test(one));
    return mail ? decoded(mail.slice('mailto:'.length)).toLowerCase() : '';
  }

  private async ask(
    url: string,
    method: 'PROPFIND' | 'REPORT',
    depth: '0' | '1',
    body: Record<string, object>,
  ): Promise<DAVResponse[]> {
    const [[name, content] = ['', {}]] = Object.entries(body);
    const init = {
      ...{ method, headers: { depth }, namespace: 'd' },
      body: { [name]: { _attributes: NAMESPACES, ...content } },
    };
    const answers =
      method === 'PROPFIND'
        ? await propfind({ url, depth, props: (content as { 'd:prop': object })['d:prop'], fetch: this.fetch })
        : await davRequest({ url, init, fetch: this.fetch });
    const [first] = answers;
    const raw = first?.raw as { multistatus?: unknown } | string | undefined;
    if (!first || typeof raw !== 'object' || !('multistatus' in raw))
      throw new SourceProblem(`${this.host} sent an answer that cannot be read: it is no whole multistatus.`);
    return answers.filter((one) => one.href);
  }
}

const COLLECTION = {
  'd:displayname': {},
  'd:resourcetype': {},
  'd:sync-token': {},
  'd:owner': {},
  'd:current-user-principal': {},
  'd:current-user-privilege-set': {},
  'c:supported-calendar-component-set': {},
  'cs:getctag': {},
};
const LISTED = { 'd:getetag': {}, 'd:getcontentlength': {} };
/** How servers say that they do not know a token, or know no tokens. */
const TOKEN_UNKNOWN = new Set([400, 403, 405, 409, 410, 412, 501, 507]);
