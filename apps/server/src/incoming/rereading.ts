import { Injectable, type OnApplicationBootstrap } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { READER_VERSION } from '@corvun/core';
import { IsNull, LessThan, Not, Repository } from 'typeorm';
import { User } from '../accounts/user.entity';
import { About } from '../base/about.entity';
import { Clock } from '../base/clock';
import { Writes } from '../base/writes';
import { Jobs } from '../due/jobs';
import { Kernel, bySystem } from '../kernel/kernel.service';
import { ReadingPool } from '../reading/reading-pool.service';
import { Incoming } from './incoming.entity';
import { textOf } from './reading';

const KIND = 'reread';
/** Messages of one transaction. */
const AT_ONCE = 40;

/** Reads anew what an older reader read, in the background, once for each new reader. */
@Injectable()
export class Rereading implements OnApplicationBootstrap {
  constructor(
    @InjectRepository(Incoming) private readonly incoming: Repository<Incoming>,
    @InjectRepository(User) private readonly users: Repository<User>,
    @InjectRepository(About) private readonly about: Repository<About>,
    private readonly reading: ReadingPool,
    private readonly kernel: Kernel,
    private readonly writes: Writes,
    private readonly clock: Clock,
    private readonly jobs: Jobs,
  ) {
    jobs.register(KIND, (_job, signal) => this.readAll(signal));
  }

  async onApplicationBootstrap(): Promise<void> {
    const known = Number((await this.about.findOneBy({ name: KIND }))?.value ?? 0);
    if (known < READER_VERSION) await this.jobs.ensure(KIND, KIND, this.clock.now());
  }

  private async readAll(signal: AbortSignal): Promise<null> {
    for (const user of await this.users.find()) while (await this.readSome(user)) signal.throwIfAborted();
    const value = String(READER_VERSION);
    await this.writes.write((manager) => manager.upsert(About, { name: KIND, value }, ['name']));
    return null;
  }

  private async readSome(user: User): Promise<boolean> {
    // What was never read, such as a card, is not read anew either.
    const stale = { ownerId: user.id, readerVersion: LessThan(READER_VERSION), kind: Not('card' as const), conflict: IsNull() };
    const rows = await this.incoming.find({ where: stale, take: AT_ONCE });
    const read = await Promise.all(rows.map((row) => this.reading.facts(...textOf(row, user))));
    if (!rows.length) return false;
    await this.kernel.transact(bySystem(user.id), async (work) => {
      for (const [at, row] of rows.entries()) await work.update('incoming', row, { ...read[at] });
    });
    return true;
  }
}
