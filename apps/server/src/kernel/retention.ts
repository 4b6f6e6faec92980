import { Injectable, type OnApplicationBootstrap } from '@nestjs/common';
import { Clock } from '../base/clock';
import { Writes } from '../base/writes';
import { Jobs } from '../due/jobs';
import { sweepTexts } from '../own-text/unused-texts';
import { Entry } from './entry.entity';

const DAY = 86_400_000;
/** Days for which a doing can be taken back. After them it is still known what was done, without how it was before. */
export const TAKEN_BACK_FOR = 90;
/** Days for which is kept what nobody was told of: windows that were away learn from it what changed. */
export const TOLD_FOR = 30;
const EVERY = DAY;
const KIND = 'retention';

/** Keeps the log from growing for ever. */
@Injectable()
export class Retention implements OnApplicationBootstrap {
  constructor(
    private readonly jobs: Jobs,
    private readonly writes: Writes,
    private readonly clock: Clock,
  ) {
    jobs.register(KIND, async () => {
      await this.shorten(this.clock.now());
      return this.clock.now() + EVERY;
    });
  }

  onApplicationBootstrap(): Promise<void> {
    return this.jobs.ensure(KIND, KIND, this.clock.now() + EVERY);
  }

  /** Takes out of the log what is older than it is kept, and what only that still needed. @param now milliseconds since 1970 */
  async shorten(now: number): Promise<void> {
    await this.writes.write(async (manager) => {
      await manager.query(`DELETE FROM "entry" WHERE "sentence" = '' AND "at" < ?`, [now - TOLD_FOR * DAY]);
      await manager
        .createQueryBuilder()
        .update(Entry)
        .set({ state: 'final', changes: [] })
        .where(`at < :before AND sentence <> '' AND changes <> '[]'`, { before: now - TAKEN_BACK_FOR * DAY })
        .execute();
    });
    await sweepTexts((work) => this.writes.write(work), now, now - TAKEN_BACK_FOR * DAY);
  }
}
