import { openDatabase, rows } from './database';
import { databaseOf } from './layout';

/**
 * Looks at every table and index of a database that is in use, so that SQLite knows how large they are: one after the other,
 * each held as long as it takes to write some numbers.
 */
export function gatherStatistics(data: string): null {
  const database = openDatabase(databaseOf(data));
  try {
    const tables = rows<{ name: string }>(
      database,
      `SELECT "name" FROM sqlite_schema WHERE "type" = 'table' AND "name" NOT LIKE 'sqlite%' AND "sql" NOT LIKE 'CREATE VIRTUAL%'`,
    );
    for (const { name } of tables) database.exec(`ANALYZE "${name.replaceAll('"', '""')}"`);
    // Other connections read the numbers when they read the schema, and that when it changed.
    database.exec('BEGIN IMMEDIATE; CREATE TABLE "statistics_are_new" ("x"); DROP TABLE "statistics_are_new"; COMMIT');
  } finally {
    database.close();
  }
  return null;
}
