import { Injectable } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import { CorvunDataSource } from '../base/data-source';
import { Writes } from '../base/writes';
import { Runner } from './runner';

const DAY = 86_400_000;
/** Rows written since the last time after which the sizes of tables may have become others, and how soon again. Milliseconds. */
const MANY = 5000;
const SOONEST = 20_000;
/** Rows of each index that are looked at: a table of a million takes no longer than one of a thousand. */
const LOOKED_AT = 1000;

/**
 * Lets SQLite know how large its tables are and how much each index tells apart (ANALYZE): at the start, once a day, and after
 * many rows were written. Without it every index counts as equally good, and of two the wrong one is taken.
 */
@Injectable()
export class Statistics {
  private last = { at: -Infinity, changes: 0 };

  constructor(
    @InjectDataSource() private readonly source: CorvunDataSource,
    private readonly writes: Writes,
    runner: Runner,
  ) {
    runner.register({
      name: 'statistics',
      atOnce: 1,
      due: async () => ((await this.isDue()) ? [{ key: 'statistics', run: () => this.gather() }] : []),
    });
  }

  /** Looks at all tables, each in a transaction of its own. */
  async gather(): Promise<void> {
    this.last = { at: performance.now(), changes: await this.changes() };
    for (const { tablePath } of this.source.entityMetadatas) {
      await this.writes.write(async (manager) => {
        await manager.query(`PRAGMA analysis_limit = ${LOOKED_AT}`);
        await manager.query(`ANALYZE "${tablePath}"`);
      });
    }
    this.last.changes = await this.changes();
  }

  private async isDue(): Promise<boolean> {
    const since = performance.now() - this.last.at;
    return since > DAY || (since > SOONEST && (await this.changes()) - this.last.changes > MANY);
  }

  /** Rows that were written since the start, those of the search index among them. */
  private async changes(): Promise<number> {
    const [row]: { changes: number }[] = await this.source.writing.query('SELECT total_changes() AS "changes"');
    return row?.changes ?? 0;
  }
}
