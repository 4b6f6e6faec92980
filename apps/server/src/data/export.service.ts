import { Inject, Injectable } from '@nestjs/common';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { once } from 'node:events';
import { Readable } from 'node:stream';
import { Worker } from 'node:worker_threads';
import type { User } from '../accounts/user.entity';
import { CONFIG, type Config } from '../base/config';
import type { ExportSaid, ExportTask } from './export.worker';

/** Hands out everything of one user while a thread writes it; see `ExportWriter`. */
@Injectable()
export class ExportService {
  constructor(@Inject(CONFIG) private readonly config: Config) {}

  /** A tar archive. Whoever stops reading stops the thread. */
  stream(user: User): Readable {
    return Readable.from(this.chunks(user.id));
  }

  private async *chunks(userId: string): AsyncGenerator<Buffer> {
    // Tests run the server from its sources; a thread can only load what is built.
    const built = join(__dirname, 'export.worker.js');
    const task: ExportTask = { data: this.config.data, userId };
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
    }
  }
}
