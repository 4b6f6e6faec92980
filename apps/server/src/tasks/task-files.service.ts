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
import { TaskFile } from './task-file.entity';

/** Files of one task. */
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

/** Files that were put to tasks. */
@Injectable()
export class TaskFiles {
  constructor(
    @InjectRepository(TaskFile) private readonly files: Repository<TaskFile>,
    private readonly store: FileStore,
    private readonly kernel: Kernel,
  ) {}

  /** @throws Refusal 404 */
  async one(user: User, id: string): Promise<TaskFile> {
    const file = await this.files.findOneBy({ ownerId: user.id, id });
    if (!file) throw notFound('file with this id');
    return file;
  }

  /** @throws Refusal when the task has too many with them */
  async add(user: User, taskId: string, brought: readonly Brought[]): Promise<Done> {
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const task = await work.find('task', taskId);
      if (!brought.length) throw new Refusal('no-file', 'No file was sent.');
      const there = await work.manager.countBy(TaskFile, { ownerId: user.id, taskId });
      if (there + brought.length > MOST) throw new Refusal('too-much', `A task has at most ${MOST} files.`);
      for (const { name, type, size, path } of brought) {
        const words = fileWords(name, type, await beginningOf(path));
        await work.insert('taskFile', { taskId, name, type, size, hash: await this.store.keepFile(path), words });
      }
      const what = brought.length === 1 ? `“${brought[0]?.name}” is` : `${count(brought.length, 'file')} are`;
      work.say({ action: 'change', sentence: `${what} with “${task.title}”` });
    });
    return { decision, sentence };
  }

  async rename(user: User, id: string, name: string): Promise<Done> {
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const file = await work.find('taskFile', id);
      await work.update('taskFile', file, { name: name.trim() });
      work.say({ action: 'change', sentence: `“${file.name}” is called “${name.trim()}” now` });
    });
    return { decision, sentence };
  }

  /** Its bytes stay in the store: taking this back finds them there. */
  async remove(user: User, id: string): Promise<Done> {
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const file = await work.find('taskFile', id);
      await work.remove('taskFile', file);
      work.say({ action: 'remove', sentence: `“${file.name}” was taken away` });
    });
    return { decision, sentence };
  }
}
