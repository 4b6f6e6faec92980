import { Injectable, type OnModuleInit } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { Step } from '@corvun/core';
import { In, MoreThanOrEqual, type Repository } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { Clock } from '../base/clock';
import { newId } from '../base/ids';
import { Event } from '../events/event.entity';
import { Entry } from '../kernel/entry.entity';
import { Kernel, type Follower } from '../kernel/kernel.service';
import { TOLD_FOR } from '../kernel/retention';
import { insertRows } from '../kernel/insert-rows';
import type { Work } from '../kernel/work';
import { Task } from '../tasks/task.entity';
import { collectionName, eventThing, type Collection } from './collections';
import { DavError } from './dav-error';
import { DavGone, DavName } from './dav.entities';
import { nameOfUid, uidOfTask } from './names';
import { d } from './xml';

const PREFIX = 'data:,corvun-';
const DAY = 86_400_000;
/** More changes than that, and everything is listed anew. */
const MOST = 20_000;
/** Names that are looked up with one statement. */
const MOST_NAMES = 1000;

/** What changed and what went since a program last asked (RFC 6578). */
@Injectable()
export class DavSync implements Follower, OnModuleInit {
  readonly name = 'dav';
  readonly actors = ['user', 'source', 'rule', 'guest', 'system'] as const;

  constructor(
    @InjectRepository(Entry) private readonly entries: Repository<Entry>,
    private readonly kernel: Kernel,
    private readonly clock: Clock,
  ) {}

  onModuleInit(): void {
    this.kernel.follow(this);
  }

  /** Notes what leaves a collection: it is taken away, or goes to another one. */
  async follow(work: Work, changes: readonly Step[]): Promise<void> {
    const left = changes.flatMap((step) => leaving(step));
    if (!left.length) return;
    const tasks = left.filter(({ kind }) => kind === 'task').map(({ id }) => id);
    const events = left.filter(({ kind, uid }) => kind === 'event' && !uid).map(({ id }) => id);
    const rows = events.length ? await work.manager.findBy(Event, { ownerId: work.ownerId, id: In(events) }) : [];
    const lists = new Map(
      (tasks.length ? await work.manager.findBy(Task, { ownerId: work.ownerId, id: In(tasks) }) : []).map((row) => [
        row.id,
        row.listId,
      ]),
    );
    const [last] = await work.manager.query<{ revision: number | null }[]>('SELECT MAX("revision") AS "revision" FROM "entry"');
    const uids = new Map(rows.map((row) => [row.id, row.uid]));
    const places = left.map(({ kind, id, collection, uid }) => {
      const known = uid || uids.get(id) || '';
      return kind === 'event'
        ? { kind, from: collection, thing: eventThing(collection, known), usual: nameOfUid(known) }
        : { kind, from: collection || (lists.get(id) ?? ''), thing: `task:${id}`, usual: nameOfUid(uidOfTask(id)) };
    });
    const names = await this.namesOf(
      work,
      places.map(({ thing }) => thing),
    );
    const gone = places.flatMap(({ kind, from, thing, usual }) => {
      const name = names.get(thing) ?? usual;
      if (!from) return [];
      const path = collectionName(kind === 'event' ? 'calendar' : 'list', from);
      return [{ id: newId(), ownerId: work.ownerId, collection: path, name, since: last?.revision ?? 0, at: work.now }];
    });
    await insertRows(work.manager, DavGone, gone);
  }

  private async namesOf(work: Work, things: readonly string[]): Promise<Map<string, string>> {
    const names = new Map<string, string>();
    for (let at = 0; at < things.length; at += MOST_NAMES)
      for (const row of await work.manager.findBy(DavName, {
        ownerId: work.ownerId,
        thing: In(things.slice(at, at + MOST_NAMES)),
      }))
        names.set(row.thing, row.name);
    return names;
  }

  /** The present state, as a token. */
  async token(user: User): Promise<string> {
    const [last] = await this.entries.query<{ revision: number | null }[]>(
      'SELECT MAX("revision") AS "revision" FROM "entry" WHERE "ownerId" = ?',
      [user.id],
    );
    return `${PREFIX}${last?.revision ?? 0}`;
  }

  /**
   * What changed in a collection since a token: UIDs of events or ids of tasks that may have, and names that may be gone.
   * @throws DavError 403 where the log does not reach back so far
   */
  async since(user: User, collection: Collection, token: string): Promise<{ things: string[]; gone: string[] }> {
    const revision = Number(token.startsWith(PREFIX) ? token.slice(PREFIX.length) : NaN);
    const invalid = new DavError(403, d('valid-sync-token'), 'This state is not known any more.');
    if (!Number.isInteger(revision) || revision < 0) throw invalid;
    const [newest] = await this.entries.find({ where: { ownerId: user.id }, order: { revision: 'DESC' }, take: 1 });
    if (revision > (newest?.revision ?? 0)) throw invalid;
    const next = await this.entries.findOne({
      where: { ownerId: user.id, revision: MoreThanOrEqual(revision + 1) },
      order: { revision: 'ASC' },
    });
    if (next && next.at < this.clock.now() - (TOLD_FOR - 1) * DAY) throw invalid;
    const table = collection.kind === 'calendar' ? 'event' : 'task';
    const column = collection.kind === 'calendar' ? 'uid' : 'id';
    const things = await this.entries.query<{ thing: string }[]>(
      `SELECT DISTINCT t."${column}" AS "thing" FROM "entry_about" a JOIN "${table}" t ON t."id" = a."rowId"
       WHERE a."revision" > ? AND t."ownerId" = ? LIMIT ${MOST}`,
      [revision, user.id],
    );
    if (things.length === MOST) throw invalid;
    const segment = collection.path.split('/').at(-2) ?? '';
    const gone = await this.entries.manager.findBy(DavGone, {
      ...{ ownerId: user.id, collection: segment, since: MoreThanOrEqual(revision) },
    });
    return { things: things.map(({ thing }) => thing), gone: [...new Set(gone.map(({ name }) => name))] };
  }
}

interface Leaving {
  kind: 'event' | 'task';
  id: string;
  /** Where it was; empty of a task that is dropped where it stands. */
  collection: string;
  uid: string;
}

const text = (value: unknown) => (typeof value === 'string' ? value : '');

function leaving({ kind, id, before, after }: Step): Leaving[] {
  if (kind === 'event') {
    const was = text(before?.['calendarId']);
    return was && (after === null || after['calendarId'] !== undefined)
      ? [{ kind, id, collection: was, uid: text(before?.['uid']) }]
      : [];
  }
  if (kind !== 'task' || !before) return [];
  const was = text(before['listId']);
  if (was && (after === null || after['listId'] !== undefined)) return [{ kind, id, collection: was, uid: '' }];
  return after?.['status'] === 'CANCELLED' ? [{ kind, id, collection: '', uid: '' }] : [];
}
