import { Injectable } from '@nestjs/common';
import { Steps, agendaOf, busyOf, union, type Interval } from '@corvun/core';
import { childrenOf, writeFreeBusy, type CalendarEvent, type CalendarTodo, type XmlElement } from '@corvun/formats';
import type { EntityManager } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { Breath } from '../base/breath';
import { Kernel, byUser } from '../kernel/kernel.service';
import type { Work } from '../kernel/work';
import { ReadingPool } from '../reading/reading-pool.service';
import { changeTask } from '../tasks/change-task';
import { Answers, answer, askedIn, wantsText, type Asked } from './answers';
import { Collections, eventThing, thingOf, type Collection, type Listed, type Resource } from './collections';
import { DavError } from './dav-error';
import { DavName } from './dav.entities';
import { Filter, rangeOf } from './filter';
import { nameOfUid, uidOfTask } from './names';
import { HOME, PRINCIPAL, ROOT, collectionProperties, placeProperties, resourceProperties } from './properties';
import { decodedName, encodedPath, nameIn, pathIn, pathOf } from './paths';
import { putEvents, putTask } from './put';
import { conflict, refuseCopy, refuseUnmet, type Conditions } from './refusals';
import { DavSync } from './sync';
import { CALDAV, DAV, c, child, d, documentOf, goneResponse } from './xml';

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
    private readonly reading: ReadingPool,
  ) {}

  /** @throws DavError */
  async propfind(asking: Asking, path: string, depth: string, body: XmlElement | null): Promise<string> {
    if (depth !== '0' && depth !== '1') throw new DavError(403, d('propfind-finite-depth'), 'Ask with a depth of 0 or 1.');
    const asked = askedIn(body);
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
      const texts = wantsText(asked) ? await this.collections.texts(user, collection, [one]) : [];
      return multistatus([this.said(asking, collection, one, asked, texts[0] ?? null)]);
    }
    const inside = depth === '0' ? [] : await this.answersOf(asking, collection, asked);
    return multistatus([shown(collection), ...inside]);
  }

  /** @throws DavError */
  async report(asking: Asking, path: string, depth: string, body: XmlElement | null): Promise<{ type: string; text: string }> {
    const { collection, name } = await this.placeOf(asking.user, path);
    if (!body) throw new DavError(400, '', 'Say which report is asked for.');
    const asked = askedIn(body);
    const { ns, local } = body;
    const xml = (text: string) => ({ type: 'application/xml; charset=utf-8', text });
    if (ns === CALDAV && local === 'calendar-query') {
      const filter = new Filter(child(body, CALDAV, 'filter'), asking.user.zone);
      const only = name === null ? null : await this.present(asking.user, collection, name);
      return xml(await this.query(asking, collection, { depth, only, filter }, asked));
    }
    if (ns === CALDAV && local === 'calendar-multiget') return xml(await this.multiget(asking, collection, body, asked));
    if (name !== null) throw new DavError(403, d('supported-report'), 'This report is asked for at a calendar or list.');
    if (ns === DAV && local === 'sync-collection') return xml(await this.changes(asking, collection, body, asked));
    if (ns === CALDAV && local === 'free-busy-query')
      return { type: 'text/calendar; charset=utf-8', text: await this.freeBusy(asking.user, collection, body) };
    throw new DavError(403, d('supported-report'), 'This report is not known here.');
  }

  /** @throws DavError */
  async text(user: User, path: string): Promise<{ etag: string; text: string }> {
    const { collection, name } = await this.placeOf(user, path);
    if (name === null) throw new DavError(405, '', 'A collection has no text.');
    const one = await this.present(user, collection, name);
    const [whole = ''] = await this.collections.texts(user, collection, [one]);
    return { etag: one.etag, text: whole };
  }

  /** Makes or replaces an object. @returns whether it is new @throws DavError */
  async put(user: User, path: string, text: string, only: Conditions): Promise<boolean> {
    const { collection, name } = await this.placeOf(user, path);
    if (name === null) throw new DavError(405, '', 'A collection cannot be written over.');
    if (UNFIT.test(name)) throw new DavError(403, '', 'This is no name for something in a calendar.');
    const { events, todos } = await this.objectOf(text, user.zone);
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
        await manager.upsert(DavName, { ownerId: user.id, thing, name, uid, gone: false }, ['ownerId', 'thing']);
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
      if (present.task) {
        await changeTask(work, present.task, { status: 'CANCELLED' });
        const thing = thingOf(collection, present.key);
        await work.manager.upsert(DavName, { ownerId: user.id, thing, name: present.name, uid: present.uid, gone: true }, [
          'ownerId',
          'thing',
        ]);
      }
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
      return [eventThing(collection.calendar.id, events[0]?.uid ?? ''), await putEvents(work, user, collection.calendar, events)];
    const [todo] = todos;
    if (!todo) throw new DavError(403, c('valid-calendar-object-resource'));
    const { id, title } = await putTask(work, user, collection.list, todo, present?.task ?? null);
    return [`task:${id}`, title];
  }

  private async query(
    asking: Asking,
    collection: Collection,
    { depth, only, filter }: { depth: string; only: Resource | null; filter: Filter },
    asked: Asked,
  ): Promise<string> {
    const { user } = asking;
    const answers = new Answers();
    const pages = only ? [[only]] : depth === '0' ? [] : this.collections.resources(user, collection);
    for await (const some of pages) {
      const near = some.filter((one) => filter.mayFit(one));
      const texts = filter.readsText || wantsText(asked) ? await this.collections.texts(user, collection, near) : [];
      for (const [at, one] of near.entries())
        if (filter.fits(one, texts[at] ?? '')) answers.add(this.said(asking, collection, one, asked, texts[at] ?? null));
    }
    return multistatus(answers.all);
  }

  /** Each address is answered once, however often it is asked for. */
  private async multiget(asking: Asking, collection: Collection, body: XmlElement, asked: Asked): Promise<string> {
    const paths = new Set(childrenOf(body, DAV, 'href').map(({ text }) => encodedPath(pathIn(text))));
    const names = new Map(
      [...paths].flatMap((path) => nameIn(collection, path)).map((name) => [pathOf(collection, { name }), name]),
    );
    const listed = await this.collections.listedAs(asking.user, collection, [...names.values()]);
    const answers = new Answers();
    const found = new Set<string>();
    const keys = listed.map(({ key }) => key);
    for (const answer of await this.answersOf(asking, collection, asked, keys, (one) => found.add(pathOf(collection, one))))
      answers.add(answer);
    for (const path of paths) if (!found.has(path)) answers.add(goneResponse(path));
    return multistatus(answers.all);
  }

  private async changes(asking: Asking, collection: Collection, body: XmlElement, asked: Asked): Promise<string> {
    const { user } = asking;
    const since = child(body, DAV, 'sync-token')?.text.trim() ?? '';
    // The state is read before what is in it: what changes in between is told once more.
    const token = await this.sync.token(user);
    const { things, gone } = since ? await this.sync.since(user, collection, since) : { things: undefined, gone: [] as string[] };
    const there = new Set<string>();
    const answers = await this.answersOf(asking, collection, asked, things, ({ name }) => there.add(name));
    const left = gone.filter((name) => !there.has(name));
    const still = new Set((await this.collections.listedAs(user, collection, left)).map(({ name }) => name));
    const missing = left
      .filter((name) => !still.has(name))
      .map((name) => goneResponse(collection.path + encodeURIComponent(name)));
    return documentOf('multistatus', [...answers, ...missing].join('') + d('sync-token', token));
  }

  /** Busy time of a calendar, without what it is (RFC 4791, 7.10): of two years at most, which the answer says. */
  private async freeBusy(user: User, collection: Collection, body: XmlElement): Promise<string> {
    const asked = child(body, CALDAV, 'time-range');
    if (!asked || collection.kind !== 'calendar') throw new DavError(400, '', 'Ask for a time range of a calendar.');
    const { start, end } = rangeOf(asked);
    const range = { start, end: Math.min(end, start + LONGEST_BUSY) };
    const calendar = { id: collection.calendar.id, shown: true, busy: true };
    const busy: Interval[] = [];
    const among = await this.collections.inStretch(user, collection.calendar, range);
    const [breath, steps] = [new Breath(), new Steps(BUSY_STEPS)];
    for (const part of partsOf(range, AT_ONCE))
      for (const events of among) {
        busy.push(...busyOf(agendaOf([events], [], [calendar], part, user.zone, steps).events));
        if (steps.left < 0)
          throw new DavError(507, '', 'There are more dates in this time than are looked at. Ask for less of it.');
        await breath.take();
      }
    return writeFreeBusy(union(busy), range);
  }

  /** Answers of what is in a collection; whole things are only loaded where more than their version is asked for. */
  private async answersOf(
    asking: Asking,
    collection: Collection,
    asked: Asked,
    only?: readonly string[],
    each: (one: Listed) => void = () => undefined,
  ): Promise<string[]> {
    const { user } = asking;
    const answers = new Answers();
    const add = (one: Listed, text: string | null) => {
      each(one);
      answers.add(this.said(asking, collection, one, asked, text));
    };
    if (wantsText(asked))
      for await (const some of this.collections.resources(user, collection, only)) {
        const texts = await this.collections.texts(user, collection, some);
        for (const [at, one] of some.entries()) add(one, texts[at] ?? null);
      }
    else for await (const some of this.collections.listed(user, collection, only)) for (const one of some) add(one, null);
    return answers.all;
  }

  /** @param text where it is asked for */
  private said({ write }: Asking, collection: Collection, one: Listed, asked: Asked, text: string | null): string {
    const component = collection.kind === 'calendar' ? 'vevent' : 'vtodo';
    return answer(pathOf(collection, one), resourceProperties(one.etag, component, write, text), asked);
  }

  private async withUid(user: User, collection: Collection, uid: string, manager: EntityManager): Promise<Listed | undefined> {
    const named = await manager.findBy(DavName, { ownerId: user.id, uid });
    const prefix = thingOf(collection, '');
    const keys = named.flatMap(({ thing }) => (thing.startsWith(prefix) ? [thing.slice(prefix.length)] : []));
    const all = this.collections.listed(user, collection, [uid, uid.replace(/@corvun$/, ''), ...keys], manager);
    for await (const some of all) {
      const found = some.find((one) => one.uid === uid);
      if (found) return found;
    }
    return undefined;
  }

  private async placeOf(user: User, path: string): Promise<Place> {
    const [, segment = '', name = ''] = /^\/dav\/home\/([^/]+)(?:\/([^/]*))?$/.exec(path) ?? [];
    const collection = segment ? await this.collections.one(user, segment) : null;
    if (!collection) throw new DavError(404);
    return { collection, name: name ? decodedName(name) : null };
  }

  /** Events and tasks of an object, read as whatever arrives. @throws DavError where it cannot be read */
  private async objectOf(text: string, zone: string): Promise<{ events: CalendarEvent[]; todos: CalendarTodo[] }> {
    const [read] = await this.reading.objects([text], zone);
    if (!read || read.problem) throw new DavError(403, c('valid-calendar-data'), read?.problem ?? '');
    return read;
  }

  private async present(user: User, collection: Collection, name: string): Promise<Resource> {
    const found = await this.collections.named(user, collection, name);
    if (!found) throw new DavError(404);
    return found;
  }
}

const multistatus = (responses: readonly string[]) => documentOf('multistatus', responses.join(''));

/** Letters that no name has. */
const UNFIT = /[\u0000-\u001f\u007f]/;
const LONGEST_BUSY = 2 * 366 * 86_400_000;
/** Steps for one answer about busy time, and how much of it is looked at without stopping for breath. */
const BUSY_STEPS = 100_000;
const AT_ONCE = 60 * 86_400_000;

function* partsOf({ start, end }: Interval, size: number): Generator<Interval> {
  for (let at = start; at < end; at += size) yield { start: at, end: Math.min(end, at + size) };
}
