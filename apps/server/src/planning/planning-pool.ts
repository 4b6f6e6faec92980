import { Injectable, type OnApplicationShutdown } from '@nestjs/common';
import type { Proposed, Stretch } from '@corvun/core';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { Piscina } from 'piscina';

const IDLE = 120_000;
const MEMORY_MB = 512;

/** Plans in a thread of its own, one after the other: nobody else waits while a plan is searched. */
@Injectable()
export class PlanningPool implements OnApplicationShutdown {
  private readonly pool: Piscina;

  constructor() {
    // Tests run the server from its sources; a thread can only load what is built.
    const built = join(__dirname, 'planning.worker.js');
    this.pool = new Piscina({
      filename: existsSync(built) ? built : join(__dirname, '../../dist/planning.worker.js'),
      minThreads: 0,
      maxThreads: 1,
      idleTimeout: IDLE,
      resourceLimits: { maxOldGenerationSizeMb: MEMORY_MB },
      workerHistogram: false,
    });
  }

  /** @param most how many tasks are looked at; else as many as a plan can hold */
  plan(stretch: Stretch, most?: number): Promise<Proposed> {
    return this.pool.run({ stretch, most }, { name: 'plan' }) as Promise<Proposed>;
  }

  async onApplicationShutdown(): Promise<void> {
    await this.pool.destroy();
  }
}
