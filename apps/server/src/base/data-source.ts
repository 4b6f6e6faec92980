import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import Libsql from 'libsql';
import type { DataSourceOptions } from 'typeorm';
import { MIGRATIONS } from '../migrations';
import { ENTITIES } from './entities';

interface Driver {
  exec(sql: string): unknown;
}

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
    prepareDatabase: (database: Driver) => {
      database.exec(
        'PRAGMA journal_mode = WAL; PRAGMA synchronous = FULL; PRAGMA foreign_keys = ON; PRAGMA busy_timeout = 5000;',
      );
    },
  };
}
