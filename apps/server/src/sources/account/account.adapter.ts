import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { CollectionChoice, SourceLook, SourceSettings } from '@corvun/contract';
import { count } from '@corvun/core';
import { In, Repository } from 'typeorm';
import { Calendar } from '../../calendars/calendar.entity';
import { newCalendar } from '../../calendars/new-calendar';
import { List } from '../../lists/list.entity';
import { newList } from '../../lists/new-list';
import type { Work } from '../../kernel/work';
import { ReadingPool } from '../../reading/reading-pool.service';
import { Task } from '../../tasks/task.entity';
import type { Adapter, Reach, Step } from '../adapter';
import { OutsideHttp } from '../outside-http';
import { OutboxEntry } from '../outbox.entity';
import { SourceProblem } from '../problem';
import type { Source } from '../source.entity';
import { AccountIn } from './account-in.service';
import type { Into, Read } from './into';
import { busyOf, FREE, freeChoice, freeOnly, isFresh, tellsBusy, type Busy } from './account-others';
import { AccountOut } from './account-out.service';
import { AccountWay } from './account-way.service';
import { DavClient, type Collection, type Listed } from './dav-client';
import { Remote } from './remote.entity';

const BATCH = 200;
/** What is this old comes after what is newer. */
const RECENT = 92 * 86_400_000;
/** So many entries that cannot be kept are remembered, so that they are not looked at anew as long as they stay as they are. */
const MOST_LEFT = 500;

/** Something that cannot be kept here. */
export interface Left {
  etag: string;
  why: string;
}

/** How far an account was read. */
interface Cursor {
  home?: string;
  /** By collection: its state and its token when it was last read to the end. */
  at?: Record<string, { state: string; token: string | null }>;
  /** What is not here, by path: which version of it, and why. */
  left?: Record<string, Left>;
  /** When those are busy whose time is looked at, by choice. */
  busy?: Record<string, Busy>;
}

/** A calendar account (CalDAV, RFC 4791): events and tasks, both ways. */
@Injectable()
export class AccountAdapter implements Adapter {
  readonly kind = 'account';
  readonly every = 60;
  readonly defaults = { collections: [] };

  constructor(
    @InjectRepository(Remote) private readonly remotes: Repository<Remote>,
    private readonly http: OutsideHttp,
    private readonly way: AccountWay,
    private readonly arriving: AccountIn,
    private readonly leaving: AccountOut,
    private readonly reading: ReadingPool,
  ) {}

  async look(reach: Reach): Promise<SourceLook> {
    const client = new DavClient(this.http, this.reading, reach);
    await client.discover();
    const found = await client.collections();
    if (!found.length) throw new SourceProblem(`There are no calendars at ${reach.source.address}.`, 'refused');
    const said = reach.source.settings.collections ?? [];
    const look: SourceLook = { choices: [], total: 0, matching: 0, sentence: '', sample: [], settings: {} };
    const collections: CollectionChoice[] = [];
    for (const one of found) {
      if (tellsBusy(one)) await this.lookAtBusy(client, one, said, collections, look);
      if (one.closed) continue;
      const known = said.find(({ id }) => id === one.id);
      const entries = (await client.list(one)).length;
      const chosen = said.length
        ? known !== undefined
        : (one.things === 'events' && !one.ofOther) || (one.things === 'tasks' && entries > 0);
      if (chosen)
        collections.push({ ...known, id: one.id, name: known?.name || one.name, ...(one.writable ? {} : { readOnly: true }) });
      look.choices.push({ id: one.id, name: one.name, count: entries, chosen, writable: one.writable });
      look.total += entries;
      if (chosen) look.matching += entries;
    }
    look.settings = { ...reach.source.settings, collections };
    const of = (things: string) => collections.filter(({ id }) => id.startsWith(things)).length;
    const parts = [
      of('events:') && count(of('events:'), 'calendar'),
      of('tasks:') && count(of('tasks:'), 'task list'),
      of(FREE) && `when ${count(of(FREE), 'other is', 'others are')} busy`,
    ];
    look.sentence = `${look.matching} of ${count(look.total, 'entry', 'entries')}: ${parts.filter(Boolean).join(', ') || 'nothing is chosen'}`;
    return look;
  }

  /** Offers to look at when somebody is busy, where it is known who that is or is said. */
  private async lookAtBusy(
    client: DavClient,
    there: Collection,
    said: readonly CollectionChoice[],
    chosen: CollectionChoice[],
    look: SourceLook,
  ): Promise<void> {
    const id = freeChoice(there);
    const known = said.find((one) => one.id === id);
    const address = known?.address || (there.ofOther ? await client.addressOf(there.owner) : '');
    const isChosen = said.length ? known !== undefined : address !== '';
    if (isChosen) chosen.push(freeOnly({ id, name: there.name, address }));
    look.choices.push({ id, name: there.name, count: null, chosen: isChosen, writable: false, address });
  }

