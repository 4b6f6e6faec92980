import { Injectable } from '@nestjs/common';
import { agendaOf, busyOf, takenBy } from '@corvun/core';
import { CalendarError, readObject, writeFreeBusy, type CalendarEvent, type CalendarTodo } from '@corvun/formats';
import type { Element } from '@xmldom/xmldom';
import type { EntityManager } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { Kernel, byUser } from '../kernel/kernel.service';
import type { Work } from '../kernel/work';
import { changeTask } from '../tasks/change-task';
import { Collections, nameOfUid, uidOfTask, type Collection, type Resource } from './collections';
import { DavError } from './dav-error';
import { DavName } from './dav.entities';
import { fits, rangeOf } from './filter';
import { HOME, PRINCIPAL, ROOT, collectionProperties, pick, placeProperties, resourceProperties } from './properties';
import { putEvents, putTask } from './put';
import { DavSync } from './sync';
import { CALDAV, DAV, c, child, children, d, documentOf, goneResponse, href, nameOf, responseOf, type Name } from './xml';

/** Who asks, and whether they may change anything. */
export interface Asking {
  user: User;
  write: boolean;
}

interface Place {
  collection: Collection;
  /** Null: the collection itself. */
  name: string | null;
}

/** What calendar programs ask for and do (RFC 4918, RFC 4791, RFC 6578). */
@Injectable()
export class DavService {
  constructor(
    private readonly collections: Collections,
    private readonly sync: DavSync,
    private readonly kernel: Kernel,
  ) {}

  /** @throws DavError */
  async propfind(asking: Asking, path: string, depth: string, body: Element | null): Promise<string> {
    if (depth !== '0' && depth !== '1') throw new DavError(403, d('propfind-finite-depth'), 'Ask with a depth of 0 or 1.');
    const asked = body && child(body, DAV, 'prop') ? children(child(body, DAV, 'prop')).map(nameOf) : null;
    const { user, write } = asking;
    const token = await this.sync.token(user);
    const place = (at: string) => answer(at, placeProperties(at, user, write), asked);
    const shown = (one: Collection) => answer(one.path, collectionProperties(one, token, user.zone, write), asked);
    if ([ROOT, PRINCIPAL, HOME].includes(path)) {
      const below = depth === '0' ? [] : path === HOME ? (await this.collections.all(user)).map(shown) : [];
      return multistatus([place(path), ...(depth === '1' && path === ROOT ? [place(PRINCIPAL), place(HOME)] : []), ...below]);
    }
    const { collection, name } = await this.placeOf(user, path);
    if (name !== null) {
      const one = await this.present(user, collection, name);
      return multistatus([this.resource(asking, collection, one, asked)]);
    }
    const inside = depth === '0' ? [] : await this.collections.resources(user, collection);
    return multistatus([shown(collection), ...inside.map((one) => this.resource(asking, collection, one, asked))]);
  }

  /** @throws DavError */
  async report(asking: Asking, path: string, depth: string, body: Element | null): Promise<{ type: string; text: string }> {
    const { collection, name } = await this.placeOf(asking.user, path);
    const what = body && nameOf(body);
    if (!body || !what || name !== null) throw new DavError(400, '', 'A report is asked for at a calendar or list.');
    const asked = children(child(body, DAV, 'prop')).map(nameOf);
    const xml = (text: string) => ({ type: 'application/xml; charset=utf-8', text });
    if (what.ns === CALDAV && what.local === 'calendar-query')
      return xml(await this.query(asking, collection, depth, child(body, CALDAV, 'filter'), asked));
    if (what.ns === CALDAV && what.local === 'calendar-multiget')
      return xml(await this.multiget(asking, collection, body, asked));
    if (what.ns === DAV && what.local === 'sync-collection') return xml(await this.changes(asking, collection, body, asked));
    if (what.ns === CALDAV && what.local === 'free-busy-query')
      return { type: 'text/calendar; charset=utf-8', text: await this.freeBusy(asking.user, collection, body) };
    throw new DavError(403, d('supported-report'), 'This report is not known here.');
  }

  /** @throws DavError */
  async text(user: User, path: string): Promise<{ etag: string; text: string }> {
    const { collection, name } = await this.placeOf(user, path);
    if (name === null) throw new DavError(405, '', 'A collection has no text.');
    const one = await this.present(user, collection, name);
    return { etag: one.etag, text: this.collections.text(user, collection, one) };
  }

