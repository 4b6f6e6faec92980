import { Injectable, OnModuleInit } from '@nestjs/common';
import type { CollectionChoice } from '@corvun/contract';
import { merge, seenThere, type Conflict, type Fields, type Step, type Value } from '@corvun/core';
import { In, type FindOptionsWhere } from 'typeorm';
import { User } from '../../accounts/user.entity';
import { newId } from '../../base/ids';
import { blankIncoming } from '../../decisions/blanks';
import { Event } from '../../events/event.entity';
import { Incoming } from '../../incoming/incoming.entity';
import { Kernel, type By, type Follower } from '../../kernel/kernel.service';
import type { Work } from '../../kernel/work';
import { Task } from '../../tasks/task.entity';
import { noteSending } from '../note-sending';
import { OutboxEntry } from '../outbox.entity';
import { Source } from '../source.entity';
import { GONE, say as told } from '../two-way.service';
import { stateOfEvent } from '../../events/event-state';
import { Remote } from './remote.entity';
import { nameOfField, sayField } from './say-field';
import { stateOfTask } from '../../tasks/todo-state';

/** An account and one of its collections. */
interface Place {
  source: Source;
  choice: CollectionChoice;
}

/** What of a thing here differs from the last common state; `fields` null: it is gone here. */
export interface ToSend {
  title: string;
  fields: Record<string, Value> | null;
}

/** Keeps events and tasks in step with the accounts they are in, too: by their states, not by who did what. */
@Injectable()
export class AccountWay implements Follower, OnModuleInit {
  readonly name = 'accounts';
  readonly actors = ['user', 'source', 'rule', 'guest', 'system'] as const;

  constructor(private readonly kernel: Kernel) {}

  onModuleInit(): void {
    this.kernel.follow(this);
  }

  /** Whatever changes in a connected calendar or list goes to its account. */
  async follow(work: Work, changes: readonly Step[], by: By): Promise<void> {
    if (!changes.some(({ kind }) => kind === 'event' || kind === 'task')) return;
    const sources = await work.manager.findBy(Source, { ownerId: work.ownerId, kind: 'account' });
    const places = sources.flatMap((source) => (source.settings.collections ?? []).map((choice) => ({ source, choice })));
    if (!places.length) return;
    const ofKind = (wanted: string) => changes.filter(({ kind }) => kind === wanted);
    await this.followEvents(work, places, ofKind('event'), by);
    await this.followTasks(work, places, ofKind('task'), by);
  }

  private async followEvents(work: Work, places: readonly Place[], changes: readonly Step[], by: By): Promise<void> {
    if (!changes.length) return;
    const byCalendar = new Map(places.flatMap((place) => (place.choice.calendarId ? [[place.choice.calendarId, place]] : [])));
    const rows = await work.manager.findBy(Event, { ownerId: work.ownerId, id: In(changes.map(({ id }) => id)) });
    const known = new Map(rows.map((row) => [row.id, row]));
    const touched = new Map<string, { place: Place; calendarId: string; uid: string }>();
    for (const { id, before, after } of changes) {
      const row = known.get(id);
      const uid = before?.['uid'] ?? row?.uid ?? after?.['uid'];
      for (const [calendarId, name] of [
        [row?.calendarId, row?.uid],
        [before?.['calendarId'] ?? row?.calendarId, uid],
      ]) {
        const place = byCalendar.get(String(calendarId));
        // What an account has brought itself is known there; copies are not its own doing.
        if (!place || typeof name !== 'string' || (by.actor.id === place.source.id && !row?.mirror)) continue;
        touched.set(`${String(calendarId)}\n${name}`, { place, calendarId: String(calendarId), uid: name });
      }
    }
    for (const { place, calendarId, uid } of touched.values()) {
      const at = { sourceId: place.source.id, collection: place.choice.id, uid };
      const remote = await work.manager.findOneBy(Remote, at);
      const there =
        remote ?? ((await this.eventParts(work, calendarId, uid)).length ? await this.made(work, { ...at, calendarId }) : null);
      if (there) await this.sendWhatDiffers(work, place.source, there);
    }
  }

