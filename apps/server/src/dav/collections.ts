import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { CollectionChoice } from '@corvun/contract';
import type { Interval } from '@corvun/core';
import type { Shape } from '@corvun/formats';
import { createHash } from 'node:crypto';
import { In, type EntityManager, Repository } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { Breath } from '../base/breath';
import { Calendar } from '../calendars/calendar.entity';
import { Event } from '../events/event.entity';
import { List } from '../lists/list.entity';
import { eventTexts, objectOf, taskTexts, type Changing } from '../own-text/leaving';
import { ReadingPool } from '../reading/reading-pool.service';
import { Source } from '../sources/source.entity';
import { Task } from '../tasks/task.entity';
import { DavError } from './dav-error';
import { DavName } from './dav.entities';
import { decodedName } from './decoded-name';
import { nameOfUid, uidOfTask } from './names';
import { d } from './xml';

/** A calendar of events, or a list of tasks. `comesFrom`: the host of the account that has it, too; empty where none has. */
export type Collection = { path: string; name: string; hue: number; comesFrom: string } & (
  { kind: 'calendar'; calendar: Calendar } | { kind: 'list'; list: List }
);

/** What an address leads to; no name: the collection itself. */
export interface Place {
  collection: Collection;
  name: string | null;
}

/** Something in a collection, by its address. */
export interface Listed {
  /** UID of events, or id of a task. */
  key: string;
  name: string;
  uid: string;
  etag: string;
}

/** Something in a collection, whole: the rows of a UID, or a task. */
export interface Resource extends Listed {
  events: Event[];
  task: Task | null;
  /** UID of the task it is a step of. */
  above: string | null;
}

const HOME = '/dav/home/';
/** A task that is dropped is one still (STATUS:CANCELLED), but for one that a program took away. */
const NOT_GONE = `AND NOT ("status" = 'CANCELLED' AND EXISTS (SELECT 1 FROM "dav_name" n
  WHERE n."ownerId" = "task"."ownerId" AND n."thing" = 'task:' || "task"."id" AND n."gone"))`;
/** Names and versions that are looked up at once, and things that are loaded whole. */
const PAGE = 500;
const WHOLE = 200;

function* chunks<T>(all: readonly T[], size: number): Generator<T[]> {
  for (let at = 0; at < all.length; at += size) yield all.slice(at, at + size);
}
export const collectionName = (kind: 'calendar' | 'list', id: string) => `${kind === 'calendar' ? 'cal' : 'list'}-${id}`;
const hash = (text: string) => `"${createHash('sha256').update(text).digest('hex').slice(0, 24)}"`;
/** What a name belongs to: a task, or a UID in a calendar; the same UID may stand in several. */
export const thingOf = (collection: Collection, key: string): string =>
  collection.kind === 'list' ? `task:${key}` : eventThing(collection.calendar.id, key);
export const eventThing = (calendarId: string, uid: string): string => `event:${calendarId}:${uid}`;

/** Collections and what is in them, as CalDAV sees them (RFC 4791, 4.1: one UID is one resource). */
@Injectable()
export class Collections {
  constructor(
    @InjectRepository(Calendar) private readonly calendars: Repository<Calendar>,
    @InjectRepository(List) private readonly lists: Repository<List>,
    private readonly reading: ReadingPool,
  ) {}

  async all(user: User): Promise<Collection[]> {
    const [sources, calendars, lists] = await Promise.all([
      this.lists.manager.findBy(Source, { ownerId: user.id, kind: 'account' }),
      this.calendars.find({
        where: { ownerId: user.id, origin: In(['own', 'connected']) },
        order: { main: 'DESC', position: 'ASC' },
      }),
      this.lists.find({ where: { ownerId: user.id, archived: false }, order: { position: 'ASC' } }),
    ]);
    const from = (wanted: (choice: CollectionChoice) => boolean): string => {
      const source = sources.find(({ settings }) => settings.collections?.some(wanted));
      return source && URL.canParse(source.address) ? new URL(source.address).host : '';
    };
    return [
      ...calendars.map((calendar): Collection => ({
        ...{ kind: 'calendar', calendar, name: calendar.name, hue: calendar.hue },
        comesFrom: from(({ calendarId }) => calendarId === calendar.id),
        path: `${HOME}${collectionName('calendar', calendar.id)}/`,
      })),
      ...lists.map((list): Collection => ({
        ...{ kind: 'list', list, name: list.name, hue: list.hue },
        comesFrom: from(({ listId }) => listId === list.id),
        path: `${HOME}${collectionName('list', list.id)}/`,
      })),
    ];
  }

