import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { writeCalendar } from '@corvun/formats';
import { createHash } from 'node:crypto';
import { In, Not, type EntityManager, Repository } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { Calendar } from '../calendars/calendar.entity';
import { Event } from '../events/event.entity';
import { written } from '../events/written';
import { List } from '../lists/list.entity';
import { Task } from '../tasks/task.entity';
import { todoOf } from '../tasks/tasks-out';
import { DavName } from './dav.entities';

/** A calendar of events, or a list of tasks. */
export type Collection = { path: string; name: string; hue: number } & (
  { kind: 'calendar'; calendar: Calendar } | { kind: 'list'; list: List }
);

/** Something in a collection: the rows of a UID, or a task. */
export interface Resource {
  name: string;
  uid: string;
  etag: string;
  events: Event[];
  task: Task | null;
  /** UID of the task it is a step of. */
  above: string | null;
}

const HOME = '/dav/home/';
export const collectionName = (kind: 'calendar' | 'list', id: string) => `${kind === 'calendar' ? 'cal' : 'list'}-${id}`;
const hash = (text: string) => `"${createHash('sha256').update(text).digest('hex').slice(0, 24)}"`;
export const nameOfUid = (uid: string) => `${uid}.ics`;
export const uidOfTask = (id: string) => `${id}@corvun`;

/** Collections and what is in them, as CalDAV sees them (RFC 4791, 4.1: one UID is one resource). */
@Injectable()
export class Collections {
  constructor(
    @InjectRepository(Calendar) private readonly calendars: Repository<Calendar>,
    @InjectRepository(List) private readonly lists: Repository<List>,
  ) {}

  async all(user: User): Promise<Collection[]> {
    const [calendars, lists] = await Promise.all([
      this.calendars.find({ where: { ownerId: user.id, origin: 'own' }, order: { main: 'DESC', position: 'ASC' } }),
      this.lists.find({ where: { ownerId: user.id, archived: false }, order: { position: 'ASC' } }),
    ]);
    return [
      ...calendars.map((calendar): Collection => ({
        ...{ kind: 'calendar', calendar, name: calendar.name, hue: calendar.hue },
        path: `${HOME}${collectionName('calendar', calendar.id)}/`,
      })),
      ...lists.map((list): Collection => ({
        ...{ kind: 'list', list, name: list.name, hue: list.hue },
        path: `${HOME}${collectionName('list', list.id)}/`,
      })),
    ];
  }

  async one(user: User, segment: string): Promise<Collection | null> {
    return (await this.all(user)).find(({ path }) => path === `${HOME}${segment}/`) ?? null;
  }

  /** What is in it. @param only UIDs of events or ids of tasks; all where absent */
  async resources(
    user: User,
    collection: Collection,
    only?: readonly string[],
    manager: EntityManager = this.lists.manager,
  ): Promise<Resource[]> {
    const names = new Map((await manager.findBy(DavName, { ownerId: user.id })).map((row) => [row.thing, row]));
    if (collection.kind === 'list') {
      const tasks = await manager.find(Task, {
        where: { ownerId: user.id, listId: collection.list.id, status: Not('CANCELLED'), ...(only ? { id: In([...only]) } : {}) },
        order: { position: 'ASC', id: 'ASC' },
      });
      return tasks.map((task) => {
        const { uid, name } = names.get(`task:${task.id}`) ?? { uid: uidOfTask(task.id), name: nameOfUid(uidOfTask(task.id)) };
        const { parentId } = task;
        const above = parentId ? (names.get(`task:${parentId}`)?.uid ?? uidOfTask(parentId)) : null;
        return { name, uid, events: [], task, above, etag: hash(`${task.id} ${task.version}`) };
      });
    }
    const rows = await manager.find(Event, {
      where: { ownerId: user.id, calendarId: collection.calendar.id, ...(only ? { uid: In([...only]) } : {}) },
      order: { id: 'ASC' },
    });
    const byUid = new Map<string, Event[]>();
    for (const row of rows) byUid.set(row.uid, [...(byUid.get(row.uid) ?? []), row]);
    return [...byUid].map(([uid, events]) => ({
      ...{ uid, events, task: null, above: null, name: names.get(`event:${uid}`)?.name ?? nameOfUid(uid) },
      etag: hash(events.map(({ id, version }) => `${id} ${version}`).join('\n')),
    }));
  }

  /** One of them by the last part of its address. */
  async named(user: User, collection: Collection, name: string, manager = this.lists.manager): Promise<Resource | null> {
    const known = await manager.findBy(DavName, { ownerId: user.id, name });
    const uid = name.replace(/\.ics$/, '');
    const things =
      collection.kind === 'list'
        ? [...known.map(({ thing }) => thing.replace(/^task:/, '')), uid.replace(/@corvun$/, '')]
        : [...known.map(({ thing }) => thing.replace(/^event:/, '')), uid];
    const found = await this.resources(user, collection, things, manager);
    return found.find((one) => one.name === name) ?? null;
  }

  /** The iCalendar text of one. */
  text(user: User, collection: Collection, { events, task, uid, above }: Resource): string {
    if (!task) return writeCalendar(collection.name, written(events), [], user.email);
    const names = collection.kind === 'list' ? new Map([[collection.list.id, collection.list.name]]) : new Map<string, string>();
    const todo = { ...todoOf(task, user.zone, names), uid, parent: above };
    return writeCalendar(collection.name, [], [todo], user.email);
  }
}