  private async followTasks(work: Work, places: readonly Place[], changes: readonly Step[], by: By): Promise<void> {
    if (!changes.length) return;
    const ids = changes.map(({ id }) => id);
    const tasks = new Map((await work.manager.findBy(Task, { ownerId: work.ownerId, id: In(ids) })).map((row) => [row.id, row]));
    const remotes = new Map(
      (await work.manager.findBy(Remote, { ownerId: work.ownerId, taskId: In(ids) })).map((row) => [row.taskId, row]),
    );
    for (const id of ids) {
      const task = tasks.get(id);
      const place = task?.listId ? places.find(({ choice }) => choice.listId === task.listId) : undefined;
      let remote = remotes.get(id);
      const source = places.find((one) => one.source.id === remote?.sourceId)?.source;
      if (by.actor.id !== null && by.actor.id === (source ?? place?.source)?.id) continue;
      if (remote && source && (remote.sourceId !== place?.source.id || remote.collection !== place.choice.id)) {
        await work.manager.update(Remote, { id: remote.id }, { taskId: null });
        await this.sendWhatDiffers(work, source, { ...remote, taskId: null });
        remote = undefined;
      }
      if (!task || !place || (!remote && task.status === 'CANCELLED')) continue;
      remote ??= await this.ofTask(work, place, task);
      await this.sendWhatDiffers(work, place.source, remote);
    }
  }

  /** The object of a task that comes to a collection; one that was to go away there stays. */
  async ofTask(work: Work, { source, choice }: Place, task: Task): Promise<Remote> {
    const at = { sourceId: source.id, collection: choice.id, uid: `${task.id}@corvun` };
    const known = await work.manager.findOneBy(Remote, at);
    if (!known) return this.made(work, { ...at, taskId: task.id });
    await work.manager.update(Remote, { id: known.id }, { taskId: task.id });
    return { ...known, taskId: task.id };
  }

  private async made(work: Work, about: Pick<Remote, 'sourceId' | 'collection' | 'uid'> & Partial<Remote>): Promise<Remote> {
    const row = this.fresh(work, about);
    await work.manager.insert(Remote, row);
    return row;
  }

  /** A row that is not written yet. */
  fresh(work: Work, about: Pick<Remote, 'sourceId' | 'collection' | 'uid'> & Partial<Remote>): Remote {
    const nothing = { calendarId: null, taskId: null, href: null, etag: null, text: null, base: {}, sending: {} };
    const own = { id: newId(), ownerId: work.ownerId, version: 1, created: work.now, changed: work.now };
    return { ...nothing, ...about, ...own };
  }

  eventParts(work: Work, calendarId: string, uid: string): Promise<Event[]> {
    return work.manager.findBy(Event, { ownerId: work.ownerId, calendarId, uid });
  }

  /** UID there of the task that a task is a step of. */
  async parentOf(work: Work, sourceId: string, { parentId }: Pick<Task, 'parentId'>): Promise<string | null> {
    if (!parentId) return null;
    return (await work.manager.findOneBy(Remote, { ownerId: work.ownerId, sourceId, taskId: parentId }))?.uid ?? null;
  }

  /** How a thing is here; null: it is not. */
  async stateHere(work: Work, remote: Remote): Promise<{ title: string; state: Record<string, Value> } | null> {
    if (remote.calendarId) {
      const parts = await this.eventParts(work, remote.calendarId, remote.uid);
      if (!parts.length) return null;
      const user = await work.manager.findOneByOrFail(User, { id: work.ownerId });
      return { title: parts[0]?.title ?? '', state: stateOfEvent(parts, user) };
    }
    const task = remote.taskId ? await work.manager.findOneBy(Task, { ownerId: work.ownerId, id: remote.taskId }) : null;
    return task && { title: task.title, state: stateOfTask(task, await this.parentOf(work, remote.sourceId, task)) };
  }

  /** What has to go there; null: nothing. */
  async toSend(work: Work, remote: Remote): Promise<ToSend | null> {
    const here = await this.stateHere(work, remote);
    if (!here) return { title: String(remote.base['title'] ?? ''), fields: null };
    const open = await this.openConflict(work, remote);
    if (open?.conflict?.fields.some(({ field }) => field === GONE)) return null;
    const held = new Set(open?.conflict?.fields.map(({ field }) => field));
    const fields = Object.fromEntries(
      [...new Set([...Object.keys(remote.base), ...Object.keys(here.state)])]
        .filter((field) => !held.has(field) && (here.state[field] ?? null) !== (remote.base[field] ?? null))
        .map((field) => [field, here.state[field] ?? null]),
    );
    return Object.keys(fields).length ? { title: here.title, fields } : null;
  }

