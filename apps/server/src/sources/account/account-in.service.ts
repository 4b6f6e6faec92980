import { Injectable, Logger } from '@nestjs/common';
import type { CalendarTodo } from '@corvun/formats';
import { In } from 'typeorm';
import { asRefusal } from '../../base/database-problem';
import { blankTask } from '../../decisions/blanks';
import { Event } from '../../events/event.entity';
import { insertRows } from '../../kernel/insert-rows';
import type { Work } from '../../kernel/work';
import { List } from '../../lists/list.entity';
import { keepTodo } from '../../own-text/keep-todo';
import { changeTask } from '../../tasks/change-task';
import { Task } from '../../tasks/task.entity';
import { OutboxEntry } from '../outbox.entity';
import { AccountInvited } from './account-invited';
import { GONE } from '../two-way.service';
import { AccountWay } from './account-way.service';
import { partsOfObject, stateOfEvent } from '../../events/event-state';
import { bringEvent, rowOf, withTexts, type Part } from './bring-event';
import type { Into, Read } from './into';
import { Remote, type Seen } from './remote.entity';
import { patchOfTodo, stateOfTodo } from '../../tasks/todo-state';

/** Done tasks older than that are not brought in. */
const DONE_SINCE = 92 * 86_400_000;
const OPEN = ['NEEDS-ACTION', 'IN-PROCESS'];

/** Brings what an account has to what is here. */
@Injectable()
export class AccountIn {
  private readonly logger = new Logger('accounts');

  constructor(
    private readonly way: AccountWay,
    private readonly invited: AccountInvited,
  ) {}

  /** Brings objects of a collection, as they are now. */
  async bring(work: Work, into: Into, objects: readonly Read[]): Promise<void> {
    try {
      await work.attempt(() => this.all(work, into, objects));
    } catch (problem) {
      if (asRefusal(problem)) throw problem;
      for (const one of objects) await this.alone(work, into, one);
    }
  }

  private all(work: Work, into: Into, objects: readonly Read[]): Promise<void> {
    return into.choice.id.startsWith('events:') ? this.events(work, into, objects) : this.tasks(work, into, objects);
  }

  /** Each by itself, so that one which cannot be kept keeps no other out. */
  private async alone(work: Work, into: Into, one: Read): Promise<void> {
    try {
      await work.attempt(() => this.all(work, into, [one]));
    } catch (problem) {
      if (asRefusal(problem)) throw problem;
      this.logger.warn(problem);
      into.left(one.href, one.events[0]?.title ?? one.todos[0]?.title ?? '', 'It cannot be kept as it is written there.');
    }
  }

  private known(work: Work, { source, choice }: Into, uids: readonly string[]): Promise<Remote[]> {
    return this.way.of(work, { sourceId: source.id, collection: choice.id, uid: In([...new Set(uids)]) });
  }

  private async events(work: Work, into: Into, objects: readonly Read[]): Promise<void> {
    const { user, source, choice } = into;
    const calendarId = choice.calendarId ?? '';
    const read = objects.flatMap((one) => {
      if (!one.events.length) return [];
      const { parts, refused } = partsOfObject(one.events, user);
      if (refused) into.left(one.href, one.events[0]?.title ?? '', refused);
      return parts[0] ? [{ seen: one, parts, uid: parts[0].uid }] : [];
    });
    const uids = read.map(({ uid }) => uid);
    const remotes = new Map((await this.known(work, into, uids)).map((row) => [row.uid, row]));
    const first = firstOfEach(read, remotes, into);
    const rows = new Map<string, Event[]>();
    for (const row of await work.manager.findBy(Event, { ownerId: user.id, calendarId, uid: In(uids) }))
      rows.set(row.uid, [...(rows.get(row.uid) ?? []), row]);
    const known = uids.filter((uid) => !remotes.has(uid) && !rows.has(uid));
    for (const row of await this.invited.elsewhere(work, calendarId, known))
      rows.set(row.uid, [...(rows.get(row.uid) ?? []), row]);
    const [fresh, links]: [Event[], Remote[]] = [[], []];
    for (const { seen, parts: read, uid } of first) {
      const parts = await withTexts(work, user, read);
      const { href, etag, text } = seen;
      const remote = remotes.get(uid);
      const own = rows.get(uid) ?? [];
      const there = stateOfEvent(parts, user);
      if (!remote) {
        const link = this.way.fresh(work, {
          sourceId: source.id,
          collection: choice.id,
          uid,
          calendarId,
          href,
          etag,
          text,
          base: there,
        });
        links.push(link);
        remotes.set(uid, link);
        if (!own.length) fresh.push(...parts.map((part) => work.fresh('event', rowOf(part, calendarId, user))));
        continue;
      }
      if (!own.length) {
        // It was taken away here. What was changed there meanwhile stands again, and is shown.
        const touched = !isSame(there, remote.base);
        await this.way.remember(work, remote, { href, etag, text, ...(touched ? { base: there, sending: {} } : {}) });
        if (!touched) continue;
        fresh.push(...parts.map((part) => work.fresh('event', rowOf(part, calendarId, user))));
        const gone = { field: GONE, base: 'there', here: 'deleted', there: 'changed' };
        await this.way.tellConflict(work, user, remote, [gone], parts[0]?.title);
        continue;
      }
      const { toHere, base, sending } = await this.way.merged(work, user, remote, stateOfEvent(own, user), there);
      if (Object.keys(toHere).length) await bringEvent(work, user, calendarId, own, parts, toHere);
      await this.keepTextIds(work, calendarId, uid, parts);
      const after = await this.way.remember(work, remote, { href, etag, text, base, sending });
      await this.way.sendWhatDiffers(work, source, after);
    }
    await work.insertAll('event', fresh);
    await insertRows(work.manager, Remote, links);
    for (const row of fresh) await this.invited.ask(work, into, row, read.find(({ uid }) => uid === row.uid)?.seen);
    // What stood here already, under the same UID, is what counts.
    for (const link of links) if (rows.has(link.uid)) await this.way.sendWhatDiffers(work, source, link);
  }

