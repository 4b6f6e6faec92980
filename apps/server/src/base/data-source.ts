import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import Libsql from 'libsql';
import { DataSource, type DataSourceOptions, type QueryRunner, type ReplicationMode } from 'typeorm';
import { Breath } from './breath';
import { keepSearchIndex } from '../find/search-index';
import { MIGRATIONS } from '../migrations';
import { ENTITIES } from './entities';

interface Connection {
  exec(sql: string): unknown;
}

/** Milliseconds the driver itself waits for a lock, with everything standing still; `Writes` waits longer without that. */
const STAND_STILL = 50;

const options = (data: string, statements: string[]): DataSourceOptions => ({
  type: 'better-sqlite3',
  driver: Libsql,
  database: join(data, 'corvun.sqlite'),
  entities: ENTITIES,
  synchronize: false,
  prepareDatabase: (database: Connection) => void database.exec(statements.join('; ')),
});

/** The database in a data folder, to write: a log written ahead, and every commit on disk before it is acknowledged. */
export function writingOptions(data: string): DataSourceOptions {
  mkdirSync(data, { recursive: true, mode: 0o700 });
  const pragmas = [`busy_timeout = ${STAND_STILL}`, 'journal_mode = WAL', 'synchronous = FULL', 'foreign_keys = ON'];
  return {
    ...options(
      data,
      pragmas.map((one) => `PRAGMA ${one}`),
    ),
    migrations: MIGRATIONS,
    migrationsRun: true,
  };
}

/** The database to read: what is on disk already, and nothing of a transaction that is still open. It cannot write. */
export const readingOptions = (data: string): DataSourceOptions =>
  options(data, [`PRAGMA busy_timeout = ${STAND_STILL}`, 'PRAGMA query_only = ON']);

/** The database with two connections: this one reads, and `writing` writes, for `Writes` alone. */
export class CorvunDataSource extends DataSource {
  readonly writing: DataSource;
  private readonly breath = new Breath();
  private readonly breathing = new WeakSet<QueryRunner>();

  constructor(data: string) {
    super(readingOptions(data));
    this.writing = new DataSource(writingOptions(data));
  }

  override async initialize(): Promise<this> {
    await this.writing.initialize();
    await keepSearchIndex(this.writing);
    return super.initialize();
  }

  /** The driver answers at once, so an answer made of many questions would hold everybody up: others have their turn in between. */
  override createQueryRunner(mode?: ReplicationMode): QueryRunner {
    const runner = super.createQueryRunner(mode);
    if (this.breathing.has(runner)) return runner;
    this.breathing.add(runner);
    const query = runner.query.bind(runner) as (...question: unknown[]) => Promise<unknown>;
    runner.query = (async (...question: unknown[]) => {
      const answer = await query(...question);
      await this.breath.take();
      return answer;
    }) as QueryRunner['query'];
    return runner;
  }

  /** Writes everything into the database file itself, so that a copy of that one file is whole. */
  override async destroy(): Promise<void> {
    await super.destroy();
    const { databaseConnection } = this.writing.driver as unknown as { databaseConnection: Connection };
    try {
      databaseConnection.exec('PRAGMA wal_checkpoint(TRUNCATE)');
    } catch {
      // Another program reads it; the log beside it stays whole.
    }
    await this.writing.destroy();
  }
}
