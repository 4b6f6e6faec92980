import type { DataSource } from 'typeorm';
import type { Searchable } from '../kernel/kind';
import { OWNED } from '../kernel/kinds';

const doc = (row: string) => `(SELECT "doc" FROM "search_doc" WHERE "id" = ${row}."id")`;

/** The triggers that keep a kind in the search index, in the transaction of each change, by their names. */
function triggersOf(table: string, { at, watched, columns }: Searchable): Map<string, string> {
  const [title, people, body] = columns('new');
  const changed = columns('new').map((column, index) => `${column} IS NOT ${columns('old')[index]}`);
  const watches = watched.map((column) => `"${column}"`).join(', ');
  const all = {
    insert: `CREATE TRIGGER "search_${table}_insert" AFTER INSERT ON "${table}" BEGIN
      INSERT INTO "search_doc" ("id", "ownerId", "thing", "at") VALUES (new."id", new."ownerId", '${table}', ${at('new')});
      INSERT INTO "search_fts" (rowid, "title", "people", "body") VALUES (${doc('new')}, ${columns('new').join(', ')});
    END`,
    update: `CREATE TRIGGER "search_${table}_update" AFTER UPDATE OF ${watches} ON "${table}"
      WHEN ${changed.join(' OR ')} BEGIN
      UPDATE "search_fts" SET "title" = ${title}, "people" = ${people}, "body" = ${body}
      WHERE rowid = ${doc('new')};
    END`,
    delete: `CREATE TRIGGER "search_${table}_delete" AFTER DELETE ON "${table}" BEGIN
      DELETE FROM "search_fts" WHERE rowid = ${doc('old')};
      DELETE FROM "search_doc" WHERE "id" = old."id";
    END`,
  };
  return new Map(Object.entries(all).map(([when, sql]) => [`search_${table}_${when}`, sql]));
}

/** Puts a kind into the index anew. */
const filling = (table: string, { at, columns }: Searchable): string[] => [
  `DELETE FROM "search_fts" WHERE rowid IN (SELECT "doc" FROM "search_doc" WHERE "thing" = '${table}')`,
  `DELETE FROM "search_doc" WHERE "thing" = '${table}'`,
  `INSERT INTO "search_doc" ("id", "ownerId", "thing", "at") SELECT t."id", t."ownerId", '${table}', ${at('t')} FROM "${table}" t`,
  `INSERT INTO "search_fts" (rowid, "title", "people", "body") SELECT ${doc('t')}, ${columns('t').join(', ')} FROM "${table}" t`,
];

/**
 * Brings the search index in step with what the kinds say can be found: where a kind is new, or is found by something
 * else now, its part is made anew. Nothing is done where nothing changed.
 * @param writing the connection that writes, before anyone else uses it
 */
export async function keepSearchIndex(writing: DataSource): Promise<void> {
  const rows = await writing.query<{ name: string; sql: string }[]>(
    `SELECT "name", "sql" FROM sqlite_master WHERE "type" = 'trigger' AND "name" LIKE 'search!_%' ESCAPE '!'`,
  );
  const present = new Map(rows.map(({ name, sql }) => [name, sql]));
  for (const kind of OWNED) {
    const { tableName } = writing.getMetadata(kind.entity);
    const wanted = kind.find ? triggersOf(tableName, kind.find) : new Map<string, string>();
    if (!kind.find || [...wanted].every(([name, sql]) => present.get(name) === sql)) continue;
    const drops = [...wanted.keys()].map((name) => `DROP TRIGGER IF EXISTS "${name}"`);
    const statements = [...drops, ...wanted.values(), ...filling(tableName, kind.find)];
    await writing.transaction(async (manager) => {
      for (const statement of statements) await manager.query(statement);
    });
  }
}