  /** Makes the calendars and lists of what was chosen, and lets go of what is not any more. */
  async prepare(work: Work, source: Source, before: SourceSettings): Promise<void> {
    const collections: CollectionChoice[] = [];
    for (const choice of source.settings.collections ?? []) {
      const known = before.collections?.find(({ id }) => id === choice.id);
      collections.push(
        await this.placed(work, source, { ...choice, calendarId: known?.calendarId ?? choice.calendarId ?? null }),
      );
    }
    source.settings = { ...source.settings, collections };
    const kept = new Set(collections.map(({ id }) => id));
    for (const gone of before.collections ?? []) if (!kept.has(gone.id)) await this.part(work, source, gone);
  }

  private async placed(work: Work, source: Source, choice: CollectionChoice): Promise<CollectionChoice> {
    const { ownerId } = work;
    if (choice.id.startsWith(FREE)) return freeOnly(choice);
    if (choice.id.startsWith('events:')) {
      const known = choice.calendarId
        ? await work.manager.findOneBy(Calendar, { ownerId, id: choice.calendarId, sourceId: source.id })
        : null;
      const origin = choice.readOnly ? 'feed' : 'connected';
      const calendar = known ?? (await newCalendar(work, { name: choice.name, origin, busy: true, sourceId: source.id }));
      return { ...choice, calendarId: calendar.id };
    }
    const lists = await work.manager.findBy(List, { ownerId });
    const list =
      lists.find(({ id }) => id === choice.listId) ??
      lists.find(({ name }) => !choice.listId && name.toLowerCase() === choice.name.toLowerCase()) ??
      (await work.insert('list', newList(choice.name, lists)));
    return { ...choice, listId: list.id };
  }

  /** What came from a collection stays, as the user's own. */
  private async part(work: Work, source: Source, choice: CollectionChoice): Promise<void> {
    const calendar = choice.calendarId
      ? await work.manager.findOneBy(Calendar, { ownerId: work.ownerId, id: choice.calendarId })
      : null;
    if (calendar) await work.update('calendar', calendar, { origin: 'own', sourceId: null });
    const ids = (await this.way.of(work, { sourceId: source.id, collection: choice.id })).map(({ id }) => id);
    await work.manager.delete(OutboxEntry, { sourceId: source.id, counterpartId: In(ids), state: 'waiting' });
    await work.manager.delete(Remote, { sourceId: source.id, collection: choice.id });
  }

  async *steps(reach: Reach): AsyncGenerator<Step> {
    const { source, user, now } = reach;
    const cursor: Required<Cursor> = { home: '', at: {}, left: {}, busy: {}, ...(source.cursor as Cursor) };
    const client = new DavClient(this.http, this.reading, reach, cursor.home);
    cursor.home ||= await client.discover();
    const found = new Map((await client.collections()).map((one) => [one.id, one]));
    const missing: string[] = [];
    const isLast = ({ id }: CollectionChoice) => (id.startsWith(FREE) ? 1 : 0);
    for (const choice of [...(source.settings.collections ?? [])].sort((a, b) => isLast(a) - isLast(b))) {
      const isFree = choice.id.startsWith(FREE);
      const there = found.get(isFree ? `events:${choice.id.slice(FREE.length)}` : choice.id);
      if (!there) missing.push(choice.name);
      if (there && isFree) {
        if (isFresh(cursor.busy[choice.id], now)) continue;
        cursor.busy = { ...cursor.busy, [choice.id]: await busyOf(client, there, now) };
        yield { write: () => Promise.resolve(), cursor: { ...cursor }, done: 0, total: null };
        continue;
      }
      if (!there || (there.state && cursor.at[choice.id]?.state === there.state)) continue;
      yield* this.collection({ user, source, choice, left: () => undefined }, client, there, cursor);
    }
    if (missing.length)
      throw new SourceProblem(
        `${missing.map((name) => `“${name}”`).join(', ')} ${missing.length === 1 ? 'is' : 'are'} not there any more. What was here of ${missing.length === 1 ? 'it' : 'them'} stays.`,
        'refused',
      );
  }

