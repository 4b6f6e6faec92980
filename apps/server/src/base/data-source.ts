import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import Libsql from 'libsql';
import { DataSource, type DataSourceOptions } from 'typeorm';
import { MIGRATIONS } from '../migrations';
import { ENTITIES } from './entities';

interface Connection {
  exec(sql: string): unknown;
}

/** Milliseconds the driver itself waits for a lock, with everything standing still; `Writes` waits longer without that. */
const STAND_STILL = 50;

/** The database in a data folder: write-ahead log, and every commit on disk before it is acknowledged. */
export function dataSourceOptions(data: string): DataSourceOptions {
  mkdirSync(data, { recursive: true, mode: 0o700 });
  return {
    type: 'better-sqlite3',
    driver: Libsql,
    database: join(data, 'corvun.sqlite'),
    entities: ENTITIES,
    migrations: MIGRATIONS,
    migrationsRun: true,
    synchronize: false,
    prepareDatabase: (database: Connection) => {
      database.exec(
        `PRAGMA busy_timeout = ${STAND_STILL}; PRAGMA journal_mode = WAL; PRAGMA synchronous = FULL; PRAGMA foreign_keys = ON;`,
      );
    },
  };
}

/** Writes everything into the database file itself when it is closed, so that a copy of that one file is whole. */
export class CorvunDataSource extends DataSource {
  override async destroy(): Promise<void> {
    const { databaseConnection } = this.driver as unknown as { databaseConnection: Connection };
    try {
      databaseConnection.exec('PRAGMA wal_checkpoint(TRUNCATE)');
    } catch {
      // Another program reads it; the log beside it stays whole.
    }
    await super.destroy();
  }
}