  /** What only its text says has changed, too. */
  private async keepTextIds(work: Work, calendarId: string, uid: string, parts: readonly Part[]): Promise<void> {
    for (const row of await this.way.eventParts(work, calendarId, uid)) {
      const part = parts.find(({ recurrenceId }) => recurrenceId === row.recurrenceId);
      if (part && row.mirror === null && row.textId !== part.textId) await work.update('event', row, { textId: part.textId });
    }
  }

  private async tasks(work: Work, into: Into, objects: readonly Read[]): Promise<void> {
    const { user, source, choice } = into;
    const found = objects.flatMap((seen) => {
      const [todo] = seen.todos;
      return todo?.uid ? [{ seen, todo, uid: todo.uid }] : [];
    });
    const list = choice.listId ? await work.manager.findOneBy(List, { ownerId: user.id, id: choice.listId }) : null;
    const uids = found.flatMap(({ todo }) => [todo.uid, todo.parent ?? '']);
    const remotes = new Map((await this.known(work, into, uids)).map((row) => [row.uid, row]));
    const last = await work.manager.findOne(Task, {
      where: { ownerId: user.id, listId: list?.id ?? '' },
      order: { position: 'DESC' },
    });
    let position = last?.position ?? 0;
    for (const { seen, todo } of parentsFirst(firstOfEach(found, remotes, into))) {
      const { href, etag, text } = seen;
      const remote = remotes.get(todo.uid);
      const there = stateOfTodo(todo);
      const parentId = (todo.parent && remotes.get(todo.parent)?.taskId) || null;
      if (!parentId) there['parent'] = null;
      if (!remote) {
        if (!OPEN.includes(todo.status) && (todo.completed ?? 0) < work.now - DONE_SINCE) continue;
        const task = await work.insert('task', {
          ...blankTask(),
          ...patchOfTodo(there, { completed: null, plannedWeek: null }, todo, work.now),
          ...{ listId: list?.id ?? null, parentId, concentration: list?.concentration ?? 'medium', position: (position += 1) },
          ...{ tags: todo.categories.map((tag) => tag.slice(0, 80)), reminder: todo.reminder },
        });
        const about = { sourceId: source.id, collection: choice.id, uid: todo.uid, taskId: task.id };
        await keepTodo(work, task, todo, list?.name ?? '');
        const link = this.way.fresh(work, { ...about, href, etag, text, base: there });
        await insertRows(work.manager, Remote, [link]);
        remotes.set(todo.uid, link);
        continue;
      }
      const task = remote.taskId ? await work.manager.findOneBy(Task, { ownerId: user.id, id: remote.taskId }) : null;
      const here = task && (await this.way.stateHere(work, remote))?.state;
      if (!task || !here) {
        await this.takenAway(work, into, remote, seen, todo, parentId);
        continue;
      }
      const { toHere, base, sending } = await this.way.merged(work, user, remote, here, there);
      const changed = Object.keys(toHere).length
        ? await changeTask(work, task, {
            ...patchOfTodo(toHere, task, todo, work.now),
            ...('parent' in toHere ? { parentId } : {}),
          })
        : task;
      await keepTodo(work, changed, todo, list?.name ?? '');
      const after = await this.way.remember(work, remote, { href, etag, text, base, sending });
      await this.way.sendWhatDiffers(work, source, after);
    }
  }

