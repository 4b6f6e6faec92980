import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { In, LessThanOrEqual, Repository, type EntityManager } from 'typeorm';
import { Clock } from '../base/clock';
import { Writes } from '../base/writes';
import { Job } from './job.entity';
import { Runner, pauseAfter } from './runner';

/** Does a job. Gives when it is due again, in milliseconds since 1970, or null when it is done for good. */
export type JobWork = (job: Job, signal: AbortSignal) => Promise<number | null>;

/** Jobs that have no table of their own. */
@Injectable()
export class Jobs {
  private readonly works = new Map<string, JobWork>();

  constructor(
    @InjectRepository(Job) private readonly jobs: Repository<Job>,
    private readonly writes: Writes,
    private readonly clock: Clock,
    runner: Runner,
  ) {
    runner.register({ name: 'jobs', atOnce: 1, due: (now, most) => this.due(now, most) });
  }

  /** Says how jobs of a kind are done. */
  register(kind: string, work: JobWork): void {
    this.works.set(kind, work);
  }

  /** Puts a job there, as part of a transaction; one of the same key is due earlier where this one is. */
  async put(manager: EntityManager, key: string, kind: string, dueAt: number, ownerId: string | null = null): Promise<void> {
    const known = await manager.findOneBy(Job, { key });
    if (!known) await manager.insert(Job, { key, kind, ownerId, dueAt, tries: 0, problem: '' });
    else if (known.dueAt > dueAt) await manager.update(Job, { key }, { dueAt });
  }

  /** Puts a job there in a transaction of its own. */
  ensure(key: string, kind: string, dueAt: number, ownerId: string | null = null): Promise<void> {
    return this.writes.write((manager) => this.put(manager, key, kind, dueAt, ownerId));
  }

  private async due(now: number, most: number) {
    const rows = await this.jobs.find({
      where: { dueAt: LessThanOrEqual(now), kind: In([...this.works.keys()]) },
      order: { dueAt: 'ASC' },
      take: most,
    });
    return rows.map((job) => ({ key: `job:${job.key}`, run: (signal: AbortSignal) => this.run(job, signal) }));
  }

  private async run(job: Job, signal: AbortSignal): Promise<void> {
    const { key, kind } = job;
    try {
      const next = (await this.works.get(kind)?.(job, signal)) ?? null;
      await this.writes.write((manager) =>
        next === null ? manager.delete(Job, { key }) : manager.update(Job, { key }, { dueAt: next, tries: 0, problem: '' }),
      );
    } catch (problem) {
      // What the end of the server stopped is due at once at the next start.
      if (signal.aborted) return;
      const tries = job.tries + 1;
      const sentence = problem instanceof Error ? problem.message.slice(0, 500) : 'It failed.';
      await this.writes.write((manager) =>
        manager.update(Job, { key }, { dueAt: this.clock.now() + pauseAfter(tries), tries, problem: sentence }),
      );
    }
  }
}
