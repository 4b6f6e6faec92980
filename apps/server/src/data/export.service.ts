import { Inject, Injectable } from '@nestjs/common';
import { existsSync, mkdirSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { once } from 'node:events';
import { Readable } from 'node:stream';
import { Worker } from 'node:worker_threads';
import type { User } from '../accounts/user.entity';
import { CONFIG, type Config } from '../base/config';
import { Refusal } from '../base/errors';
import { Uploads } from '../base/uploads';
import type { ExportSaid, ExportTask } from './export.worker';

/** Each has a thread and a copy of the database. */
const MOST_AT_ONCE = 2;

/** Hands out everything of one user while a thread writes it; see `ExportWriter`. */
@Injectable()
export class ExportService {
  private going = 0;

  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly uploads: Uploads,
  ) {}

  /** A tar archive. Whoever stops reading stops the thread. @throws Refusal where others are being written already */
  stream(user: User): Readable {
    if (this.going >= MOST_AT_ONCE)
      throw new Refusal('busy', 'Something else is still being written out. Wait until it is done.');
    this.going += 1;
    return Readable.from(this.chunks(user.id)).once('close', () => (this.going -= 1));
  }

  private async *chunks(userId: string): AsyncGenerator<Buffer> {
    const folder = this.uploads.fresh('export');
    mkdirSync(folder, { mode: 0o700 });
    // Tests run the server from its sources; a thread can only load what is built.
    const built = join(__dirname, 'export.worker.js');
    const task: ExportTask = { data: this.config.data, userId, folder };
    const thread = new Worker(existsSync(built) ? built : join(__dirname, '../../dist/export.worker.js'), { workerData: task });
    const ended = once(thread, 'exit').then(() => {
      throw new Error('The export was cut off.');
    });
    ended.catch(() => undefined);
    try {
      for (;;) {
        const said = once(thread, 'message') as Promise<[ExportSaid]>;
        thread.postMessage('next');
        const [chunk] = await Promise.race([said, ended]);
        if (chunk === null) return;
        yield Buffer.from(chunk.buffer, chunk.byteOffset, chunk.byteLength);
      }
    } finally {
      await thread.terminate();
      await rm(folder, { recursive: true, force: true });
    }
  }
}