  /** Notes that something has to go there, once, however often it changes meanwhile. */
  async sendWhatDiffers(work: Work, source: Source, remote: Remote): Promise<void> {
    const send = await this.toSend(work, remote);
    if (!send) return;
    const waiting = await work.manager.findOneBy(OutboxEntry, { counterpartId: remote.id, kind: 'entry', state: 'waiting' });
    if (send.fields === null && !remote.href && !Object.keys(remote.sending).length) {
      // It was never there.
      await work.manager.delete(Remote, { id: remote.id });
      if (waiting) await work.manager.delete(OutboxEntry, { id: waiting.id });
      return;
    }
    if (waiting) {
      if (waiting.attempts > 0) await work.manager.update(OutboxEntry, { id: waiting.id }, { nextTry: work.now });
      return;
    }
    const what =
      send.fields === null ? `Take “${send.title}” away in ${source.name}` : `Bring “${send.title}” up to date in ${source.name}`;
    // A server may tell guests of what is written into it.
    const heard = Boolean(remote.base['guests'] ?? send.fields?.['guests']);
    await noteSending(work, { sourceId: source.id, counterpartId: remote.id, kind: 'entry', what, payload: {}, heard });
  }

  /** Merges what is there with what is here. @returns what changes here, and what is common from now on */
  async merged(work: Work, user: User, remote: Remote, here: Fields, there: Fields) {
    const names = [remote.base, remote.sending, here, there].flatMap((one) => Object.keys(one));
    const whole = { ...Object.fromEntries(names.map((name) => [name, null])), ...there };
    const seen = seenThere(remote.base, remote.sending, whole);
    const { toHere, base, conflicts } = merge(seen.base, here, whole);
    await this.tellConflict(work, user, remote, conflicts);
    const kept = Object.fromEntries(Object.entries(base).filter(([, value]) => value !== null));
    return { toHere, base: kept, sending: seen.sending };
  }

  /** How it is there is known anew. */
  async remember(work: Work, remote: Remote, patch: Partial<Remote>): Promise<Remote> {
    const after = { ...remote, ...patch, version: remote.version + 1, changed: work.now };
    const { version, changed } = after;
    await work.manager.update(Remote, { id: remote.id }, { ...patch, version, changed });
    return after;
  }

  openConflict(work: Work, { id, sourceId, ownerId }: Remote): Promise<Incoming | null> {
    return work.manager.findOneBy(Incoming, { ownerId, source: sourceId, threadKey: `conflict:${id}`, state: 'waiting' });
  }

  /** Shows both sides of what was changed here and there, each to something else, as one thing to decide. */
  async tellConflict(work: Work, user: User, remote: Remote, conflicts: readonly Conflict[], name = ''): Promise<void> {
    const open = await this.openConflict(work, remote);
    if (!conflicts.length) {
      if (open) await work.update('incoming', open, { state: 'decided', outcome: 'drop', decided: work.now });
      return;
    }
    const say = (field: string, value: Value) => (field === GONE ? value : sayField(field, value, user, work.now));
    const fields = conflicts.map(({ field, base, here, there }) => ({
      ...{ field, name: field === GONE ? 'The entry itself' : nameOfField(field, user, work.now) },
      ...{ base: say(field, base), here: say(field, here), there: say(field, there) },
    }));
    const conflict = { counterpartId: '', remoteId: remote.id, taskId: remote.taskId ?? '', fields };
    const text = fields
      .map(({ name, here, there, base }) => `${name}: here “${told(here)}”, there “${told(there)}”, before “${told(base)}”`)
      .join('\n');
    if (open) {
      await work.update('incoming', open, { text, conflict });
      return;
    }
    const source = await work.manager.findOneByOrFail(Source, { id: remote.sourceId });
    const title = name || ((await this.stateHere(work, remote))?.title ?? String(remote.base['title'] ?? ''));
    await work.insert('incoming', {
      ...blankIncoming(),
      ...{ source: source.id, sourceId: source.id, externalId: `conflict:${remote.id}:${newId()}`, kind: 'feed-entry' },
      ...{ senderName: source.name, subject: title, readTitle: title, received: work.now, written: work.now },
      ...{ text, threadKey: `conflict:${remote.id}`, originalSize: text.length, conflict },
      note: fields.some(({ field }) => field === GONE) ? 'changed on one side, gone on the other' : 'changed here and there',
    });
  }

  /** What is there will stand: nothing of it is sent any more until it changes again. */
  async letStand(work: Work, id: string): Promise<void> {
    const remote = await work.manager.findOneBy(Remote, { id, ownerId: work.ownerId });
    if (!remote) return;
    const here = await this.stateHere(work, remote);
    if (here) return void (await this.remember(work, remote, { base: here.state, sending: {} }));
    // It stands there, so it comes back with the next look.
    await work.manager.delete(Remote, { id });
    await work.manager.update(Source, { id: remote.sourceId }, { cursor: {} });
  }

  of(work: Work, where: FindOptionsWhere<Remote>): Promise<Remote[]> {
    return work.manager.find(Remote, { where: { ownerId: work.ownerId, ...where } });
  }
}