  async one(user: User, segment: string): Promise<Collection | null> {
    return (await this.all(user)).find(({ path }) => path === `${HOME}${segment}/`) ?? null;
  }

  /** What a path leads to. @throws DavError 404 */
  async at(user: User, path: string): Promise<Place> {
    const [, segment = '', name = ''] = /^\/dav\/home\/([^/]+)(?:\/([^/]*))?$/.exec(path) ?? [];
    const collection = segment ? await this.one(user, segment) : null;
    if (!collection) throw new DavError(404);
    return { collection, name: name ? decodedName(name) : null };
  }

  /** Names and versions of what is in it, in pages. @param only UIDs of events or ids of tasks; all where absent */
  async *listed(
    user: User,
    collection: Collection,
    only?: readonly string[],
    manager = this.lists.manager,
  ): AsyncGenerator<Listed[]> {
    const breath = new Breath();
    for (const some of only ? chunks([...new Set(only)], PAGE) : [null]) {
      for await (const found of this.found(user, collection, some, manager)) {
        const things = found.map(({ key }) => thingOf(collection, key));
        const named = await manager.findBy(DavName, { ownerId: user.id, thing: In(things) });
        const names = new Map(named.map((row) => [row.thing, row]));
        yield found.map(({ key, versions }) => {
          const usual = collection.kind === 'list' ? uidOfTask(key) : key;
          const { uid, name } = names.get(thingOf(collection, key)) ?? { uid: usual, name: nameOfUid(usual) };
          return { key, uid, name, etag: hash(versions.sort().join('\n')) };
        });
        await breath.take();
      }
    }
  }

  /** Versions of all rows of each thing. */
  private async *found(
    user: User,
    collection: Collection,
    only: readonly string[] | null,
    manager: EntityManager,
  ): AsyncGenerator<{ key: string; versions: string[] }[]> {
    const [table, key, folder, more] =
      collection.kind === 'list' ? ['task', 'id', 'listId', NOT_GONE] : ['event', 'uid', 'calendarId', ''];
    const second = collection.kind === 'list' ? 'id' : 'recurrenceId';
    const among = only ? `AND "${key}" IN (${only.map(() => '?').join(', ')})` : '';
    const within = collection.kind === 'list' ? collection.list.id : collection.calendar.id;
    let last: [string, string] = ['', ''];
    let open = null as { key: string; versions: string[] } | null;
    for (;;) {
      const rows: { key: string; second: string; id: string; version: number }[] = await manager.query(
        `SELECT "${key}" AS "key", "${second}" AS "second", "id", "version" FROM "${table}"
         WHERE "ownerId" = ? AND "${folder}" = ? ${more} ${among} AND ("${key}", "${second}") > (?, ?)
         ORDER BY "${key}", "${second}" LIMIT ${PAGE}`,
        [user.id, within, ...(only ?? []), ...last],
      );
      const whole: { key: string; versions: string[] }[] = [];
      for (const row of rows) {
        if (open?.key !== row.key) {
          if (open) whole.push(open);
          open = { key: row.key, versions: [] };
        }
        open.versions.push(`${row.id} ${row.version}`);
        last = [row.key, row.second];
      }
      const end = rows.length < PAGE;
      if (end && open) whole.push(open);
      if (whole.length) yield whole;
      if (end) return;
    }
  }

  /** What is in it, whole, in pages. @param only UIDs of events or ids of tasks; all where absent */
  async *resources(
    user: User,
    collection: Collection,
    only?: readonly string[],
    manager: EntityManager = this.lists.manager,
  ): AsyncGenerator<Resource[]> {
    const breath = new Breath();
    for await (const page of this.listed(user, collection, only, manager))
      for (const some of chunks(page, WHOLE)) {
        yield await (collection.kind === 'list'
          ? this.tasks(user, some, manager)
          : this.events(user, collection.calendar, some, manager));
        await breath.take();
      }
  }

  private async events(
    user: User,
    { id }: Pick<Calendar, 'id'>,
    some: readonly Listed[],
    manager: EntityManager,
  ): Promise<Resource[]> {
    const rows = await manager.findBy(Event, { ownerId: user.id, calendarId: id, uid: In(some.map(({ key }) => key)) });
    const byUid = new Map<string, Event[]>();
    for (const row of rows) byUid.set(row.uid, [...(byUid.get(row.uid) ?? []), row]);
    return some.map((one) => ({ ...one, events: byUid.get(one.key) ?? [], task: null, above: null }));
  }

