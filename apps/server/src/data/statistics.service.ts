import { Inject, Injectable } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import { CONFIG, type Config } from '../base/config';
import { CorvunDataSource } from '../base/data-source';
import { Runner } from '../due/runner';
import { DataJobs } from './jobs.service';

const DAY = 86_400_000;
/** Rows written since the last time after which tables may have become of another size, and how soon again. Milliseconds. */
const MANY = 5000;
const SOONEST = 20_000;
/** Bytes of a database in which every way is short. */
const SMALL = 8 * 1024 * 1024;
const CHANGES = 'SELECT total_changes() AS "number"';
const SIZE = 'SELECT page_count * page_size AS "number" FROM pragma_page_count(), pragma_page_size()';

/**
 * Lets SQLite know how large its tables are and how much each index tells apart (ANALYZE): at the start, once a day, and after
 * many rows were written. Without it every index counts as equally good, and of two the wrong one is taken.
 */
@Injectable()
export class Statistics {
  private last = { at: -Infinity, changes: 0 };

  constructor(
    @Inject(CONFIG) private readonly config: Config,
    @InjectDataSource() private readonly source: CorvunDataSource,
    private readonly jobs: DataJobs,
    runner: Runner,
  ) {
    const due = async () => ((await this.isDue()) ? [{ key: 'statistics', run: () => this.gather() }] : []);
    runner.register({ name: 'statistics', atOnce: 1, due });
  }

  /** Looks at all tables, in a thread. */
  async gather(): Promise<void> {
    this.last = { at: performance.now(), changes: await this.number(CHANGES) };
    await this.jobs.inThread({ kind: 'statistics', data: this.config.data });
  }

  private async isDue(): Promise<boolean> {
    const since = performance.now() - this.last.at;
    if (since < SOONEST) return false;
    if (since < DAY && (await this.number(CHANGES)) - this.last.changes < MANY) return false;
    if ((await this.number(SIZE)) > SMALL) return true;
    // A small database is asked again when it may have grown.
    this.last = { at: performance.now(), changes: await this.number(CHANGES) };
    return false;
  }

  private async number(sql: string): Promise<number> {
    const [row]: { number: number }[] = await this.source.writing.query(sql);
    return row?.number ?? 0;
  }
}
