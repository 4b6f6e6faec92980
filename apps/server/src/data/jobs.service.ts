import { Injectable, Logger, type BeforeApplicationShutdown } from '@nestjs/common';
import type { DataJob } from '@corvun/contract';
import { KeepingError, type Made, type Verified } from '@corvun/keeping';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import { Refusal } from '../base/errors';
import { newId } from '../base/ids';
import { StreamService } from '../stream/stream.service';
import type { KeepingSaid, KeepingTask } from './keeping.worker';

interface Results {
  backup: Made;
  beside: Made;
  verify: Verified;
  statistics: null;
}

const TELL_EVERY = 250;

/** Does the long things of the page Data, one at a time, beside everything else, and says how far they are. */
@Injectable()
export class DataJobs implements BeforeApplicationShutdown {
  private readonly logger = new Logger('data');
  private readonly latest = new Map<string, DataJob>();
  private running: { ownerId: string; finished: Promise<void> } | null = null;

  constructor(private readonly stream: StreamService) {}

  async beforeApplicationShutdown(): Promise<void> {
    await this.running?.finished;
  }

  of(ownerId: string): DataJob | null {
    return this.latest.get(ownerId) ?? null;
  }

  /**
   * Begins one.
   * @param work says how far it is, and at the end what came of it
   * @throws Refusal when another one is still going on
   */
  begin(
    ownerId: string,
    kind: DataJob['kind'],
    work: (progress: (done: number, total: number | null) => void) => Promise<Pick<DataJob, 'sentence'> & Partial<DataJob>>,
  ): DataJob {
    if (this.running) throw new Refusal('busy', 'Something else is still going on here. Wait until it is done.');
    const job: DataJob = {
      id: newId(),
      kind,
      state: 'running',
      done: 0,
      total: null,
      sentence: '',
      backup: null,
      checks: null,
      rows: null,
    };
    this.latest.set(ownerId, job);
    let told = 0;
    const progress = (done: number, total: number | null) => {
      Object.assign(job, { done, total });
      if (Date.now() - told < TELL_EVERY) return;
      told = Date.now();
      this.tell(ownerId);
    };
    const finished = work(progress)
      .then(
        (result) => void Object.assign(job, { state: 'done', ...result }),
        (problem: unknown) => {
          const known = problem instanceof KeepingError || problem instanceof Refusal;
          if (!known) this.logger.error(problem);
          Object.assign(job, {
            state: 'failed',
            sentence: known ? problem.message : 'It could not be done. Nothing was changed.',
          });
        },
      )
      .then(() => {
        this.running = null;
        this.tell(ownerId);
      });
    this.running = { ownerId, finished };
    return { ...job };
  }

  /** Runs a task on the data folder in a thread of its own. @throws KeepingError */
  inThread<K extends KeepingTask['kind']>(
    task: KeepingTask & { kind: K },
    progress: (done: number, total: number | null) => void = () => undefined,
  ): Promise<Results[K]> {
    const built = join(__dirname, 'keeping.worker.js');
    const thread = new Worker(existsSync(built) ? built : join(__dirname, '../../dist/keeping.worker.js'), {
      workerData: task,
    });
    return new Promise((resolve, reject) => {
      thread.on('message', (said: KeepingSaid) => {
        if ('progress' in said) progress(...said.progress);
        else if ('done' in said) resolve(said.done as Results[K]);
        else reject(new KeepingError('unusable', said.failed));
      });
      thread.on('error', reject);
      thread.on('exit', (code) => reject(new Error(`the thread ended with ${code}`)));
    });
  }

  private tell(ownerId: string): void {
    this.stream.tell(ownerId, { revision: null, changes: [{ kind: 'data', ids: [] }] });
  }
}
