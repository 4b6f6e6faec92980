import { Inject, Injectable, type OnApplicationBootstrap } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { BackupInfo, DataJob } from '@corvun/contract';
import { isoInZone, saySize } from '@corvun/core';
import { BACKUPS, backupsIn, prune, removeBackup, type Listed } from '@corvun/keeping';
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { Repository } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { About } from '../base/about.entity';
import { Clock } from '../base/clock';
import { CONFIG, type Config } from '../base/config';
import { notFound } from '../base/errors';
import { Writes } from '../base/writes';
import { Jobs } from '../due/jobs';
import { DataJobs } from './jobs.service';

const KEEP = 'backup.keep';
const USUAL_KEEP = 7;
const DAY = 86_400_000;
const LOOK_EVERY = 10 * 60_000;
const DAILY = 'daily';

/** Backups: one a day by itself, and whenever the keeper of the server wants one. */
@Injectable()
export class Backups implements OnApplicationBootstrap {
  constructor(
    @Inject(CONFIG) private readonly config: Config,
    @InjectRepository(About) private readonly about: Repository<About>,
    private readonly writes: Writes,
    private readonly jobs: DataJobs,
    private readonly clock: Clock,
    private readonly due: Jobs,
  ) {
    due.register(DAILY, async () => {
      await this.daily();
      return this.clock.now() + LOOK_EVERY;
    });
  }

  onApplicationBootstrap(): Promise<void> {
    return this.due.ensure(DAILY, DAILY, this.clock.now() + LOOK_EVERY);
  }

  /** Makes the backup of the day when the last one is a day old, and takes away those that are too many. */
  async daily(): Promise<boolean> {
    const { data } = this.config;
    const last = (await backupsIn(data)).find((one) => one.name.startsWith(DAILY));
    if (last && Date.now() - Date.parse(last.at) < DAY) return false;
    await this.jobs.inThread({ kind: 'beside', data, name: `${DAILY}-${stamp()}` });
    await prune(data, DAILY, await this.keep());
    return true;
  }

  async keep(): Promise<number> {
    return Number((await this.about.findOneBy({ name: KEEP }))?.value ?? USUAL_KEEP);
  }

  async setKeep(keep: number): Promise<void> {
    await this.writes.write((manager) => manager.upsert(About, { name: KEEP, value: String(keep) }, ['name']));
    await prune(this.config.data, DAILY, keep);
  }

  /** Begins a backup into a file beside the data. */
  begin(user: User, withKeys: boolean): DataJob {
    const { data } = this.config;
    const name = `corvun-${stamp()}${withKeys ? '-with-keys' : ''}.tar`;
    mkdirSync(join(data, BACKUPS), { recursive: true, mode: 0o700 });
    return this.jobs.begin(user.id, 'backup', async (progress) => {
      const { bytes } = await this.jobs.inThread({ kind: 'backup', data, file: join(data, BACKUPS, name), withKeys }, progress);
      return { backup: name, sentence: `The backup is there: ${saySize(bytes)}.` };
    });
  }

  async all(zone: string): Promise<BackupInfo[]> {
    return (await backupsIn(this.config.data)).map((one) => ({ ...one, at: isoInZone(Date.parse(one.at), zone) }));
  }

  /** @throws Refusal when there is no such backup */
  async one(name: string): Promise<Listed & { path: string }> {
    const found = (await backupsIn(this.config.data)).find((each) => each.name === name);
    if (!found) throw notFound('backup of this name');
    return { ...found, path: join(this.config.data, BACKUPS, found.name) };
  }

  async remove(name: string): Promise<void> {
    await removeBackup(this.config.data, (await this.one(name)).name);
  }
}

const stamp = (): string => new Date().toISOString().slice(0, 19).replace(/[:]/g, '').replace('T', '-');