  private async tasks(user: User, some: readonly Listed[], manager: EntityManager): Promise<Resource[]> {
    const rows = await manager.findBy(Task, { ownerId: user.id, id: In(some.map(({ key }) => key)) });
    const byId = new Map(rows.map((row) => [row.id, row]));
    const parents = rows.flatMap(({ parentId }) => (parentId ? [`task:${parentId}`] : []));
    const named = parents.length ? await manager.findBy(DavName, { ownerId: user.id, thing: In(parents) }) : [];
    const uids = new Map(named.map((row) => [row.thing, row.uid]));
    return some.map((one) => {
      const task = byId.get(one.key) ?? null;
      const above = task?.parentId ? (uids.get(`task:${task.parentId}`) ?? uidOfTask(task.parentId)) : null;
      return { ...one, events: [], task, above };
    });
  }

  /** Those with these names, the last parts of their addresses. */
  async listedAs(user: User, collection: Collection, names: readonly string[], manager = this.lists.manager): Promise<Listed[]> {
    const wanted = new Set(names);
    const keys: string[] = [];
    for (const some of chunks(names, PAGE)) {
      const known = await manager.findBy(DavName, { ownerId: user.id, name: In([...some]) });
      const prefix = thingOf(collection, '');
      keys.push(...known.flatMap(({ thing }) => (thing.startsWith(prefix) ? [thing.slice(prefix.length)] : [])));
      const usual = some.map((name) => name.replace(/\.ics$/, ''));
      keys.push(...(collection.kind === 'list' ? usual.map((uid) => uid.replace(/@corvun$/, '')) : usual));
    }
    const found: Listed[] = [];
    for await (const page of this.listed(user, collection, keys, manager))
      found.push(...page.filter(({ name }) => wanted.has(name)));
    return found;
  }

  /** One of them by the last part of its address. */
  async named(user: User, collection: Collection, name: string, manager = this.lists.manager): Promise<Resource | null> {
    const [listed] = await this.listedAs(user, collection, [name], manager);
    if (!listed) return null;
    for await (const [found] of this.resources(user, collection, [listed.key], manager)) return found ?? null;
    return null;
  }

  /** The same, where it has to be there. @throws DavError 404 */
  async present(user: User, collection: Collection, name: string): Promise<Resource> {
    const found = await this.named(user, collection, name);
    if (!found) throw new DavError(404);
    return found;
  }

  /** The rows of each UID of which a date may lie in a stretch. */
  async inStretch(user: User, calendar: Pick<Calendar, 'id'>, { start, end }: Interval): Promise<Event[][]> {
    const touching: { uid: string }[] = await this.lists.manager.query(
      `SELECT DISTINCT "uid" FROM "event" WHERE "ownerId" = ? AND "calendarId" = ? AND "startAt" < ? AND ("endAt" IS NULL OR "endAt" > ?)`,
      [user.id, calendar.id, end, start],
    );
    const found: Event[][] = [];
    const breath = new Breath();
    for (const some of chunks(touching, WHOLE)) {
      const listed = some.map(({ uid }) => ({ key: uid, uid, name: '', etag: '' }));
      found.push(...(await this.events(user, calendar, listed, this.lists.manager)).map(({ events }) => events));
      await breath.take();
    }
    return found;
  }

  /** The iCalendar texts of some, each as whoever made it has written it, with what was changed here. */
  async texts(user: User, collection: Collection, some: readonly Resource[]): Promise<string[]> {
    const { manager } = this.lists;
    const changing: Changing = (all, reader) => this.reading.texts(all, reader);
    if (collection.kind === 'list') {
      const list = collection.list.name;
      const there = some.filter((one) => one.task !== null);
      const outs = there.map(({ task, uid, above }) => ({ task: task as Task, uid, parent: above, list }));
      const texts = await taskTexts(manager, user, outs, changing);
      const byKey = new Map(there.map(({ key }, at) => [key, texts[at]]));
      return some.map(({ key }) => {
        const text = byKey.get(key);
        return text ? objectOf([text]) : '';
      });
    }
    const rows = some.flatMap(({ events }) => inOrder(events));
    const texts = await eventTexts(manager, user, rows, changing);
    let at = 0;
    return some.map(({ events }) => objectOf(texts.slice(at, (at += events.length))));
  }

  /** Texts in another shape. @throws DavError 507 where one would be too long */
  async shaped(texts: string[], shape: Shape, zone: string): Promise<string[]> {
    const shaped = await this.reading.shaped(texts, shape, zone);
    return shaped.map(({ text, problem }) => {
      if (problem) throw new DavError(507, d('number-of-matches-within-limits'), problem);
      return text;
    });
  }
}

/** A series before its changed dates. */
const inOrder = (events: readonly Event[]): Event[] => [...events].sort((a, b) => (a.recurrenceId < b.recurrenceId ? -1 : 1));
