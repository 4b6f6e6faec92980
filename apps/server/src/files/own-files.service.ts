import { open } from 'node:fs/promises';
import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { Done } from '@corvun/contract';
import { count } from '@corvun/core';
import { fileWords } from '@corvun/formats';
import { Repository } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { Refusal, notFound } from '../base/errors';
import { FileStore } from '../base/file-store';
import { Kernel, byUser } from '../kernel/kernel.service';
import type { Work } from '../kernel/work';
import type { Event } from '../events/event.entity';
import type { Task } from '../tasks/task.entity';
import { EventFile } from '../events/event-file.entity';
import { TaskFile } from '../tasks/task-file.entity';

/** Files of one task or event. */
const MOST = 200;

/** A file as it came in: its name, its media type, its bytes, and where it lies. */
export interface Brought {
  name: string;
  type: string;
  size: number;
  path: string;
}

/** Of a longer file the words are found that stand in its beginning, in bytes. */
const READ = 80_000;

async function beginningOf(path: string): Promise<Buffer> {
  const file = await open(path, 'r');
  try {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(READ), 0, READ, 0);
    return buffer.subarray(0, bytesRead);
  } finally {
    await file.close();
  }
}

/** Files that were put to tasks and events. */
@Injectable()
export class OwnFiles {
  constructor(
    @InjectRepository(TaskFile) private readonly ofTasks: Repository<TaskFile>,
    @InjectRepository(EventFile) private readonly ofEvents: Repository<EventFile>,
    private readonly store: FileStore,
    private readonly kernel: Kernel,
  ) {}

  /** @throws Refusal 404 */
  async one(user: User, id: string): Promise<TaskFile | EventFile> {
    const one = { ownerId: user.id, id };
    const file = (await this.ofTasks.findOneBy(one)) ?? (await this.ofEvents.findOneBy(one));
    if (!file) throw notFound('file with this id');
    return file;
  }

  /** @throws Refusal when the task or event has too many with them */
  async add(user: User, to: 'task' | 'event', id: string, brought: readonly Brought[]): Promise<Done> {
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const thing = await work.find(to, id);
      if (!brought.length) throw new Refusal('no-file', 'No file was sent.');
      const there =
        to === 'task'
          ? await work.manager.countBy(TaskFile, { ownerId: user.id, taskId: id })
          : await work.manager.countBy(EventFile, { ownerId: user.id, eventUid: uidOf(thing) });
      if (there + brought.length > MOST)
        throw new Refusal('too-much', `${to === 'task' ? 'A task' : 'An event'} has at most ${MOST} files.`);
      for (const { name, type, size, path } of brought) {
        const words = fileWords(name, type, await beginningOf(path));
        const file = { name, type, size, hash: await this.store.keepFile(path), words };
        if (to === 'task') await work.insert('taskFile', { taskId: id, ...file });
        else await work.insert('eventFile', { eventUid: uidOf(thing), ...file });
      }
      const what = brought.length === 1 ? `“${brought[0]?.name}” is` : `${count(brought.length, 'file')} are`;
      work.say({ action: 'change', sentence: `${what} with “${thing.title}”` });
    });
    return { decision, sentence };
  }

  async rename(user: User, id: string, name: string): Promise<Done> {
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const kind = await this.kindOf(work, id);
      const file = await work.find(kind, id);
      await work.update(kind, file, { name: name.trim() });
      work.say({ action: 'change', sentence: `“${file.name}” is called “${name.trim()}” now` });
    });
    return { decision, sentence };
  }

  /** Its bytes stay in the store: taking this back finds them there. */
  async remove(user: User, id: string): Promise<Done> {
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const kind = await this.kindOf(work, id);
      const file = await work.find(kind, id);
      await work.remove(kind, file);
      work.say({ action: 'remove', sentence: `“${file.name}” was taken away` });
    });
    return { decision, sentence };
  }

  private async kindOf(work: Work, id: string): Promise<'taskFile' | 'eventFile'> {
    return (await work.manager.existsBy(EventFile, { ownerId: work.ownerId, id })) ? 'eventFile' : 'taskFile';
  }
}

const uidOf = (thing: Task | Event): string => ('uid' in thing ? thing.uid : '');
