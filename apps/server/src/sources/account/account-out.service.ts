import { Injectable } from '@nestjs/common';
import type { Fields } from '@corvun/core';
import { writeCalendar } from '@corvun/formats';
import type { User } from '../../accounts/user.entity';
import { DATE, groupsBetween } from '../../events/event-state';
import { written } from '../../events/written';
import { Kernel, bySource } from '../../kernel/kernel.service';
import type { Work } from '../../kernel/work';
import { Task } from '../../tasks/task.entity';
import { ReadingPool } from '../../reading/reading-pool.service';
import type { Reach } from '../adapter';
import type { OutboxEntry } from '../outbox.entity';
import { SourceProblem } from '../problem';
import { AccountIn } from './account-in.service';
import type { Into, Read } from './into';
import { AccountWay } from './account-way.service';
import type { DavClient } from './dav-client';
import { DavProblem } from './dav-exchange';
import { Remote, WITH_TEXT, type Seen } from './remote.entity';
import { writtenTodo } from '../../tasks/todo-state';

const MOST_ROUNDS = 4;

/** What is to be done there next. */
type Next = { remote: Remote } & ({ do: 'remove' } | Put);

interface Put {
  do: 'put';
  href: string;
  wanted: string;
  fields: string[];
  dates: Record<string, string[]>;
}

/** Sends what changed here to the account, each time upon what is there. */
@Injectable()
export class AccountOut {
  constructor(
    private readonly kernel: Kernel,
    private readonly way: AccountWay,
    private readonly arriving: AccountIn,
    private readonly reading: ReadingPool,
  ) {}

  /** @throws SourceProblem */
  async send({ source, user }: Reach, entry: OutboxEntry, client: DavClient): Promise<void> {
    const by = bySource(user.id, source.id);
    for (let round = 0; round < MOST_ROUNDS; round += 1) {
      const { result: next } = await this.kernel.transact(by, (work) => this.next(work, user, entry.counterpartId ?? ''));
      if (!next) return;
      const { remote } = next;
      const choice = source.settings.collections?.find(({ id }) => id === remote.collection);
      if (!choice)
        throw new SourceProblem('The calendar of this entry is no longer chosen in the settings of the source.', 'refused');
      const into: Into = { user, source, choice, left: () => undefined };
      try {
        if (next.do === 'remove') {
          await client.remove(remote.href ?? '', remote.etag);
          await this.kernel.transact(by, (work) => work.manager.delete(Remote, { id: remote.id }));
          return;
        }
        const text = await this.onto(remote, next, user);
        const seen = await client.put(next.href, text, remote.href ? remote.etag : null);
        await this.arrived(by, into, remote, seen, text);
      } catch (problem) {
        if (!(problem instanceof DavProblem) || ![404, 409, 410, 412].includes(problem.status)) throw problem;
        await this.meanwhile(by, into, client, remote, next.do === 'put' ? next.href : (remote.href ?? ''));
      }
    }
    throw new SourceProblem('It is changed there again and again while it is written.', 'wait');
  }

  private async next(work: Work, user: User, id: string): Promise<Next | null> {
    const remote = await work.manager.findOne(Remote, { where: { id, ownerId: user.id }, select: WITH_TEXT });
    if (!remote) return null;
    const send = await this.way.toSend(work, remote);
    if (!send) return null;
    if (send.fields === null) {
      if (remote.href) return { do: 'remove', remote };
      await work.manager.delete(Remote, { id });
      return null;
    }
    const wanted = await this.textOf(work, user, remote);
    await this.way.remember(work, remote, { sending: send.fields });
    const folder = remote.collection.slice(remote.collection.indexOf(':') + 1);
    const href = remote.href ?? `${folder}${nameFor(remote.uid)}.ics`;
    return { do: 'put', remote, href, wanted, fields: Object.keys(send.fields), dates: datesIn(remote.base, send.fields) };
  }

  /** What is there, with the fields that changed here. */
  private onto({ text, calendarId }: Remote, { wanted, fields, dates }: Put, { zone }: User): Promise<string> {
    const component = calendarId ? 'vevent' : 'vtodo';
    if (!text) return Promise.resolve(wanted);
    return this.reading.changed({ present: text, wanted, change: { component, fields, dates, reader: zone } });
  }

  /** The thing as it would be written anew. */
  private async textOf(work: Work, user: User, remote: Remote): Promise<string> {
    if (remote.calendarId)
      return writeCalendar('', written(await this.way.eventParts(work, remote.calendarId, remote.uid)), [], user.email);
    const task = await work.manager.findOneByOrFail(Task, { id: remote.taskId ?? '' });
    const parent = await this.way.parentOf(work, remote.sourceId, task);
    return writeCalendar('', [], [writtenTodo(task, user, remote.uid, parent)], user.email);
  }

  /** It is there as it was sent, or as the server has kept it. */
  private async arrived(by: ReturnType<typeof bySource>, into: Into, { id }: Remote, seen: Seen, sent: string): Promise<void> {
    const kept = seen.text === sent ? null : await this.read(seen, into.user);
    await this.kernel.transact(by, async (work) => {
      const remote = await work.manager.findOneBy(Remote, { id });
      if (!remote) return;
      const { href, etag, text } = seen;
      const base = Object.fromEntries(
        Object.entries({ ...remote.base, ...remote.sending }).filter(([, value]) => value !== null),
      );
      await this.way.remember(work, remote, { href, etag, text, base, sending: {} });
      if (kept) await this.arriving.bring(work, into, [kept]);
    });
  }

  /** It is not there as it was known: what is there is brought here first. */
  private async meanwhile(
    by: ReturnType<typeof bySource>,
    into: Into,
    client: DavClient,
    { id }: Remote,
    href: string,
  ): Promise<void> {
    const seen = await client.loadOne(href);
    const read = seen && (await this.read(seen, into.user));
    await this.kernel.transact(by, async (work) => {
      const remote = await work.manager.findOneBy(Remote, { id });
      if (!remote) return;
      if (read) return this.arriving.bring(work, into, [read]);
      if (remote.href) await this.arriving.lose(work, into, [remote]);
    });
  }

  async read(seen: Seen, user: User): Promise<Read> {
    const [read] = await this.reading.objects([seen.text], user.zone);
    return { ...seen, events: read?.events ?? [], todos: read?.todos ?? [] };
  }
}

/** Which fields of each changed date are not as they were there. */
const datesIn = (base: Fields, fields: Fields): Record<string, string[]> =>
  Object.fromEntries(
    Object.entries(fields).flatMap(([name, value]) => {
      const groups = name.startsWith(DATE) ? groupsBetween(base[name], value) : null;
      return groups ? [[name.slice(DATE.length), groups]] : [];
    }),
  );

/** A UID as the last part of an address. */
const nameFor = (uid: string): string => encodeURIComponent(uid.slice(0, 200)).replace(/%/g, '-');
