import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Pages of notes, findable; and which attachments a task carries along. */
export class Notes6 implements MigrationInterface {
  name = 'Notes1764000000006';

  async up(runner: QueryRunner): Promise<void> {
    for (const statement of STATEMENTS) await runner.query(statement);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE "task" DROP COLUMN "attachments"');
    await runner.query(`DELETE FROM "search_fts" WHERE rowid IN (SELECT "doc" FROM "search_doc" WHERE "thing" = 'note')`);
    await runner.query(`DELETE FROM "search_doc" WHERE "thing" = 'note'`);
    await runner.query('DROP TABLE "note"');
  }
}

const doc = (row: string) => `(SELECT "doc" FROM "search_doc" WHERE "id" = ${row}."id")`;

/** A table whose rows can be found: what of a row is watched, and what stands in which column of the index. */
interface Searched {
  table: string;
  at: string;
  watched: string;
  columns: (row: string) => string[];
}

/** Statements that put a table into the index and keep it in step. */
function indexed({ table, at, watched, columns }: Searched): string[] {
  return [
    `CREATE TRIGGER "search_${table}_insert" AFTER INSERT ON "${table}" BEGIN
      INSERT INTO "search_doc" ("id", "ownerId", "thing", "at") VALUES (new."id", new."ownerId", '${table}', new."${at}");
      INSERT INTO "search_fts" (rowid, "title", "people", "body") VALUES (${doc('new')}, ${columns('new').join(', ')});
    END`,
    `CREATE TRIGGER "search_${table}_update" AFTER UPDATE OF ${watched} ON "${table}"
      WHEN ${columns('new')
        .map((column, index) => `${column} IS NOT ${columns('old')[index]}`)
        .join(' OR ')} BEGIN
      UPDATE "search_fts" SET "title" = ${columns('new')[0]}, "people" = ${columns('new')[1]}, "body" = ${columns('new')[2]}
      WHERE rowid = ${doc('new')};
    END`,
    `CREATE TRIGGER "search_${table}_delete" AFTER DELETE ON "${table}" BEGIN
      DELETE FROM "search_fts" WHERE rowid = ${doc('old')};
      DELETE FROM "search_doc" WHERE "id" = old."id";
    END`,
    `INSERT INTO "search_doc" ("id", "ownerId", "thing", "at") SELECT "id", "ownerId", '${table}', "${at}" FROM "${table}"`,
    `INSERT INTO "search_fts" (rowid, "title", "people", "body")
      SELECT ${doc('t')}, ${columns('t').join(', ')} FROM "${table}" t`,
  ];
}

const STATEMENTS = [
  'ALTER TABLE "task" ADD COLUMN "attachments" text',
  `CREATE TABLE "note" (
    "id" text PRIMARY KEY NOT NULL,
    "ownerId" text NOT NULL,
    "version" integer NOT NULL,
    "created" integer NOT NULL,
    "changed" integer NOT NULL,
    "title" text NOT NULL,
    "text" text NOT NULL,
    "parentId" text,
    "position" integer NOT NULL,
    "incomingIds" text NOT NULL)`,
  'CREATE INDEX "note_owner" ON "note" ("ownerId", "parentId", "position")',
  ...indexed({
    table: 'note',
    at: 'created',
    watched: '"title", "text"',
    columns: (row) => [`${row}."title"`, `''`, `${row}."text"`],
  }),
];