  /** Makes or replaces an object. @returns whether it is new @throws DavError */
  async put(user: User, path: string, text: string, only: Conditions): Promise<boolean> {
    const { collection, name } = await this.placeOf(user, path);
    if (name === null) throw new DavError(405, '', 'A collection cannot be written over.');
    const { events, todos } = objectOf(text, user.zone);
    const wanted = collection.kind === 'calendar' ? events : todos;
    if ((collection.kind === 'calendar' ? todos : events).length || !wanted.length)
      throw new DavError(
        403,
        c('supported-calendar-component'),
        `“${collection.name}” holds ${collection.kind === 'calendar' ? 'events' : 'tasks'}.`,
      );
    const [uid = '', ...others] = [...new Set(wanted.map((one) => one.uid))];
    if (others.length || !uid) throw new DavError(403, c('valid-calendar-object-resource'), 'An object has one UID.');
    const { result } = await this.kernel.transact(byUser(user), async (work) => {
      const { manager } = work;
      const present = await this.collections.named(user, collection, name, manager);
      refuseUnmet(present, only);
      refuseCopy(present);
      if (present && present.uid !== uid) throw conflict(collection, present.name);
      const twin = await this.withUid(user, collection, uid, manager);
      if (twin && twin.name !== name) throw conflict(collection, twin.name);
      const [thing, title] = await this.write(work, user, collection, { events, todos, present });
      const usual = thing.startsWith('task:') ? uidOfTask(thing.slice('task:'.length)) : uid;
      if (name !== nameOfUid(usual) || uid !== usual)
        await manager.upsert(DavName, { ownerId: user.id, thing, name, uid }, ['ownerId', 'thing']);
      work.say({
        action: present ? 'change' : 'capture',
        sentence: `“${title}” was ${present ? 'changed' : 'made'} in a calendar program`,
      });
      return present === null;
    });
    return result;
  }

  /** Takes an object away. @throws DavError */
  async remove(user: User, path: string, only: Conditions): Promise<void> {
    const { collection, name } = await this.placeOf(user, path);
    if (name === null) throw new DavError(403, '', 'Calendars and lists are taken away in Corvun.');
    await this.kernel.transact(byUser(user), async (work) => {
      const present = await this.collections.named(user, collection, name, work.manager);
      if (!present) throw new DavError(404);
      refuseUnmet(present, only);
      refuseCopy(present);
      const title = present.task?.title ?? present.events[0]?.title ?? '';
      for (const event of present.events) await work.remove('event', event);
      if (present.task) await changeTask(work, present.task, { status: 'CANCELLED' });
      work.say({ action: 'remove', sentence: `“${title}” was taken away in a calendar program` });
    });
  }

  private async write(
    work: Work,
    user: User,
    collection: Collection,
    { events, todos, present }: { events: CalendarEvent[]; todos: CalendarTodo[]; present: Resource | null },
  ): Promise<[thing: string, title: string]> {
    if (collection.kind === 'calendar')
      return [`event:${events[0]?.uid ?? ''}`, await putEvents(work, user, collection.calendar, events)];
    const [todo] = todos;
    if (!todo) throw new DavError(403, c('valid-calendar-object-resource'));
    const { id, title } = await putTask(work, user, collection.list, todo, present?.task ?? null);
    return [`task:${id}`, title];
  }

  private async query(
    asking: Asking,
    collection: Collection,
    depth: string,
    filter: Element | undefined,
    asked: readonly Name[],
  ): Promise<string> {
    const { user } = asking;
    const found = depth === '0' ? [] : await this.collections.resources(user, collection);
    const answers: string[] = [];
    for (const one of found) {
      const text = this.collections.text(user, collection, one);
      if (fits(filter, one, text, user.zone)) answers.push(this.said(asking, collection, one, asked, text));
    }
    return multistatus(answers);
  }

  private async multiget(asking: Asking, collection: Collection, body: Element, asked: readonly Name[]): Promise<string> {
    const paths = children(body)
      .filter(({ localName }) => localName === 'href')
      .map(({ textContent }) => pathIn(textContent ?? ''));
    const all = new Map((await this.collections.resources(asking.user, collection)).map((one) => [pathOf(collection, one), one]));
    return multistatus(
      paths.map((path) => {
        const one = all.get(encodedPath(path));
        return one ? this.resource(asking, collection, one, asked) : goneResponse(encodedPath(path));
      }),
    );
  }

  private async changes(asking: Asking, collection: Collection, body: Element, asked: readonly Name[]): Promise<string> {
    const { user } = asking;
    const since = child(body, DAV, 'sync-token')?.textContent?.trim() ?? '';
    // The state is read before what is in it: what changes in between is told once more.
    const token = await this.sync.token(user);
    const { things, gone } = since ? await this.sync.since(user, collection, since) : { things: undefined, gone: [] as string[] };
    const there = await this.collections.resources(user, collection, things);
    const left = gone.length ? gone.filter((name) => !there.some((one) => one.name === name)) : [];
    const still = new Set<string>();
    for (const name of left) if (await this.collections.named(user, collection, name)) still.add(name);
    const answers = there.map((one) => this.resource(asking, collection, one, asked));
    const missing = left
      .filter((name) => !still.has(name))
      .map((name) => goneResponse(collection.path + encodeURIComponent(name)));
    return documentOf('multistatus', [...answers, ...missing].join('') + d('sync-token', token));
  }