  private async *collection(
    { user, source, choice }: Into,
    client: DavClient,
    there: Collection,
    cursor: Required<Cursor>,
  ): AsyncGenerator<Step> {
    const known = cursor.at[there.id];
    const news = known?.token && there.token ? await client.since(there, known.token) : null;
    const first = news === null && there.things === 'events' && !known;
    const recent = first ? await client.list(there, Date.now() - RECENT) : [];
    const all = news ? news.changed : await client.list(there);
    const rows = await this.remotes.find({
      where: { ownerId: user.id, sourceId: source.id, collection: there.id },
      select: { id: true, href: true, etag: true },
    });
    const etags = new Map(rows.map((row) => [row.href, row.etag]));
    const order = new Map([...recent, ...all].map((one) => [one.href, one]));
    const left = (href: string, title: string, why: string) => {
      const kept = { etag: order.get(href)?.etag ?? '', why: title ? `“${title.slice(0, 80)}”: ${why}` : why };
      if (href in cursor.left || Object.keys(cursor.left).length < MOST_LEFT) cursor.left[href] = kept;
    };
    const into: Into = { user, source, choice, left };
    const wanted = [...order.values()].filter(({ href, etag }) => etags.get(href) !== etag && cursor.left[href]?.etag !== etag);
    const gone = news ? new Set(news.gone) : null;
    const lost = rows.filter(({ href }) => href !== null && (gone ? gone.has(href) : !order.has(href)));
    let done = 0;
    for await (const objects of this.loaded(into, client, there, wanted)) {
      done += objects.length;
      yield { write: (work) => this.arriving.bring(work, into, objects), cursor: { ...cursor }, done, total: wanted.length };
    }
    cursor.left = stillLeft(cursor.left, (path) => (gone ? gone.has(path) : path.startsWith(there.path) && !order.has(path)));
    cursor.at = { ...cursor.at, [there.id]: { state: news?.more ? '' : there.state, token: news?.token ?? there.token } };
    yield {
      write: async (work) => {
        await this.arriving.lose(work, into, lost.length ? await this.way.of(work, { id: In(lost.map(({ id }) => id)) }) : []);
        if (!known) await this.tasksHere(work, into);
      },
      cursor: { ...cursor },
      done: wanted.length,
      total: wanted.length,
    };
  }

  /** Open tasks that stood on the list before go to the account, too. */
  private async tasksHere(work: Work, { source, choice }: Into): Promise<void> {
    if (!choice.listId) return;
    const tasks = await work.manager.findBy(Task, {
      ...{ ownerId: work.ownerId, listId: choice.listId, status: In(['NEEDS-ACTION', 'IN-PROCESS']) },
    });
    const known = new Set((await this.way.of(work, { sourceId: source.id, collection: choice.id })).map(({ taskId }) => taskId));
    const above = (task: Task) => (task.parentId ? 1 : 0);
    for (const task of tasks.filter(({ id }) => !known.has(id)).sort((a, b) => above(a) - above(b)))
      await this.way.sendWhatDiffers(work, source, await this.way.ofTask(work, { source, choice }, task));
  }

  /** Batches of objects, read. Tasks come in one, because steps may stand before what they are steps of. */
  private async *loaded(into: Into, client: DavClient, there: Collection, wanted: readonly Listed[]): AsyncGenerator<Read[]> {
    const { zone } = into.user;
    const whole: Read[] = [];
    let next = this.batch(client, there, wanted.slice(0, BATCH), into, zone);
    for (let at = 0; at < wanted.length; at += BATCH) {
      const objects = await next;
      if (at + BATCH < wanted.length) {
        next = this.batch(client, there, wanted.slice(at + BATCH, at + 2 * BATCH), into, zone);
        // Its failure is met when it is asked for.
        next.catch(() => undefined);
      }
      if (there.things === 'events') yield objects;
      else whole.push(...objects);
    }
    if (whole.length) yield whole;
  }

  private async batch(
    client: DavClient,
    there: Collection,
    wanted: readonly Listed[],
    into: Into,
    zone: string,
  ): Promise<Read[]> {
    const seen = await client.load(there, wanted, (href, why) => into.left(href, '', why));
    const read = await this.reading.objects(
      seen.map(({ text }) => text),
      zone,
    );
    return seen.map((one, at) => {
      const { events = [], todos = [], problem = '' } = read[at] ?? {};
      if (problem) into.left(one.href, '', problem);
      return { ...one, events, todos };
    });
  }

  async send(reach: Reach, entry: OutboxEntry): Promise<void> {
    const { home = '' } = reach.source.cursor as Cursor;
    const client = new DavClient(this.http, this.reading, reach, home);
    if (!home) await client.discover();
    await this.leaving.send(reach, entry, client);
  }

  /** What changed here while it was sent goes after it. */
  async again(work: Work, source: Source, entry: OutboxEntry): Promise<void> {
    const [remote] = await this.way.of(work, { id: entry.counterpartId ?? '' });
    if (remote) await this.way.sendWhatDiffers(work, source, remote);
  }

  letStand(work: Work, { counterpartId }: OutboxEntry): Promise<void> {
    return this.way.letStand(work, counterpartId ?? '');
  }
}

const stillLeft = (left: Record<string, Left>, went: (path: string) => boolean): Record<string, Left> =>
  Object.fromEntries(Object.entries(left).filter(([path]) => !went(path)));

/** What of an account is not here, in sentences; empty when everything is. */
export function saysLeft({ left = {}, busy = {} }: Cursor): string {
  const all = Object.values(left);
  const first = all[0]?.why ?? '';
  const missing = all.length
    ? `${count(all.length, 'entry', 'entries')} of it ${all.length === 1 ? 'is' : 'are'} not here. ${first}`
    : '';
  return [missing, ...Object.values(busy).map(({ why }) => why)].filter(Boolean).join(' ');
}
