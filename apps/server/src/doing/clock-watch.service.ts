import { uptime } from 'node:os';
import { Injectable, Logger, type BeforeApplicationShutdown, type OnApplicationBootstrap } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { MINUTE, sayMinutes, setBy, type ClockReading } from '@corvun/core';
import { IsNull, Repository } from 'typeorm';
import { Clock } from '../base/clock';
import { Kernel, bySystem } from '../kernel/kernel.service';
import { HeadsDown } from './heads-down.entity';
import { headsDownOf, runningEntry } from './timer.service';
import { TimeEntry } from './time-entry.entity';

const EVERY = 1000;

const WHILE_AWAY = 'The clock stood before its beginning when Corvun started again; what ran until then is not known.';

/**
 * Notices when the clock of the machine is set while something runs, and lets it run on as long as it did: what had begun at
 * one time by the old clock began at another by the new one. Sleep of the machine is time that passes.
 */
@Injectable()
export class ClockWatch implements OnApplicationBootstrap, BeforeApplicationShutdown {
  private readonly logger = new Logger('clock');
  private last: ClockReading = reading();
  private timer: NodeJS.Timeout | undefined;

  constructor(
    @InjectRepository(TimeEntry) private readonly entries: Repository<TimeEntry>,
    @InjectRepository(HeadsDown) private readonly alone: Repository<HeadsDown>,
    private readonly kernel: Kernel,
    private readonly clock: Clock,
  ) {}

  async onApplicationBootstrap(): Promise<void> {
    const now = this.clock.now();
    for (const ownerId of await this.owners())
      await this.move(ownerId, (startAt) => (startAt > now ? now - startAt : 0), WHILE_AWAY);
    this.timer = setInterval(() => void this.look(reading()).catch((problem: unknown) => this.logger.error(problem)), EVERY);
    this.timer.unref();
  }

  beforeApplicationShutdown(): void {
    clearInterval(this.timer);
  }

  /** Looks whether the clock was set since the last time. */
  async look(present: ClockReading): Promise<void> {
    const by = setBy(this.last, present);
    this.last = present;
    if (by === 0) return;
    const how = `${by < 0 ? 'back' : 'forward'} by ${sayMinutes(Math.max(1, Math.round(Math.abs(by) / MINUTE)))}`;
    for (const ownerId of await this.owners())
      await this.move(ownerId, () => by, `The clock was set ${how} while this ran; it counts what really passed.`);
  }

  private async owners(): Promise<string[]> {
    const [entries, alone] = await Promise.all([this.entries.findBy({ endAt: IsNull() }), this.alone.find()]);
    return [...new Set([...entries, ...alone].map(({ ownerId }) => ownerId))];
  }

  private async move(ownerId: string, byOf: (startAt: number) => number, note: string): Promise<void> {
    await this.kernel.transact(bySystem(ownerId), async (work) => {
      const entry = await runningEntry(work);
      const row = await headsDownOf(work);
      const by = byOf(entry?.startAt ?? row?.fromAt ?? 0);
      if (by === 0) return;
      if (entry) await work.update('timeEntry', entry, { startAt: entry.startAt + by, note });
      if (!row) return;
      const untilAt = row.untilAt === null ? null : row.untilAt + by;
      await work.update('headsDown', row, { begun: row.begun + by, fromAt: row.fromAt + by, untilAt });
      // Seconds of the machine's time are the same; when that is by the clock is looked up anew.
      await work.manager.query(`UPDATE "job" SET "dueAt" = ? WHERE "kind" = 'heads-down' AND "ownerId" = ?`, [
        untilAt ?? work.now,
        ownerId,
      ]);
    });
  }
}

const reading = (): ClockReading => ({ wall: Date.now(), up: uptime() * 1000 });