  /** Busy time of a calendar, without what it is (RFC 4791, 7.10). */
  private async freeBusy(user: User, collection: Collection, body: Element): Promise<string> {
    const range = child(body, CALDAV, 'time-range');
    if (!range || collection.kind !== 'calendar') throw new DavError(400, '', 'Ask for a time range of a calendar.');
    const { start, end } = rangeOf(range);
    const series = (await this.collections.resources(user, collection)).map(({ events }) => events);
    const calendar = { id: collection.calendar.id, shown: true, busy: true };
    const busy = takenBy(busyOf(agendaOf(series, [], [calendar], { start, end }, user.zone).events));
    return writeFreeBusy(busy, { start, end });
  }

  private resource(asking: Asking, collection: Collection, one: Resource, asked: readonly Name[] | null): string {
    const wanted = asked?.some(({ local }) => local === 'calendar-data' || local === 'getcontentlength') ?? false;
    return this.said(asking, collection, one, asked, wanted ? this.collections.text(asking.user, collection, one) : null);
  }

  private said({ write }: Asking, collection: Collection, one: Resource, asked: readonly Name[] | null, text: string | null) {
    const component = collection.kind === 'calendar' ? 'vevent' : 'vtodo';
    return answer(pathOf(collection, one), resourceProperties(one.etag, component, write, text), asked);
  }

  private async withUid(user: User, collection: Collection, uid: string, manager: EntityManager): Promise<Resource | undefined> {
    const named = await manager.findBy(DavName, { ownerId: user.id, uid });
    const things = [uid, uid.replace(/@corvun$/, ''), ...named.map(({ thing }) => thing.replace(/^\w+:/, ''))];
    return (await this.collections.resources(user, collection, things, manager)).find((one) => one.uid === uid);
  }

  private async placeOf(user: User, path: string): Promise<Place> {
    const [, segment = '', name = ''] = /^\/dav\/home\/([^/]+)\/([^/]*)$/.exec(path) ?? [];
    const collection = segment ? await this.collections.one(user, segment) : null;
    if (!collection) throw new DavError(404);
    return { collection, name: name ? decodedName(name) : null };
  }

  private async present(user: User, collection: Collection, name: string): Promise<Resource> {
    const found = await this.collections.named(user, collection, name);
    if (!found) throw new DavError(404);
    return found;
  }
}

/** `If-Match` and `If-None-Match` of a request. */
export interface Conditions {
  match: string | undefined;
  noneMatch: string | undefined;
}

function refuseUnmet(present: Resource | null, { match, noneMatch }: Conditions): void {
  const has = (tags: string) => present !== null && (tags.trim() === '*' || tags.split(/,\s*/).includes(present.etag));
  if (match !== undefined && !has(match)) throw new DavError(412, '', 'It was changed meanwhile.');
  if (noneMatch !== undefined && has(noneMatch)) throw new DavError(412, '', 'It is there already.');
}

function refuseCopy(present: Resource | null): void {
  if (present?.events.some(({ mirror }) => mirror !== null))
    throw new DavError(403, '', 'This is a copy of what stands in another calendar, so it is changed there.');
}

const conflict = (collection: Collection, name: string) =>
  new DavError(403, c('no-uid-conflict', href(collection.path + encodeURIComponent(name))), 'Another object has this UID.');

/** Events and tasks of an object. @throws DavError where it cannot be read */
function objectOf(text: string, zone: string): { events: CalendarEvent[]; todos: CalendarTodo[] } {
  try {
    return readObject(text, zone);
  } catch (problem) {
    if (problem instanceof CalendarError) throw new DavError(403, c('valid-calendar-data'), problem.message);
    throw problem;
  }
}

const multistatus = (responses: readonly string[]) => documentOf('multistatus', responses.join(''));
const answer = (path: string, values: Record<string, string>, asked: readonly Name[] | null) => {
  const { found, missing } = pick(values, asked);
  return responseOf(path, found, missing);
};

const pathOf = (collection: Collection, { name }: Pick<Resource, 'name'>) => collection.path + encodeURIComponent(name);
const decodedName = (name: string) => {
  try {
    return decodeURIComponent(name);
  } catch {
    throw new DavError(400, '', 'This is no address.');
  }
};
/** The path of an address, which may be a whole one. */
const pathIn = (address: string) => address.trim().replace(/^https?:\/\/[^/]+/, '');
/** The same path as it is written here. */
const encodedPath = (path: string) => {
  const at = path.lastIndexOf('/') + 1;
  try {
    return path.slice(0, at) + encodeURIComponent(decodeURIComponent(path.slice(at)));
  } catch {
    return path;
  }
};
