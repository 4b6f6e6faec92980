import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { Repository } from 'typeorm';
import type { User } from '../../accounts/user.entity';
import { Refusal } from '../../base/errors';
import type { Incoming } from '../../incoming/incoming.entity';
import type { Work } from '../../kernel/work';
import type { ReadObject } from '../../reading/jobs';
import { ReadingPool } from '../../reading/reading-pool.service';
import { changeTask } from '../../tasks/change-task';
import { Task } from '../../tasks/task.entity';
import { Source } from '../source.entity';
import { GONE } from '../two-way.service';
import { AccountWay } from './account-way.service';
import { partsOfObject, stateOfEvent } from '../../events/event-state';
import { bringEvent, withTexts } from './bring-event';
import { Remote, WITH_TEXT } from './remote.entity';
import { patchOfTodo, stateOfTodo } from '../../tasks/todo-state';

/** An object as it was read, and of which state of it that is. */
interface ReadThere extends ReadObject {
  version: number;
}

/** Settles what was changed here and in an account, each to something else. */
@Injectable()
export class AccountSettling {
  constructor(
    @InjectRepository(Remote) private readonly remotes: Repository<Remote>,
    private readonly way: AccountWay,
    private readonly reading: ReadingPool,
  ) {}

  /** What stands there, read before anything is written: while a calendar is read, others write. */
  async read(user: User, remoteId: string): Promise<ReadThere | null> {
    const remote = await this.remotes.findOne({ where: { id: remoteId, ownerId: user.id }, select: WITH_TEXT });
    if (!remote?.text) return null;
    const [read] = await this.reading.objects([remote.text], user.zone);
    return read ? { ...read, version: remote.version } : null;
  }

  async settle(
    work: Work,
    user: User,
    incoming: Incoming,
    { remoteId, keep, there }: { remoteId: string; keep: 'here' | 'there'; there: ReadThere | null },
  ): Promise<void> {
    const remote = await work.manager.findOne(Remote, {
      where: { id: remoteId, ownerId: user.id },
      select: WITH_TEXT,
    });
    const source = remote && (await work.manager.findOneBy(Source, { id: remote.sourceId }));
    if (!remote || !source) throw new Refusal('no-conflict', 'There is nothing to settle here any more.');
    const fields = incoming.conflict?.fields.map(({ field }) => field) ?? [];
    await work.update('incoming', incoming, { state: 'decided', outcome: 'done', decided: work.now });
    const gone = incoming.conflict?.fields.find(({ field }) => field === GONE);
    if (gone) await this.settleGone(work, source, remote, gone.there === 'deleted', keep);
    else if (there?.version === remote.version) await this.settleFields(work, user, { source, remote, there }, fields, keep);
    else if (remote.text) throw new Refusal('changed-meanwhile', `It was changed in ${source.name} just now. Look at it again.`);
    const where = keep === 'here' ? 'here' : `in ${source.name}`;
    work.say({ action: 'decide', incomingIds: [incoming.id], sentence: `“${incoming.subject}”: what stands ${where} is kept` });
  }

  /** One side has it still, the other has it no more. */
  private async settleGone(
    work: Work,
    source: Source,
    remote: Remote,
    goneThere: boolean,
    keep: 'here' | 'there',
  ): Promise<void> {
    const stays = (keep === 'here') === goneThere;
    if (!stays) {
      const task = remote.taskId ? await work.manager.findOneBy(Task, { id: remote.taskId }) : null;
      const parts = remote.calendarId ? await this.way.eventParts(work, remote.calendarId, remote.uid) : [];
      await work.removeAll('event', parts);
      // A task that is dropped can still be found; its object goes.
      await work.manager.update(Remote, { id: remote.id }, { taskId: null });
      if (task) await changeTask(work, task, { status: 'CANCELLED' });
    }
    await this.way.sendWhatDiffers(work, source, { ...remote, ...(stays ? {} : { taskId: null }) });
  }

  /** What is there becomes the common state; keeping what is here is then a change that goes there. */
  private async settleFields(
    work: Work,
    user: User,
    { source, remote, there: read }: { source: Source; remote: Remote; there: ReadThere },
    fields: readonly string[],
    keep: 'here' | 'there',
  ): Promise<void> {
    const { parts } = partsOfObject(read.events, user);
    const [todo] = read.todos;
    const there = remote.calendarId ? stateOfEvent(parts, user) : todo ? stateOfTodo(todo) : {};
    const own = Object.fromEntries(fields.map((field) => [field, there[field] ?? null]));
    if (keep === 'there') {
      const task = remote.taskId ? await work.manager.findOneBy(Task, { id: remote.taskId }) : null;
      const rows = remote.calendarId ? await this.way.eventParts(work, remote.calendarId, remote.uid) : [];
      if (task && todo) await changeTask(work, task, patchOfTodo(own, task, todo, work.now));
      else if (remote.calendarId) await bringEvent(work, user, remote.calendarId, rows, await withTexts(work, user, parts), own);
    }
    const after = await this.way.remember(work, remote, { base: { ...remote.base, ...own } });
    await this.way.sendWhatDiffers(work, source, after);
  }
}
