import Libsql from 'libsql';

/** What of the driver is used here. Rows come from `all`: reading one row leaves a statement open in this driver. */
export interface Database {
  exec(sql: string): unknown;
  prepare(sql: string): { all(...values: unknown[]): Record<string, unknown>[]; run(...values: unknown[]): unknown };
  close(): unknown;
}

/** Milliseconds a second connection waits for the one of the running server. */
const WAIT = 10_000;

/** A connection of its own to a database file. */
export function openDatabase(path: string): Database {
  const database = new Libsql(path) as unknown as Database;
  database.exec(`PRAGMA busy_timeout = ${WAIT}`);
  return database;
}

export const rows = <T>(database: Database, sql: string, ...values: unknown[]): T[] =>
  database.prepare(sql).all(...values) as T[];

export const firstValue = (database: Database, sql: string, ...values: unknown[]): unknown =>
  Object.entries(database.prepare(sql).all(...values)[0] ?? {}).find(([name]) => name !== '_metadata')?.[1];
