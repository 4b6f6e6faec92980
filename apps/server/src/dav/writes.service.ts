import { Injectable } from '@nestjs/common';
import type { CalendarEvent, CalendarTodo } from '@corvun/formats';
import { In, type EntityManager } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { Event } from '../events/event.entity';
import { Kernel, byUser } from '../kernel/kernel.service';
import type { Work } from '../kernel/work';
import { ReadingPool } from '../reading/reading-pool.service';
import { changeTask } from '../tasks/change-task';
import { Collections, eventThing, thingOf, type Collection, type Listed, type Place, type Resource } from './collections';
import { DavError } from './dav-error';
import { DavName } from './dav.entities';
import { nameOfUid, uidOfTask } from './names';
import { putEvents, putTask } from './put';
import { conflict, refuseCopy, refuseUnmet, type Conditions } from './refusals';
import { c } from './xml';

/** What calendar programs change (RFC 4918, RFC 4791). */
@Injectable()
export class DavWrites {
  constructor(
    private readonly collections: Collections,
    private readonly kernel: Kernel,
    private readonly reading: ReadingPool,
  ) {}

  /** Makes or replaces an object. @returns whether it is new @throws DavError */
  async put(user: User, path: string, text: string, only: Conditions): Promise<boolean> {
    const { collection, name } = await this.collections.at(user, path);
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
      await this.callIt(manager, user, thing, name, uid);
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
    const { collection, name } = await this.collections.at(user, path);
    if (name === null) throw new DavError(403, '', 'Calendars and lists are taken away in Corvun.');
    await this.kernel.transact(byUser(user), async (work) => {
      const present = await this.collections.named(user, collection, name, work.manager);
      if (!present) throw new DavError(404);
      refuseUnmet(present, only);
      refuseCopy(present);
      const title = await this.takeAway(work, user, collection, present);
      work.say({ action: 'remove', sentence: `“${title}” was taken away in a calendar program` });
    });
  }

  private async takeAway(work: Work, user: User, collection: Collection, present: Resource): Promise<string> {
    for (const event of present.events) await work.remove('event', event);
    if (present.task) {
      await changeTask(work, present.task, { status: 'CANCELLED' });
      const named = { ownerId: user.id, thing: thingOf(collection, present.key), name: present.name, uid: present.uid };
      await work.manager.upsert(DavName, { ...named, gone: true }, ['ownerId', 'thing']);
    }
    return present.task?.title ?? present.events[0]?.title ?? '';
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

  /**
   * Puts what stands at one address at another one: with everything of it (RFC 4918, 9.8 and 9.9).
   * @param overwrite whether something may stand there already
   * @returns whether nothing did
   * @throws DavError
   */
  async carry(user: User, how: 'COPY' | 'MOVE', path: string, to: string, overwrite: boolean): Promise<boolean> {
    const from = await this.collections.at(user, path);
    const there = await this.collections.at(user, to);
    const isWhole = from.name === null || there.name === null;
    if (isWhole) throw new DavError(403, '', 'Calendars and lists are made in Corvun; what is in them can be moved and copied.');
    if (path === to) throw new DavError(403, '', 'It is there already.');
    const source = await this.collections.present(user, from.collection, from.name ?? '');
    const present = await this.collections.named(user, there.collection, there.name ?? '');
    if (present && !overwrite) throw new DavError(412, '', 'Something stands there already.');
    if (how === 'COPY') {
      const [text = ''] = await this.collections.texts(user, from.collection, [source]);
      if (present && present.uid !== source.uid) await this.remove(user, to, ANY);
      await this.put(user, to, text, ANY);
      return present === null;
    }
    if (from.collection.kind !== there.collection.kind)
      throw new DavError(403, c('supported-calendar-component'), 'Events are in calendars, and tasks on lists.');
    const { collection, name } = there as Place & { name: string };
    if (UNFIT.test(name)) throw new DavError(403, '', 'This is no name for something in a calendar.');
    await this.kernel.transact(byUser(user), async (work) => {
      const moving = await this.collections.named(user, from.collection, from.name ?? '', work.manager);
      if (!moving) throw new DavError(404);
      refuseCopy(moving);
      const old = await this.collections.named(user, collection, name, work.manager);
      if (old && old.key !== moving.key) await this.takeAway(work, user, collection, old);
      else if (old) for (const event of old.events) await work.remove('event', event);
      const twin = await this.withUid(user, collection, moving.uid, work.manager);
      if (twin && twin.name !== name && collection.path !== from.collection.path) throw conflict(collection, twin.name);
      const title = await this.move(work, user, from.collection, collection, moving);
      const thing = thingOf(collection, moving.key);
      await work.manager.delete(DavName, { ownerId: user.id, thing: thingOf(from.collection, moving.key) });
      await this.callIt(work.manager, user, thing, name, moving.uid);
      work.say({ action: 'move', sentence: `“${title}” was moved to ${collection.name} in a calendar program` });
    });
    return present === null;
  }

  private async move(work: Work, user: User, from: Collection, to: Collection, { events, task }: Resource): Promise<string> {
    if (from.path === to.path) return task?.title ?? events[0]?.title ?? '';
    if (task && to.kind === 'list') await changeTask(work, task, { listId: to.list.id });
    if (to.kind === 'calendar')
      for (const row of await work.manager.findBy(Event, { ownerId: user.id, id: In(events.map(({ id }) => id)) }))
        await work.update('event', row, { calendarId: to.calendar.id });
    return task?.title ?? events[0]?.title ?? '';
  }

  /** Keeps under which name and UID something stands, where those are not what they would be by themselves. */
  private async callIt(manager: EntityManager, user: User, thing: string, name: string, uid: string): Promise<void> {
    const usual = thing.startsWith('task:') ? uidOfTask(thing.slice('task:'.length)) : uid;
    if (name !== nameOfUid(usual) || uid !== usual)
      await manager.upsert(DavName, { ownerId: user.id, thing, name, uid, gone: false }, ['ownerId', 'thing']);
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

  /** Events and tasks of an object, read as whatever arrives. @throws DavError where it cannot be read */
  private async objectOf(text: string, zone: string): Promise<{ events: CalendarEvent[]; todos: CalendarTodo[] }> {
    const [read] = await this.reading.objects([text], zone);
    if (!read || read.problem) throw new DavError(403, c('valid-calendar-data'), read?.problem ?? '');
    return read;
  }
}

/** Letters that no name has. */
const UNFIT = /[\u0000-\u001f\u007f]/;
const ANY: Conditions = { match: undefined, noneMatch: undefined };