  /** It was taken away here, or is on another list now. What was changed there meanwhile stands again, and is shown. */
  private async takenAway(
    work: Work,
    { user, choice }: Into,
    remote: Remote,
    { href, etag, text }: Seen,
    todo: CalendarTodo,
    parentId: string | null,
  ): Promise<void> {
    const there = stateOfTodo(todo);
    if (isSame({ ...there, parent: null }, { ...remote.base, parent: null }) || !OPEN.includes(todo.status)) {
      await this.way.remember(work, remote, { href, etag, text });
      return;
    }
    const task = await work.insert('task', {
      ...blankTask(),
      ...patchOfTodo(there, { completed: null, plannedWeek: null }, todo, work.now),
      ...{ listId: choice.listId ?? null, parentId, position: work.now },
    });
    const after = await this.way.remember(work, remote, { href, etag, text, taskId: task.id, base: there, sending: {} });
    await this.way.tellConflict(work, user, after, [{ field: GONE, base: 'there', here: 'deleted', there: 'changed' }]);
  }

  /** What is gone there goes here, too, but for what was changed here since, and what is still to be done. */
  async lose(work: Work, { user, source }: Into, remotes: readonly Remote[]): Promise<void> {
    for (const remote of remotes) {
      const send = await this.way.toSend(work, remote);
      const task = remote.taskId ? await work.manager.findOneBy(Task, { ownerId: user.id, id: remote.taskId }) : null;
      const parts = remote.calendarId ? await this.way.eventParts(work, remote.calendarId, remote.uid) : [];
      const asked = task ? OPEN.includes(task.status) : parts.length > 0 && send !== null && send.fields !== null;
      if (!asked) {
        await work.removeAll('event', parts);
        await work.manager.delete(Remote, { id: remote.id });
        await work.manager.delete(OutboxEntry, { counterpartId: remote.id, kind: 'entry', state: 'waiting' });
        continue;
      }
      const gone = await this.way.remember(work, remote, { href: null, etag: null, text: null, base: {}, sending: {} });
      await this.way.tellConflict(work, user, gone, [
        { field: GONE, base: 'there', here: task ? 'open' : 'changed', there: 'deleted' },
      ]);
      work.tell('source', source.id);
    }
  }
}

const isSame = (a: Readonly<Record<string, unknown>>, b: Readonly<Record<string, unknown>>): boolean =>
  [...new Set([...Object.keys(a), ...Object.keys(b)])].every((name) => (a[name] ?? null) === (b[name] ?? null));

/** A UID is that of one entry (RFC 4791, 4.1): of several the one that is known here, else the first. */
function firstOfEach<T extends { seen: Seen; uid: string }>(
  all: readonly T[],
  known: ReadonlyMap<string, Remote>,
  into: Into,
): T[] {
  const first = new Map<string, T>();
  for (const one of all) {
    const present = first.get(one.uid);
    const isKnown = known.get(one.uid)?.href === one.seen.href;
    const other = present && isKnown ? present : one;
    if (!present || isKnown) first.set(one.uid, one);
    if (present)
      into.left(other.seen.href, '', `Another entry there has the same UID (${one.uid.slice(0, 80)}), and one of them is here.`);
  }
  return [...first.values()];
}

/** Steps after what they are steps of. */
function parentsFirst<T extends { todo: CalendarTodo }>(found: readonly T[]): T[] {
  const byUid = new Map(found.map((one) => [one.todo.uid, one]));
  const placed = new Set<string>();
  const out: T[] = [];
  const place = (one: T, above: ReadonlySet<string>) => {
    if (placed.has(one.todo.uid)) return;
    const parent = one.todo.parent && !above.has(one.todo.parent) ? byUid.get(one.todo.parent) : undefined;
    if (parent) place(parent, new Set([...above, one.todo.uid]));
    if (placed.has(one.todo.uid)) return;
    placed.add(one.todo.uid);
    out.push(one);
  };
  for (const one of found) place(one, new Set());
  return out;
}
